import { demoBoard } from '@hanzai/data/demo';
import { indexBoard } from '@hanzai/core/board';
import { resolveMeasurement } from '@hanzai/core/instrument';
import { seeded, type Random } from '@hanzai/core/practice';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { Entry as EntrySchema, type Entry, type EntryBody } from './entry';
import { predictorOf } from './good-board';
import { playJournal, type Journal } from './journal';
import { kindOf } from './kinds';
import { caseProgress } from './progress';
import { PENDING, readAnswers, solveHere, writeAnswers } from './solved';
import { CaseSummary, summaryOf } from './summary';
import { entryObjection } from './rules';
import { caseHazards, unitModelOf } from './unit';

// Cases filled by somebody who types anything: whatever the rules let through has to leave a case
// that adds up. Beside each walk a book is kept that knows nothing of journals: a set of parts that
// are off, and a list of what stands.

const index = indexBoard(demoBoard('cr40'));
const model = unitModelOf('optical-disc-reader', [])!;
const REFS = ['F1', 'C1', 'C3', 'L1', 'J1', 'R2', 'X9'];
const NETS = ['VM', 'P9F', 'VSENSE', 'VDRV', 'P5', 'NOWHERE'];

const pick = <T>(random: Random, list: readonly T[]): T =>
  list[Math.floor(random() * list.length)]!;

/** Ohms to ground of the good board; anything for a point that it does not have. */
function goodOhms(at: string): number {
  const m = resolveMeasurement(index, 'off', 'resistance', at, '');
  return m.ok ? Math.min(1e7, predictorOf(index).healthy(m.measurement).value) : 1;
}

/** An entry as somebody might make it, sense or not. */
function anything(random: Random, standing: readonly Entry[]): EntryBody {
  const ref = pick(random, REFS);
  const at = pick(random, NETS);
  const count = 1 + Math.floor(random() * 4);
  const kinds: readonly (() => EntryBody)[] = [
    () => ({ kind: 'symptom', text: 'no movement' }),
    () => ({
      kind: 'reading',
      setup: 'on',
      quantity: 'voltage',
      at,
      to: '',
      value: random() * 9,
      typed: at,
    }),
    // Mostly what a good board shows, so that power is not locked for good after a repair.
    () => ({
      kind: 'reading',
      setup: 'off',
      quantity: 'resistance',
      at,
      to: '',
      value: random() < 0.8 ? goodOhms(at) : random() * 5000,
      typed: at,
    }),
    () => ({
      kind: 'powerAnyway',
      refs: random() < 0.5 ? REFS : [],
      reason: 'only the logic is to be read',
    }),
    () => ({ kind: 'condemn', ref, probability: 0.9, reason: '' }),
    () => ({ kind: 'acquit', ref }),
    () => ({ kind: 'removed', ref, value: '', note: '' }),
    () => ({
      kind: 'fitted',
      ref,
      value: random() < 0.2 ? '' : 'as before',
      polarityChecked: random() < 0.8,
      note: '',
    }),
    () => ({ kind: 'leftOut', ref, note: random() < 0.5 ? '' : 'the owner wants it so' }),
    () => ({ kind: 'answer', step: 'a step', passed: random() < 0.5 }),
    () => ({ kind: 'close', note: '' }),
    () => ({ kind: 'reopen' }),
    () => ({
      kind: 'acknowledge',
      hazard: pick(random, [
        ...caseHazards(model, index, playJournal(standing, index)).map(({ key }) => key),
        'none',
      ]),
      who: 'Isbet',
      ...(random() < 0.7 ? { notHere: true } : {}),
    }),
    () => ({
      kind: 'acknowledge',
      hazard: pick(
        random,
        caseHazards(model, index, playJournal(standing, index)).map(({ key }) => key),
      ),
      who: 'Isbet',
    }),
    () => ({
      kind: 'residual',
      hazard: pick(random, ['unit-line-filter', 'unit-switcher-reservoir', 'none']),
      volt: random() < 0.7 ? 0.4 : 90,
    }),
    () => ({
      kind: 'step',
      step: {
        what: 'fastener',
        of: 'lid',
        name: 'M3 pan',
        lengthMm: 6,
        count,
        way: '',
        frees: [],
        forTest: false,
        note: '',
      },
    }),
    () => ({ kind: 'back', step: pick(random, [...standing, { id: v7() }]).id, count }),
    () => ({ kind: 'retract', entry: pick(random, [...standing, { id: v7() }]).id }),
    () => ({
      kind: 'start',
      failedAt: pick(random, [...model.stages.map(({ name }) => name), 'dance', null]),
      tries: 1,
      sounds: '',
      conditions: [],
    }),
    () => ({ kind: 'timer', what: 'soak', title: 'hub in alcohol', hours: 2 }),
    () => ({ kind: 'timerDone', timer: pick(random, [...standing, { id: v7() }]).id }),
  ];
  return pick(random, kinds)();
}

/** What is known of a case without its journal. */
class Book {
  readonly off = new Set<string>();
  readonly stays = new Set<string>();
  piecesOff = 0;
  closed = false;
  readonly acknowledged = new Set<string>();
  readonly notHere = new Set<string>();
  /** Volts last read on each charge since the power was last on. */
  readonly volts = new Map<string, number>();
  /** A repair after which no rail was read yet; and whether power is meant all the same. */
  unread = false;
  meant = false;

  /** Adds up what stands. */
  static of(entries: readonly Entry[]): Book {
    const book = new Book();
    const gone = new Set(
      entries.flatMap(({ body }) => (body.kind === 'retract' ? [body.entry] : [])),
    );
    for (const { id, body } of entries) {
      if (gone.has(id)) continue;
      if (body.kind === 'removed') book.off.add(body.ref);
      if (body.kind === 'fitted') book.off.delete(body.ref);
      if (body.kind === 'removed' || body.kind === 'fitted') book.stays.delete(body.ref);
      if (body.kind === 'leftOut') book.stays.add(body.ref);
      if (body.kind === 'step') book.piecesOff += body.step.count;
      if (body.kind === 'back') book.piecesOff -= body.count;
      if (body.kind === 'close') book.closed = true;
      if (body.kind === 'reopen') book.closed = false;
      if (body.kind === 'acknowledge') book.acknowledged.add(body.hazard);
      if (body.kind === 'acknowledge' && body.notHere) book.notHere.add(body.hazard);
      if (body.kind === 'residual') book.volts.set(body.hazard, body.volt);
      if (body.kind === 'start' || (body.kind === 'reading' && body.setup === 'on'))
        book.volts.clear();
      if (body.kind === 'fitted' || body.kind === 'leftOut') book.unread = true;
      if (body.kind === 'fitted' || body.kind === 'leftOut' || body.kind === 'removed')
        book.meant = false;
      if (body.kind === 'powerAnyway') book.meant = true;
      if (body.kind === 'reading' && body.quantity === 'resistance') book.unread = false;
    }
    return book;
  }

  /** Whether the rules may have let this through. */
  allows(body: EntryBody): boolean {
    if (this.closed) return body.kind === 'reopen';
    if (body.kind === 'removed') return !this.off.has(body.ref) && body.ref !== 'X9';
    if (body.kind === 'fitted') return this.off.has(body.ref) && body.value !== '';
    if (body.kind === 'leftOut') return this.off.has(body.ref) && body.note !== '';
    if (body.kind === 'answer') return [...this.off].every((ref) => this.stays.has(ref));
    if (body.kind === 'close')
      return this.piecesOff === 0 && [...this.off].every((ref) => this.stays.has(ref));
    if (body.kind === 'back') return body.count <= this.piecesOff;
    if (body.kind === 'start' || (body.kind === 'reading' && body.setup === 'on')) {
      // Power: nothing is missing and something was read since the repair, or it is meant.
      if (!this.meant && (this.unread || ![...this.off].every((ref) => this.stays.has(ref))))
        return false;
    }
    if (body.kind === 'powerAnyway')
      return [...this.off].every((ref) => this.stays.has(ref) || body.refs.includes(ref));
    if (body.kind === 'residual') return body.hazard !== 'none';
    if (body.kind === 'reading') return body.at !== 'NOWHERE';
    return body.kind !== 'reopen';
  }
}

interface Walked {
  readonly entries: readonly Entry[];
  readonly refused: number;
  readonly kinds: ReadonlySet<string>;
}

/**
 * Two walks in three begin where every hazard was answered: what only a look tells is not here, or
 * (one in three of all) is, and has to be read.
 */
function answered(seed: number): Entry[] {
  if (seed % 3 === 0) return [];
  return caseHazards(model, index, playJournal([], index)).map(({ key, ifFitted }, i) => ({
    id: v7(),
    madeAt: new Date(1_699_000_000_000 + i).toISOString(),
    body: {
      kind: 'acknowledge',
      hazard: key,
      who: 'Isbet',
      ...(ifFitted && seed % 3 === 1 ? { notHere: true } : {}),
    },
  }));
}

/** Offers a case so many entries; check: called for each that is taken. */
function walk(
  seed: number,
  offers: number,
  check: (body: EntryBody, before: readonly Entry[]) => void = () => undefined,
): Walked {
  const random = seeded(seed);
  const entries: Entry[] = answered(seed);
  const kinds = new Set<string>(entries.map(({ body }) => body.kind));
  let refused = 0;
  for (let i = 0; i < offers; i += 1) {
    const body = anything(random, entries);
    const objection = entryObjection(body, entries, index, model);
    expect(objection === undefined || objection.length > 10).toBe(true);
    if (objection !== undefined) {
      refused += 1;
      continue;
    }
    check(body, entries);
    kinds.add(body.kind);
    entries.push({
      id: v7(),
      madeAt: new Date(1_700_000_000_000 + i * 60_000).toISOString(),
      body,
    });
  }
  return { entries, refused, kinds };
}

const SEEDS = Array.from({ length: 25 }, (_, i) => i + 1);
const withoutMoments = ({ moments: _moments, ...rest }: Journal): Omit<Journal, 'moments'> => rest;

describe('a case filled at random', () => {
  it('takes only what a book of its own allows, and of every kind but what nothing allows', () => {
    const kinds = new Set<string>();
    let refused = 0;
    for (const seed of SEEDS) {
      const walked = walk(seed, 160, (body, before) =>
        expect([seed, body.kind, Book.of(before).allows(body)]).toEqual([seed, body.kind, true]),
      );
      walked.kinds.forEach((kind) => kinds.add(kind));
      refused += walked.refused;
    }
    expect([...kinds].sort()).toEqual([
      'acknowledge',
      'acquit',
      'answer',
      'back',
      'condemn',
      'fitted',
      'leftOut',
      'powerAnyway',
      'reading',
      'removed',
      'residual',
      'retract',
      'start',
      'step',
      'symptom',
      'timer',
      'timerDone',
    ]);
    expect(refused).toBeGreaterThan(SEEDS.length * 30);
  });

  it('knows which parts and pieces are off, as the book does', () => {
    for (const seed of SEEDS) {
      const { entries } = walk(seed, 160);
      const journal = playJournal(entries, index);
      const book = Book.of(entries);
      expect([...journal.absent].sort()).toEqual([...book.off].sort());
      expect([...journal.missing].sort()).toEqual(
        [...book.off].filter((ref) => !book.stays.has(ref)).sort(),
      );
      expect(journal.steps.reduce((sum, { count, back }) => sum + count - back, 0)).toBe(
        book.piecesOff,
      );
      expect(journal.steps.every(({ count, back }) => back >= 0 && back <= count)).toBe(true);
    }
  });

  it('gives each reading the board as it was, and only those since the last repair as it is', () => {
    for (const seed of SEEDS) {
      const { entries } = walk(seed, 160);
      const { readings } = playJournal(entries, index);
      const gone = new Set(
        entries.flatMap(({ body }) => (body.kind === 'retract' ? [body.entry] : [])),
      );
      const standing = entries.filter(({ id }) => !gone.has(id));
      const repair = standing.findLastIndex(
        ({ body }) => body.kind === 'fitted' || body.kind === 'leftOut',
      );
      for (const { entry, absent, current } of readings) {
        const place = standing.findIndex(({ id }) => id === entry.id);
        expect([...(absent ?? [])].sort()).toEqual(
          [...Book.of(standing.slice(0, place)).off].sort(),
        );
        expect(current).toBe(place > repair);
      }
    }
  });

  it('is the same case after a way through the wire, and once more the same where something was entered and taken back', () => {
    for (const seed of SEEDS) {
      const { entries } = walk(seed, 120);
      const there = EntrySchema.array().parse(JSON.parse(JSON.stringify(entries)));
      expect(playJournal(there, index)).toEqual(playJournal(entries, index));
      const added = {
        id: v7(),
        madeAt: new Date().toISOString(),
        body: { kind: 'symptom', text: 'hums' },
      } satisfies Entry;
      const back = {
        id: v7(),
        madeAt: new Date().toISOString(),
        body: { kind: 'retract', entry: added.id },
      } satisfies Entry;
      expect(withoutMoments(playJournal([...entries, added, back], index))).toEqual(
        withoutMoments({ ...playJournal(entries, index), pausedAt: undefined }),
      );
    }
  });

  it('names an obstacle as long as anything is off, and a next step always', () => {
    for (const seed of SEEDS) {
      const { entries } = walk(seed, 160);
      const journal = playJournal(entries, index);
      const { obstacles, nextAction, nextStage, pads } = caseProgress(index, journal);
      const book = Book.of(entries);
      if (book.piecesOff > 0)
        expect(obstacles.join()).toContain(`${book.piecesOff} pieces are still off`);
      for (const ref of journal.missing) expect(obstacles.join()).toContain(ref);
      expect(nextAction.length).toBeGreaterThan(5);
      expect(pads[nextStage]).not.toBe('crossed');
    }
  });

  it('keeps probes and hands off until every hazard of the step was acknowledged, and charges were read low enough', () => {
    const taken = { open: 0, meter: 0, power: 0 };
    for (const seed of SEEDS)
      walk(seed, 160, (body, before) => {
        const gate =
          body.kind === 'reading'
            ? body.setup === 'on'
              ? 'power'
              : 'meter'
            : ['step', 'removed', 'fitted'].includes(body.kind)
              ? 'open'
              : undefined;
        if (!gate) return;
        const { acknowledged, notHere, volts } = Book.of(before);
        const hazards = caseHazards(model, index, playJournal(before, index));
        expect(
          hazards.filter(({ key, gates }) => gates.includes(gate) && !acknowledged.has(key)),
        ).toEqual([]);
        const most = { open: 60, meter: 2, power: Infinity }[gate];
        const charged = hazards.filter(
          ({ key, charge }) => charge && charge.volt > 60 && !notHere.has(key),
        );
        if (gate !== 'power')
          for (const { key } of charged) expect(volts.get(key) ?? Infinity).toBeLessThan(most);
        taken[gate] += 1;
      });
    expect(Math.min(...Object.values(taken)), JSON.stringify(taken)).toBeGreaterThan(20);
  });

  it('is told the same by a worker that sends its answers as by one that solves here', () => {
    for (const seed of SEEDS.slice(0, 12)) {
      const { entries } = walk(seed, 160);
      const journal = playJournal(entries, index);
      const here = solveHere(index, journal);
      const sent = structuredClone(writeAnswers(index, journal));
      const there = readAnswers(index, sent);
      expect(there.proof()).toEqual(here.proof());
      if (journal.ledger.some(({ action }) => action !== 'removed'))
        expect(there.power()).toBe(here.power());
      for (const ref of [...journal.absent, ...journal.condemned.map(({ body }) => body.ref)])
        expect(there.fuse(ref)).toEqual(here.fuse(ref));
      expect(caseProgress(index, journal, there, true)).toEqual(
        caseProgress(index, journal, here, true),
      );
    }
  });

  it('is allowed nothing that a solved circuit would have to allow while none has answered', () => {
    const random = seeded(77);
    let asked = 0;
    for (const seed of SEEDS.slice(0, 12)) {
      const { entries } = walk(seed, 120);
      for (let i = 0; i < 40; i += 1) {
        const body = anything(random, entries);
        const pending = entryObjection(body, entries, index, model, () => PENDING);
        const solved = entryObjection(body, entries, index, model);
        // What is refused when all is known is refused before.
        if (solved !== undefined) expect(pending).toBeDefined();
        if (pending !== solved) asked += 1;
      }
    }
    expect(asked).toBeGreaterThan(3);
  });

  it('has for each entry its words, and a line in the report where its kind has one', () => {
    for (const seed of SEEDS.slice(0, 8))
      for (const { body } of walk(seed, 160).entries) {
        const { words, said, report } = kindOf(body.kind);
        expect(typeof said(body)).toBe('string');
        expect(words.length).toBeGreaterThan(3);
        if (typeof report === 'object') expect(report.line(body, index)).toMatch(/\S/);
      }
  });

  it('has a summary that says what its journal says, whatever it is', () => {
    for (const seed of SEEDS.slice(0, 12)) {
      const { entries } = walk(seed, 160);
      const journal = playJournal(entries, index);
      const summary = CaseSummary.parse(summaryOf(entries, index));
      expect(summary).toMatchObject({
        closed: journal.closed,
        lastEntryAt: entries.at(-1)?.madeAt ?? null,
        ...pickOf(caseProgress(index, journal), ['nextAction', 'nextStage', 'pads']),
      });
      expect(summary.timers).toHaveLength(journal.timers.filter(({ done }) => !done).length);
      expect(JSON.parse(JSON.stringify(summary))).toEqual(summary);
    }
  });
});

function pickOf<T extends object, K extends keyof T>(of: T, keys: readonly K[]): Pick<T, K> {
  return Object.fromEntries(keys.map((key) => [key, of[key]])) as Pick<T, K>;
}
