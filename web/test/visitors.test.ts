import sharp from 'sharp';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closePools } from '../src/server/reckoning/pool';
import { openCase } from '../src/server/case/service';
import { endLink, linksOf, makeLink, visit, visitedPicture } from '../src/server/case/visitors';
import { openDatabase, type Database } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { isForAnybody } from '../src/server/people/gate';
import { auditLines } from '../src/server/people/people';
import { insertPicture } from '../src/server/picture/repository';
import { develop } from '../src/server/picture/service';
import { ask, at } from './databases';

// A link shows one case, for a while, to whoever has it, and nothing beside it.

const own = `visitors_${process.pid}`;
let db: Database;
let close: () => Promise<void>;
beforeAll(async () => {
  await ask(at('postgres'), `drop database if exists "${own}"`);
  await prepareDatabase(at(own));
  const opened = openDatabase(at(own));
  db = opened.db;
  close = () => opened.pool.end();
});
afterAll(async () => {
  await close();
  await closePools();
  await ask(at('postgres'), `drop database "${own}"`);
});

const value = <T>(done: { ok: true; value: T } | { ok: false; detail: string }): T => {
  if (!done.ok) throw new Error(done.detail);
  return done.value;
};
const DAY = 86_400_000;
const wanted = { forWhom: 'Ilse', days: 10, showsPictures: true, showsCosts: false };
const open = async (title: string) => value(await openCase(db, { title, unitModel: 'CR-40' }));
const tokenOf = (path: string): string => path.replace('/visit/', '');

async function picture(caseId: string): Promise<string> {
  const bytes = await sharp({ create: { width: 40, height: 30, channels: 3, background: 'red' } })
    .jpeg()
    .toBuffer();
  const id = v7();
  await insertPicture(db, { id, caseId, ...(await develop(bytes))! });
  return id;
}

describe('a link for a visitor', () => {
  it('shows its case, is listed without where it leads, and is nowhere in the database', async () => {
    const { id } = await open('the one shown');
    const { link, path } = value(await makeLink(db, id, wanted, 'Mara'));
    expect(path).toMatch(/^\/visit\/[\w-]{43}$/);
    expect(isForAnybody(path)).toBe(true);
    const shown = (await visit(db, tokenOf(path)))!;
    expect(shown.paper.title).toBe('the one shown');
    expect(await linksOf(db, id)).toEqual([link]);
    expect(JSON.stringify(await linksOf(db, id))).not.toContain(tokenOf(path));
    const { rows } = await ask(at(own), 'select to_jsonb(l)::text as said from visitor_link l');
    for (const { said } of rows) expect(String(said)).not.toContain(tokenOf(path));
    expect((await auditLines(db))[0]).toMatchObject({ who: 'Mara' });
  });
  it('one that was made up, cut short, has run out or was ended shows nothing, all alike', async () => {
    const { id } = await open('for a while');
    const { link, path } = value(await makeLink(db, id, wanted, 'Mara'));
    const token = tokenOf(path);
    const later = new Date(Date.now() + 10 * DAY + 1000);
    expect(await visit(db, token, new Date(Date.now() + 9 * DAY))).toBeDefined();
    expect(await visit(db, token, later)).toBeUndefined();
    expect(await linksOf(db, id, later)).toEqual([]);
    for (const other of ['', token.slice(1), `${token}x`, 'A'.repeat(43), "' or 1=1 --"])
      expect(await visit(db, other)).toBeUndefined();
    value(await endLink(db, id, link.id, 'Mara'));
    expect(await visit(db, token)).toBeUndefined();
    expect(await endLink(db, id, link.id, 'Mara')).toMatchObject({ ok: false, why: 'missing' });
  });
  it('does not say that it waits for what is here by now', async () => {
    const { id } = await open('waits');
    const { path } = value(await makeLink(db, id, wanted, 'Mara'));
    const said = async () => JSON.stringify((await visit(db, tokenOf(path)))!.paper);
    await ask(
      at(own),
      `update repair_case set waits_for = 'a belt', waits_kind = 'part' where id = '${id}'`,
    );
    expect(await said()).toContain('It waits for a part.');
    await ask(at(own), `update repair_case set arrived = 'bin B2' where id = '${id}'`);
    expect(await said()).toContain('It is being worked on.');
    expect(await said()).not.toContain('B2');
  });
  it('is ended from its own case alone, and made for one that there is', async () => {
    const [one, two] = [await open('one'), await open('two')];
    const { link, path } = value(await makeLink(db, one.id, wanted, 'Mara'));
    expect(await endLink(db, two.id, link.id, 'Mara')).toMatchObject({ ok: false });
    expect(await visit(db, tokenOf(path))).toBeDefined();
    expect(await makeLink(db, v7(), wanted, 'Mara')).toMatchObject({ ok: false, why: 'missing' });
  });
  it('shows pictures of its case where it was made so, and no others', async () => {
    const [one, two] = [await open('with pictures'), await open('another')];
    const [mine, theirs] = [await picture(one.id), await picture(two.id)];
    const made = value(await makeLink(db, one.id, wanted, 'Mara'));
    const bare = value(await makeLink(db, one.id, { ...wanted, showsPictures: false }, 'Mara'));
    const token = tokenOf(made.path);
    expect((await visit(db, token))!.pictures).toEqual([mine]);
    expect((await visitedPicture(db, token, mine))!.image!.length).toBeGreaterThan(100);
    expect(await visitedPicture(db, token, theirs)).toBeUndefined();
    expect((await visit(db, tokenOf(bare.path)))!.pictures).toEqual([]);
    expect(await visitedPicture(db, tokenOf(bare.path), mine)).toBeUndefined();
  });
  it('leads to what it shows alone: no other path is anybody’s for its sake', () => {
    const token = 'A'.repeat(43);
    for (const path of [
      `/visit/${token}/`,
      `/visit/${token}/../api/cases`,
      `/visit/${token}/x.jpg`,
      `/visit/${token}/${v7()}.jpg/x`,
      '/visit/short',
      `/visits/${token}`,
      `/api/visit/${token}`,
    ])
      expect(isForAnybody(path), path).toBe(false);
    expect(isForAnybody(`/visit/${token}/${v7()}.jpg`)).toBe(true);
  });
});
