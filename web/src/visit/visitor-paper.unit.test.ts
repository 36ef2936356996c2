import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { CaseView } from '../case/case-view';
import { EntryBody, type Entry } from '../case/entry';
import { playJournal } from '../case/journal';
import { KINDS } from '../case/kinds';
import { visitorPaper } from './visitor-paper';

// What somebody outside gets to see: what is let through, and nothing that the workshop wrote for
// itself, in any kind of entry.

const { board } = readSheetLines('J1 9V in: 1=VIN 2=0\nC1 VIN 0 47u 16V\nR1 VIN 0 1k', LIBRARY);
const index = indexBoard(board);
const SECRET = 'our own business';
let clock = Date.now() - 86_400_000;
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date((clock += 60_000)).toISOString(),
  body,
  by: `Mara ${SECRET}`,
});

const view = {
  id: v7(),
  number: 1044,
  version: 1,
  title: 'cloth drive, stands still',
  unitModel: 'CR-40',
  serial: '77',
  owner: `Ilse, ${SECRET}`,
  complaint: 'it stopped',
  spendingLimit: '40.00',
  promisedOn: '2026-12-24',
  waitsFor: `a cheque, ${SECRET}`,
  waitsKind: 'owner',
  unitType: '',
  accessories: 'a crank',
  stuckInside: '',
  causeOfDeath: SECRET,
  earlierVisitors: SECRET,
  mediaNote: '',
  batch: SECRET,
  madeIn: null,
  hoursRun: null,
  codes: [],
  template: [],
  openedAt: new Date(clock).toISOString(),
  board: { id: v7(), content: board },
  entries: [],
  unreadable: 0,
} as CaseView;

/** An entry of a kind with the secret in each of its texts; undefined where it has to have none. */
function withSecret(kind: EntryBody['kind']): EntryBody | undefined {
  const option = EntryBody.options.find((one) => one.shape.kind.value === kind)!;
  const texts = Object.keys(option.shape).filter((name) => name !== 'kind');
  const known: Record<string, unknown> = {
    setup: 'on', quantity: 'voltage', at: 'VIN', to: '0', value: kind === 'reading' ? 8.2 : SECRET, ref: 'C1', entry: v7(),
    probability: 0.7, block: 'lens', cures: 0.3, failedAt: 'spin', tries: 1, conditions: [], stage: 'spin',
  }; // prettier-ignore
  const read = option.safeParse({
    kind,
    ...Object.fromEntries(texts.map((name) => [name, known[name] ?? SECRET])),
  });
  return read.success ? read.data : undefined;
}
const filled = Object.keys(KINDS).flatMap((kind) => withSecret(kind as EntryBody['kind']) ?? []);

const paperOf = (bodies: readonly EntryBody[], showsCosts = false, own = view) => {
  const entries = bodies.map(entry);
  const journal = playJournal(entries, index);
  const of = { view: { ...own, entries }, journal, index, model: undefined, proof: [] };
  return visitorPaper({ ...of, kept: [], usualMinutes: null }, { showsCosts });
};
const closing: EntryBody = { kind: 'close', note: 'keep it dry', price: 23 };

describe('what a link shows', () => {
  it('of an open case nothing that was written in it, in whatever kind of entry', () => {
    expect(filled.length).toBeGreaterThan(8);
    const fitted = filled.filter(({ kind }) => kind !== 'fitted' && kind !== 'close');
    const said = JSON.stringify(paperOf(fitted));
    expect(said).not.toContain(SECRET);
    expect(said).toContain('it stopped');
    expect(said).toContain('It waits for an answer of its owner.');
    expect(said).toContain('24 December 2026');
  });
  it('never says that anything is proven, or goes back as it is, while the case is open', () => {
    const said = JSON.stringify(paperOf([])).toLowerCase();
    expect(said).toContain('nothing of it is proven');
    expect(said).not.toContain('goes back');
    expect(said).not.toContain('guarantee');
  });
  it('says what was replaced', () => {
    const fitted = {
      kind: 'fitted', ref: 'C1', value: '47u 25V', polarityChecked: true, note: SECRET,
    } as EntryBody; // prettier-ignore
    const said = JSON.stringify(paperOf([fitted]));
    expect(said).toContain('C1 replaced by 47u 25V');
    expect(said).not.toContain(SECRET);
  });
  it('of a closed case the page of its owner, its costs only where they were let through', () => {
    const titles = (showsCosts: boolean) =>
      paperOf([closing], showsCosts).sections.map(({ title }) => title);
    expect(titles(false)).not.toContain('Costs');
    expect(titles(true)).toContain('Costs');
    const said = JSON.stringify(paperOf([closing], true));
    expect(said).not.toContain(SECRET);
    expect(said).toContain('The proof is not complete');
  });
});
