import type { APIRoute } from 'astro';
import sharp from 'sharp';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { EntryBody } from '../src/case/entry';
import { playJournal } from '../src/case/journal';
import { blockEvidence, unitBelief, unitModelOf } from '../src/case/unit';
import { POST as sendPicture } from '../src/pages/api/cases/[id]/pictures';
import { GET as readPicture } from '../src/pages/api/pictures/[id]';
import { POST as addCode } from '../src/pages/api/units/codes';
import { importBoard } from '../src/server/board/service';
import { docketPage } from '../src/server/case/docket';
import { addEntry, caseView, correctCase, openCase } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';

const { db, pool } = openDatabase(process.env.DATABASE_URL!);
beforeAll(() => prepareDatabase(process.env.DATABASE_URL!, { demo: true }));
afterAll(() => pool.end());

const step = (more: object): EntryBody => ({
  kind: 'step',
  step: {
    what: 'fastener',
    of: 'lid',
    name: 'M3',
    count: 1,
    way: '',
    frees: [],
    forTest: false,
    note: '',
    ...more,
  },
});

async function newCase(
  fields: object = {},
): Promise<{ id: string; file: (body: EntryBody, id?: string) => ReturnType<typeof addEntry> }> {
  const opened = await openCase(db, { title: 'own case', unitModel: 'own unit', ...fields });
  if (!opened.ok) throw new Error(opened.detail);
  const { id } = opened.value;
  return {
    id,
    file: (body, entryId = v7()) =>
      addEntry(db, id, { id: entryId, madeAt: new Date().toISOString(), body }),
  };
}

async function post(
  route: APIRoute,
  path: string,
  body: BodyInit,
  params: Record<string, string> = {},
  type = 'application/json',
): Promise<{ status: number; detail: string }> {
  const url = new URL(path, 'http://localhost/');
  const request = new Request(url, { method: 'POST', headers: { 'content-type': type }, body });
  const response = await route({
    request,
    params,
    url,
    locals: {},
  } as unknown as Parameters<APIRoute>[0]);
  return {
    status: response.status,
    detail: String(((await response.json()) as { detail?: string }).detail ?? ''),
  };
}

describe('pictures of a case', () => {
  const send = async (
    caseId: string,
    file: Uint8Array,
    id = v7(),
  ): Promise<{ status: number; detail: string; id: string }> => ({
    ...(await post(
      sendPicture,
      `/?id=${id}`,
      file as unknown as BodyInit,
      { id: caseId },
      'application/octet-stream',
    )),
    id,
  });
  const read = (id: string, query = ''): Promise<Response> =>
    Promise.resolve(
      readPicture({
        params: { id },
        url: new URL(`http://localhost/${query}`),
      } as unknown as Parameters<APIRoute>[0]),
    ) as Promise<Response>;

  it('are kept upright and no larger than needed, with a small one, whatever the camera sent', async () => {
    const { id } = await newCase();
    const camera = await sharp({
      create: { width: 3600, height: 2000, channels: 3, background: '#284' },
    })
      .withExif({ IFD0: { ImageDescription: 'street and number' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const sent = await send(id, camera);
    expect(sent.status).toBe(201);
    expect((await send(id, camera, sent.id)).status).toBe(201);
    const [whole, small] = [
      Buffer.from(await (await read(sent.id)).arrayBuffer()),
      Buffer.from(await (await read(sent.id, '?small')).arrayBuffer()),
    ];
    expect(await sharp(whole).metadata()).toMatchObject({
      format: 'jpeg',
      width: 1333,
      height: 2400,
    });
    expect((await sharp(whole).metadata()).exif).toBeUndefined();
    expect((await sharp(small).metadata()).height).toBe(360);
  });

  it('that are none, or are far too large, are refused with what was expected', async () => {
    const { id } = await newCase();
    expect(await send(id, new TextEncoder().encode('%PDF-1.7 not a picture'))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('not a picture'),
    });
    expect(
      await send(
        id,
        await sharp({ create: { width: 9, height: 9, channels: 3, background: '#fff' } })
          .gif()
          .toBuffer(),
      ),
    ).toMatchObject({ status: 422 });
    expect(await send(id, new Uint8Array(30_000_000))).toMatchObject({
      status: 413,
      detail: expect.stringContaining('larger than 25 MB'),
    });
    expect(await send(v7(), new Uint8Array(9))).toMatchObject({ status: 404 });
    expect((await read(v7())).status).toBe(404);
  });
});

describe('the gate', () => {
  it('keeps probes off a live board and hands out of the case until its hazards are acknowledged, by name', async () => {
    const board = await importBoard(
      db,
      'own.cir',
      'own\nV1 VIN 0 9\nXF1 VIN VM FUSE\nR1 VM 0 1k\n.end',
    );
    const { id, file } = await newCase({
      unitType: 'stepper-carriage',
      boardId: board.ok ? board.id : null,
    });
    const live: EntryBody = {
      kind: 'reading',
      setup: 'on',
      quantity: 'voltage',
      at: 'VM',
      to: '',
      value: 9,
      typed: 'vm 9',
    };
    const ohms: EntryBody = { ...live, setup: 'off', quantity: 'resistance', value: 1000 };
    expect(await file(live)).toMatchObject({
      ok: false,
      detail: expect.stringMatching(/locked until Make safe.*mains.*local codes/),
    });
    expect(await file(step({}))).toMatchObject({
      ok: false,
      detail: expect.stringContaining('stored charge'),
    });
    expect(await file(ohms)).toMatchObject({
      ok: false,
      detail: expect.stringMatching(/below 2 V.*line-filter/),
    });
    expect(await file({ kind: 'acknowledge', hazard: 'no-such', who: 'T.' })).toMatchObject({
      ok: false,
    });
    expect(
      await file({ kind: 'acknowledge', hazard: 'unit-mains', who: 'T.', notHere: true }),
    ).toMatchObject({
      ok: false,
      detail: expect.stringContaining('known to be there'),
    });
    const view = (await caseView(db, id))!;
    const model = unitModelOf(view.unitType, view.codes)!;
    for (const { name } of model.hazards!)
      expect(
        await file({ kind: 'acknowledge', hazard: `unit-${name}`, who: 'T. Quill' }),
      ).toMatchObject({ ok: true });
    expect(await file(live)).toMatchObject({ ok: true });
    // Acknowledged is not discharged.
    expect(await file(step({}))).toMatchObject({
      ok: false,
      detail: expect.stringMatching(/below 60 V since the power was last on/),
    });
    expect(await file({ kind: 'residual', hazard: 'unit-mains', volt: 0 })).toMatchObject({
      ok: false,
    });
    expect(await file({ kind: 'residual', hazard: 'unit-line-filter', volt: 30 })).toMatchObject({
      ok: true,
    });
    expect(await file(step({}))).toMatchObject({ ok: true });
    expect(await file(ohms)).toMatchObject({
      ok: false,
      detail: expect.stringContaining('below 2 V'),
    });
    expect(await file({ kind: 'residual', hazard: 'unit-line-filter', volt: 0.4 })).toMatchObject({
      ok: true,
    });
    expect(await file(ohms)).toMatchObject({ ok: true });
    // Power charges it again.
    expect(await file(live)).toMatchObject({ ok: true });
    expect(await file(ohms)).toMatchObject({ ok: false });
    expect(await file(step({}))).toMatchObject({ ok: false });
    await file({ kind: 'residual', hazard: 'unit-line-filter', volt: 0.4 });
    // Something seen later is another hazard: the case locks again for what it concerns.
    await file({ kind: 'seen', what: 'leak', text: '', sizeMm: 3, certainty: 1 });
    expect(await file(step({}))).toMatchObject({
      ok: false,
      detail: expect.stringContaining('chemical'),
    });
    expect(await file(live)).toMatchObject({ ok: true });
  });
  it('keeps power off while parts are off the board, and after a repair until the ohms were read; a reason overrules it and is kept', async () => {
    const board = await importBoard(
      db,
      'own.cir',
      'own\nV1 VIN 0 9\nXF1 VIN VM FUSE\n*@ F1 rating=T1A\nR1 VM 0 1k\nC1 VM 0 47u\n.end',
    );
    const { file } = await newCase({ boardId: board.ok ? board.id : null });
    const live: EntryBody = {
      kind: 'reading',
      setup: 'on',
      quantity: 'voltage',
      at: 'VM',
      to: '',
      value: 9,
      typed: 'vm 9',
    };
    const ohms = (value: number): EntryBody => ({
      ...live,
      setup: 'off',
      quantity: 'resistance',
      value,
    });
    const start: EntryBody = {
      kind: 'start',
      failedAt: null,
      tries: 1,
      sounds: '',
      conditions: [],
    };
    await file({ kind: 'removed', ref: 'C1', value: '', note: '' });
    for (const body of [live, start])
      expect(await file(body)).toMatchObject({
        ok: false,
        detail: expect.stringMatching(/C1 is off the board/),
      });
    expect(await file({ kind: 'powerAnyway', refs: [], reason: 'only R1 matters' })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('C1'),
    });
    expect(
      await file({ kind: 'powerAnyway', refs: ['C1'], reason: 'only R1 matters' }),
    ).toMatchObject({ ok: true });
    expect(await file(live)).toMatchObject({ ok: true });
    // The next line of the ledger ends it.
    await file({ kind: 'fitted', ref: 'C1', value: '47u', polarityChecked: true, note: '' });
    expect(await file(live)).toMatchObject({
      ok: false,
      detail: expect.stringMatching(/before the first power, read the ohms from VM to ground/),
    });
    expect(await file(ohms(3))).toMatchObject({ ok: true });
    expect(await file(live)).toMatchObject({
      ok: false,
      detail: expect.stringContaining('does not read what the good board shows'),
    });
    expect(await file(ohms(1000))).toMatchObject({ ok: true });
    expect(await file(live)).toMatchObject({ ok: true });
    expect(await file({ kind: 'removed', ref: 'F1', value: '', note: '' })).toMatchObject({
      ok: true,
    });
    expect(
      await file({
        kind: 'fitted',
        ref: 'F1',
        value: 'F10A',
        polarityChecked: false,
        note: 'all there was',
      }),
    ).toMatchObject({
      ok: false,
      detail: expect.stringContaining('more than the 1 A'),
    });
    await file(ohms(2));
    expect(
      await file({ kind: 'fitted', ref: 'F1', value: 'T1A', polarityChecked: false, note: '' }),
    ).toMatchObject({
      ok: false,
      detail: expect.stringContaining('why it blew'),
    });
  });
  it('a kill check that failed asks for a decision; given up, a case closes unproven', async () => {
    const { id, file } = await newCase({ unitType: 'flexible-disk-unit' });
    const model = unitModelOf('flexible-disk-unit', [])!;
    const { title, block } = model.killChecks[0]!;
    await file({ kind: 'symptom', text: 'read errors' });
    await file({ kind: 'check', title, block, good: false, kill: true });
    const journal = async () => playJournal((await caseView(db, id))!.entries, undefined);
    expect((await journal()).undecided).toHaveLength(1);
    expect(await file({ kind: 'close', note: '' })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('nothing was decided'),
    });
    expect(
      (await docketPage(db, { most: 500 })).lines.find(({ title: own }) => own === 'own case'),
    ).toBeDefined();
    expect(
      await file({ kind: 'decision', course: 'give-up', reason: 'heads are not to be had' }),
    ).toMatchObject({ ok: true });
    expect((await journal()).undecided).toHaveLength(0);
    expect(await file({ kind: 'close', note: 'board kept as a donor' })).toMatchObject({
      ok: true,
    });
  });
});

describe('opened up', () => {
  it('counts what goes back, stops what does not fit, and keeps a case open while pieces are off', async () => {
    const { id, file } = await newCase({ unitModel: 'own opened unit' });
    const [screws, other] = [v7(), v7()];
    await file(step({ count: 4, lengthMm: 6 }), screws);
    await file(step({ what: 'lift', name: '', frees: ['F1'] }), other);
    expect(await file({ kind: 'back', step: screws, count: 1, lengthMm: 10 })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('comes through'),
    });
    expect(await file({ kind: 'back', step: screws, count: 5, lengthMm: 6 })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('too many'),
    });
    expect(await file({ kind: 'back', step: screws, count: 3, lengthMm: 6 })).toMatchObject({
      ok: true,
    });
    expect(await file({ kind: 'close', note: '' })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('2 pieces are still off'),
    });
    expect(await file({ kind: 'retract', entry: screws })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('back on'),
    });
    expect(
      playJournal((await caseView(db, id))!.entries, undefined).steps.map(({ back }) => back),
    ).toEqual([3, 0]);
    // The next unit of this model knows how the last one came apart.
    const next = await newCase({ unitModel: 'own opened unit' });
    expect((await caseView(db, next.id))!.template.map(({ what }) => what)).toEqual([
      'fastener',
      'lift',
    ]);
  });
});

describe('what is known of the unit', () => {
  it('a code of the workshop is understood from then on, and one for no stage is refused', async () => {
    const { id } = await newCase({ unitType: 'tape-transport' });
    const send = (more: object) =>
      post(
        addCode,
        '/',
        JSON.stringify({
          id: v7(),
          unitType: 'tape-transport',
          unitModel: 'own unit',
          code: '2-2',
          stage: 'lock',
          meaning: 'tachometer silent',
          ...more,
        }),
      );
    expect(await send({ stage: 'orbit' })).toMatchObject({
      status: 422,
      detail: expect.stringContaining('expected one of supply'),
    });
    expect(await send({ unitType: 'teapot' })).toMatchObject({ status: 404 });
    expect((await send({})).status).toBe(201);
    const view = (await caseView(db, id))!;
    expect(unitModelOf(view.unitType, view.codes)!.codes).toContainEqual({
      code: '2-2',
      stage: 'lock',
      meaning: 'tachometer silent',
    });
    // Another unit of the same kind blinks other codes.
    const other = await newCase({ unitType: 'tape-transport', unitModel: 'another unit' });
    expect((await caseView(db, other.id))!.codes).toEqual([]);
  });

  it('what a condition explains does not count, what was cured does, and a trial never made is refused', async () => {
    const { id, file } = await newCase({ unitType: 'flexible-disk-unit' });
    const start = (failedAt: string | null, ...conditions: string[]): EntryBody => ({
      kind: 'start',
      failedAt,
      tries: 1,
      sounds: '',
      conditions,
    });
    await file(start('host', 'no-host'));
    const play = async () => playJournal((await caseView(db, id))!.entries, undefined);
    const model = unitModelOf('flexible-disk-unit', [])!;
    expect(blockEvidence(model, await play()).evidence.map(({ type }) => type)).toEqual(['trial']);
    expect(await file(start('orbit'))).toMatchObject({
      ok: false,
      detail: expect.stringContaining('no stage orbit'),
    });
    expect(
      await file({
        kind: 'trial',
        title: 'x',
        exercised: ['cable'],
        passed: 0,
        failed: 0,
        note: '',
      }),
    ).toMatchObject({ ok: false });
    await file(start('read'));
    const before = unitBelief(model, await play()).byBlock.find(
      ({ block }) => block === 'head-dirt',
    )!.probability;
    await file({
      kind: 'aid',
      name: 'clean-heads',
      title: 'clean',
      block: 'head-dirt',
      cures: 0.8,
    });
    await file(start(null));
    const after = unitBelief(model, await play()).byBlock.find(
      ({ block }) => block === 'head-dirt',
    )!.probability;
    expect(after).toBeGreaterThan(before);
    expect(after).toBeGreaterThan(0.7);
  });

  it('a card that is corrected in one word keeps the others', async () => {
    const { id } = await newCase({ accessories: 'mains lead', batch: 'shelf 3' });
    await correctCase(db, id, { version: 1, waitsFor: 'a belt', waitsKind: 'part' });
    expect(await caseView(db, id)).toMatchObject({
      accessories: 'mains lead',
      batch: 'shelf 3',
      waitsFor: 'a belt',
      waitsKind: 'part',
    });
  });
});

it('the docket goes by urgency and says which timer is due', async () => {
  const { id, file } = await newCase({ title: 'timer case' });
  const timer = v7();
  await file({ kind: 'timer', what: 'bleach', title: 'cover', hours: 6 }, timer);
  await file({ kind: 'daylight', timer, hours: 4 });
  const { number } = (await caseView(db, id))!;
  const timers = async () =>
    (await docketPage(db)).timers.filter((running) => running.number === number);
  expect(await timers()).toMatchObject([{ daylightHours: 4, due: false, endsAt: null }]);
  await file({ kind: 'daylight', timer, hours: 3 });
  const lines = (await docketPage(db, { most: 500 })).lines;
  expect(lines[0]).toMatchObject({
    title: 'timer case',
    reason: 'a timer has run out',
  });
  await file({ kind: 'timerDone', timer });
  expect(await timers()).toEqual([]);
  expect(await file({ kind: 'daylight', timer, hours: 1 })).toMatchObject({ ok: false });
  expect((await caseView(db, id))!.entries.length).toBe(4);
});
