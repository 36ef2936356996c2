import { describe, expect, it } from 'vitest';
import { CaseCorrection, NewCaseForm, NewCaseRequest } from './case-card';
import { readEntries, SentCase } from './case-view';
import { CardForm, cardOf } from '../stage/take-in/card-form';
import { placeOf } from '../stage/place';
import { wholeCharacters } from './wording';

// What forms let through, and what the browser takes from a server.

const card = {
  title: ' CR-40, dead ',
  unitModel: 'CR-40',
  serial: '',
  owner: '',
  complaint: '',
  spendingLimit: '',
  promisedOn: '',
  boardId: '',
  unitType: '',
  accessories: '',
  stuckInside: '',
  causeOfDeath: '',
  earlierVisitors: '',
  mediaNote: '',
  batch: '',
  madeIn: '',
  hoursRun: '',
  waitsFor: '',
  waitsKind: '',
} as const;
const sent: SentCase = {
  ...card,
  id: '01890000-0000-7000-8000-000000000001',
  number: 101,
  version: 1,
  spendingLimit: null,
  promisedOn: null,
  boardId: null,
  madeIn: null,
  hoursRun: null,
  codes: [],
  template: [],
  openedAt: '2026-11-27T12:00:00.000Z',
  entries: [],
  unreadable: 0,
};

describe('the card of a case as a form', () => {
  it('is what the server takes: empty fields are nothing, words are trimmed', () => {
    const filled = CardForm.parse(card);
    expect(filled).toMatchObject({
      title: 'CR-40, dead',
      spendingLimit: null,
      promisedOn: null,
      boardId: null,
      madeIn: null,
    });
    expect(CardForm.parse({ ...card, madeIn: ' 1988 ' }).madeIn).toBe(1988);
    expect(CaseCorrection.safeParse({ ...filled, version: 1 }).success).toBe(true);
  });
  it.each([
    ['title', ''],
    ['title', 'x'.repeat(161)],
    ['unitModel', '   '],
    ['spendingLimit', '12.345'],
    ['spendingLimit', '-5'],
    ['spendingLimit', '1e9'],
    ['promisedOn', '2026-02-30'],
    ['promisedOn', 'tomorrow'],
    ['boardId', 'not an id'],
    ['waitsKind', 'weather'],
    ['madeIn', 'long ago'],
    ['madeIn', '88'],
    ['madeIn', '1988.5'],
    ['madeIn', '19880'],
    ['hoursRun', '0'],
    ['hoursRun', 'many'],
    ['hoursRun', '12.5'],
    ['complaint', 'x'.repeat(2001)],
  ])('refuses %s: %j', (field, value) => {
    const read = CardForm.safeParse({ ...card, [field]: value });
    expect(read.success).toBe(false);
    expect(read.error!.issues[0]!.path).toEqual([field]);
    expect(read.error!.issues[0]!.message.length).toBeGreaterThan(3);
  });
  it('begins with what the case has, also where that is of another version', () => {
    const view = { ...sent, board: null, entries: [] };
    expect(CardForm.safeParse(cardOf(view)).success).toBe(true);
    expect(cardOf({ ...view, waitsKind: 'moon' }).waitsKind).toBe('');
  });
});

describe('the form that opens cases', () => {
  const typed = {
    title: 'dead',
    unitModel: 'PD-3',
    serial: '',
    owner: '',
    complaint: '',
    unitType: '',
    batch: '',
    boardId: '',
    alike: '3',
  };
  it('takes a number as text, and gives what the server takes', () => {
    const { alike, ...rest } = NewCaseForm.parse(typed);
    expect(alike).toBe(3);
    expect(NewCaseRequest.safeParse(rest).success).toBe(true);
  });
  it.each(['0', '21', '1.5', 'many', ''])('refuses %j alike', (alike) => {
    expect(NewCaseForm.safeParse({ ...typed, alike }).success).toBe(false);
  });
});

describe('a case as the server sends it', () => {
  it('is read, and entries that this page does not know are counted and not fatal', () => {
    expect(SentCase.safeParse(sent).success).toBe(true);
    const good = { id: sent.id, madeAt: sent.openedAt, body: { kind: 'reopen' } };
    const read = readEntries([good, { ...good, body: { kind: 'of a newer version' } }, null, 7]);
    expect(read.entries).toHaveLength(1);
    expect(read.unreadable).toBe(3);
  });
  it.each(['id', 'number', 'entries', 'codes'])('is refused without %s', (field) => {
    const { [field as keyof SentCase]: _, ...rest } = sent;
    void _;
    expect(SentCase.safeParse(rest).success).toBe(false);
  });
});

describe('addresses', () => {
  it.each([
    ['/case/101/trace', { number: 101, stage: 'trace' }],
    ['/case/101/hand-back/', { number: 101, stage: 'hand-back' }],
    ['/case/101', undefined],
    ['/case/abc/trace', undefined],
    ['/case/101/nothing', undefined],
    ['/case/101/toString', undefined],
    ['/case/1234567890/trace', undefined],
    ['/boards', undefined],
  ])('%s', (path, place) => expect(placeOf(path)).toEqual(place));
});

describe('a text that is cut', () => {
  it.each([
    ['short', 10, 'short'],
    ['a🙂b', 2, 'a'],
    ['a🙂b', 3, 'a🙂'],
    ['🙂', 1, ''],
  ])('%j to %d is %j', (text, most, cut) => {
    expect(wholeCharacters(text, most)).toBe(cut);
    expect(() => encodeURIComponent(wholeCharacters(text, most))).not.toThrow();
  });
});
