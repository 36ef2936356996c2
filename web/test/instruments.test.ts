import { STANDARD_METER } from '@hanzai/core/instrument';
import type { APIRoute } from 'astro';
import { v7 } from 'uuid';
import { beforeAll, describe, expect, it } from 'vitest';
import { EvidenceFile } from '../src/case/evidence';
import { GET as evidence } from '../src/pages/api/cases/[id]/evidence.json';
import { POST as addEntry } from '../src/pages/api/cases/[id]/entries';
import { POST as openCase } from '../src/pages/api/cases/index';
import { PATCH as change } from '../src/pages/api/instruments/[id]';
import { GET as list, POST as keep } from '../src/pages/api/instruments/index';
import { POST as say } from '../src/pages/api/instruments/say';
import { prepareDatabase } from '../src/server/db/prepare';

beforeAll(() => prepareDatabase(process.env.DATABASE_URL!, { demo: true }));

async function call(route: APIRoute, body?: unknown, params: Record<string, string> = {}) {
  const request = new Request('http://localhost/', {
    method: body === undefined ? 'GET' : 'POST',
    ...(body === undefined
      ? {}
      : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  const response = await route({
    request,
    params,
    locals: {},
  } as unknown as Parameters<APIRoute>[0]);
  return { status: response.status, json: (await response.json()) as Record<string, unknown> };
}
const names = async (): Promise<string[]> =>
  ((await call(list)).json as unknown as { name: string }[]).map(({ name }) => name);
const meter = { id: v7(), name: 'yellow hand meter', kinds: ['voltage'], profile: STANDARD_METER };

describe('instruments of the workshop', () => {
  it('are kept, changed under their id, set aside and taken back', async () => {
    expect((await call(keep, meter)).status).toBe(201);
    expect((await call(keep, { ...meter, name: 'yellow meter' })).status).toBe(201);
    expect(await names()).toEqual(['yellow meter']);
    expect((await call(change, { archived: true }, { id: meter.id })).status).toBe(200);
    expect(await names()).toEqual([]);
    await call(change, { archived: false }, { id: meter.id });
    expect(await names()).toEqual(['yellow meter']);
    expect((await call(change, { archived: true }, { id: v7() })).status).toBe(404);
  });
  it.each([
    ['no name', { ...meter, name: ' ' }],
    ['no use', { ...meter, kinds: [] }],
    ['a use that is none', { ...meter, kinds: ['smell'] }],
    ['a profile that lacks something', { ...meter, profile: {} }],
    [
      'an accuracy beyond all reason',
      { ...meter, profile: { ...STANDARD_METER, volts: { share: 9, counts: 1 } } },
    ],
    ['no id', { ...meter, id: 'x' }],
  ])('are refused with %s', async (_, body) => {
    expect((await call(keep, body)).status).toBe(422);
  });
  it('are spoken to only where that is allowed, in one line', async () => {
    const said = { host: '198.51.100.7', port: 5025, message: '*IDN?', isQuery: true };
    expect((await call(say, said)).status).toBe(403);
    expect((await call(say, { ...said, host: '127.0.0.1', port: 1024 })).status).toBe(502);
    expect((await call(say, { ...said, message: '*IDN?\nBENC:POW ON' })).status).toBe(422);
    expect((await call(say, { ...said, port: 0 })).status).toBe(422);
  });
});

describe('the evidence of a case', () => {
  it('is a file of its schema, with what stands and nothing that was taken back', async () => {
    const id = String((await call(openCase, { title: 'evidence', unitModel: 'lamp' })).json.id);
    const put = async (body: unknown): Promise<string> => {
      const entry = { id: v7(), madeAt: new Date().toISOString(), body };
      expect((await call(addEntry, entry, { id })).status).toBe(201);
      return entry.id;
    };
    await put({ kind: 'symptom', text: 'stays dark' });
    const gone = await put({ kind: 'finding', text: 'nothing' });
    await put({ kind: 'leadZero', ohm: 0.03 });
    await put({ kind: 'retract', entry: gone });
    const file = EvidenceFile.parse((await call(evidence, undefined, { id })).json);
    expect(file.entries.map(({ body }) => body.kind)).toEqual(['symptom', 'leadZero']);
    expect(file.case.title).toBe('evidence');
    expect((await call(evidence, undefined, { id: v7() })).status).toBe(404);
  });
});
