import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { demoBoard } from '@hanzai/data/demo';
import { indexBoard, nameKey } from '@hanzai/core/board';
import { resolveMeasurement } from '@hanzai/core/instrument';
import {
  readPoints,
  type Action,
  type Course,
  type Debrief,
  type SeenMove,
} from '@hanzai/core/training';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryBody } from '../case/entry';
import { playJournal } from '../case/journal';
import { PENDING } from '../case/solved';
import { PracticeDoor } from '../workers/practice-room';
import { closedSource } from './closed-case';
import { readCourse, resultsOf } from './course-file';
import { habitWords, noticedWords, worthWords } from './debrief-words';
import { practicePlaceOf } from './place';
import {
  actionOf,
  isTidy,
  passedBy,
  passedByDeed,
  practiceObjection,
  practiceView,
  readEntry,
  takeOf,
} from './practice-case';
import { propose, statesOf, wentWell } from './propose';
import { PracticeRun } from './run';
import { PracticeStorage } from './storage';
import { tourOf } from './tour';

const board = demoBoard('yc2');
const index = indexBoard(board);
let clock = Date.parse('2026-11-01T08:00:00Z');
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date((clock += 1000)).toISOString(),
  body,
});
const removed = (ref: string): EntryBody => ({ kind: 'removed', ref, value: '', note: '' });
const fitted = (ref: string): EntryBody => ({
  kind: 'fitted',
  ref,
  value: 'T1A',
  polarityChecked: false,
  note: '',
});
const condemn = (ref: string): EntryBody => ({
  kind: 'condemn',
  ref,
  probability: 0.9,
  reason: 'read',
});
const run = (more: Partial<PracticeRun> = {}): PracticeRun => ({
  id: v7(),
  startedAt: '2026-11-01T08:00:00.000Z',
  board,
  seed: 3,
  level: 1,
  help: 'priced',
  course: '',
  within: '',
  tour: false,
  actions: [],
  entries: [],
  ...more,
});
const result = (more: Partial<NonNullable<PracticeRun['result']>> = {}) => ({
  board: board.title,
  seed: 3,
  level: 1,
  help: 'priced' as const,
  finishedAt: '2026-11-01T09:00:00.000Z',
  solved: true,
  minutes: 20,
  bestMinutes: 18,
  score: { cost: 0.9, safety: 1, attribution: 1 },
  tried: [{ skill: 'supply' as const, tried: 1, done: 1 }],
  ...more,
});

describe('the bench of an exercise', () => {
  const order = { board, seed: 1, level: 1 as const, actions: [] };
  it('is set up without a word about what is hidden, and gone on with where it was left', () => {
    const door = new PracticeDoor();
    const opened = door.open(order);
    expect(opened).toMatchObject({ minutes: 0, damage: [] });
    expect(JSON.stringify(opened)).not.toMatch(/F1|open|short/);
    const done: Action[] = [
      { do: 'take', setup: 'on', kind: 'voltage', at: 'V12', to: '' },
      { do: 'pass', words: 'a hazard' },
      { do: 'help', help: 'suspects', net: '' },
    ];
    const answers = done.map((action) => door.act(action));
    const later = new PracticeDoor();
    expect(later.open({ ...order, actions: done })).toEqual(answers.at(-1)!.stand);
    expect(answers[2]!.words).toMatch(/\d+ %/);
  });
  it('says why where a board has nothing for the level, or a case nothing to go by', () => {
    const bare = { ...board, parts: board.parts.filter(({ kind }) => kind !== 'fuse') };
    expect(new PracticeDoor().open({ ...order, board: bare, level: 4 })).toContain('level 4');
    const closed = { number: 7, parts: ['X9'], readings: [], complaint: 'dead' };
    expect(new PracticeDoor().open({ ...order, closed })).toContain('X9');
  });
  it('finds a seed that hides something of a skill, or says that there is none soon', async () => {
    const door = new PracticeDoor();
    const seed = door.find(board, 1, 'supply', 1)!;
    door.open({ ...order, seed });
    const { tried } = await door.debrief(true, () => undefined);
    expect(tried.map(({ skill }) => skill)).toContain('supply');
    // No chip on this board.
    expect(door.find(board, 1, 'logic', 1)).toBeUndefined();
  });
  it('does nothing before it is set up', async () => {
    await expect(new PracticeDoor().debrief(true, () => undefined)).rejects.toThrow('no exercise');
  });
  it('says how far a debrief is, and leaves the planner’s way out where nobody waits for it', async () => {
    const door = new PracticeDoor();
    door.open({ ...order, actions: [{ do: 'replace', ref: 'F1' }] });
    const told: string[] = [];
    const whole = await door.debrief(true, (words) => told.push(words));
    expect(told[0]).toBe('move 1 of 1');
    expect(told[1]).toBe('the best order that there can be');
    expect(told[2]).toBe('the planner’s way, step 1'.replace('’', "'"));
    expect(whole.debrief.best).toBeDefined();
    const short = await door.debrief(true, () => door.withoutWay());
    expect(short.debrief.best).toBeUndefined();
    // Sound, and nothing to stand beside: not judged, not nought.
    expect(short.debrief.solved).toBe(true);
    expect(short.debrief.score.cost).toBeUndefined();
  });
  it('counts a hazard that was passed by once, however often it is passed by', () => {
    const door = new PracticeDoor();
    door.open(order);
    door.act({ do: 'pass', words: 'a hazard' });
    expect(door.act({ do: 'pass', words: 'a hazard' }).stand.damage).toEqual(['a hazard']);
  });
});

describe('an exercise as a case', () => {
  it('takes no value that is typed, and lets hazards be passed by, but counts them', () => {
    const found = resolveMeasurement(index, 'on', 'voltage', 'V12', '');
    if (!found.ok) throw new Error(found.what);
    const body = readEntry(found.measurement, 11.87);
    expect(body).toMatchObject({ kind: 'reading', at: 'V12', value: 11.87 });
    const objects = (one: EntryBody, entries: readonly Entry[] = []): string | undefined =>
      practiceObjection(one, entries, index, undefined, () => PENDING);
    expect(objects(body)).toContain('the meter gives the value');
    expect(objects(condemn('F1'))).toBeUndefined();
    expect(passedBy(body, [], index)).toBeUndefined();
    // A board with mains on it.
    const mains = indexBoard(demoBoard('yc2Whole'));
    const net = resolveMeasurement(mains, 'on', 'voltage', mains.nets[0]!, mains.nets[1]!);
    if (!net.ok) throw new Error(net.what);
    expect(passedBy(readEntry(net.measurement, 1), [], mains)).toContain('power on a board');
    expect(passedBy(condemn('F1'), [], mains)).toBeUndefined();
    // Hand work passes it by as well; what is done to the leads alone does not.
    expect(passedByDeed({ do: 'wait', minutes: 5 }, [], mains)).toContain('power on a board');
    for (const deed of [
      { do: 'press', ref: '' },
      { do: 'chill', ref: 'F1' },
      { do: 'swap', ref: 'F1', with: 'F2' },
    ] as const)
      expect(passedByDeed(deed, [], mains)).toContain('a hand on a board');
    for (const what of ['zero', 'release'] as const)
      expect(passedByDeed({ do: what }, [], mains)).toBeUndefined();
    expect(passedByDeed({ do: 'wait', minutes: 5 }, [], index)).toBeUndefined();
  });
  it('does to its bench what is entered, and keeps readings under their points', () => {
    expect(actionOf(fitted('F1'), [])).toEqual({ do: 'replace', ref: 'F1' });
    const off = entry(removed('F1'));
    expect(actionOf(off.body, [])).toEqual({ do: 'off', ref: 'F1' });
    expect(actionOf({ kind: 'retract', entry: off.id }, [off])).toEqual({ do: 'back', ref: 'F1' });
    expect(actionOf(condemn('F1'), [off])).toBeUndefined();
    for (const [kind, at, to, setup] of [
      ['esr', 'C6.1', 'C6.2', 'off'],
      ['current', 'F1', '', 'on'],
      ['continuity', 'F1.1', 'F1.2', 'off'],
    ] as const) {
      const found = resolveMeasurement(index, setup, kind, at, to);
      if (!found.ok) throw new Error(found.what);
      const take = takeOf(found.measurement);
      const again = resolveMeasurement(index, take.setup, take.kind, take.at, take.to);
      expect(again).toEqual(found);
      // What is filed is read again as the same.
      const filed = [entry(readEntry(found.measurement, kind === 'continuity' ? 'beep' : 0.31))];
      expect(playJournal(filed, index).readings[0]!.measurement).toEqual(found.measurement);
    }
  });
  it('is tidy where nothing is off and what went had been condemned', () => {
    const all = (...bodies: EntryBody[]): boolean => isTidy(bodies.map(entry), index);
    expect(all()).toBe(true);
    expect(all(condemn('F1'), removed('F1'), fitted('F1'))).toBe(true);
    expect(all(removed('F1'), fitted('F1'))).toBe(false);
    expect(all(condemn('F1'), removed('F1'))).toBe(false);
  });
  it('is of no unit and no owner', () => {
    expect(practiceView(run())).toMatchObject({ number: 0, owner: '', unitModel: '' });
  });
});

describe('what the browser keeps', () => {
  it('comes back as it was, the newest first; what cannot be read is left out', async () => {
    globalThis.indexedDB = new IDBFactory();
    const storage = new PracticeStorage();
    const [old, young] = [
      run({ entries: [entry(condemn('F1'))] }),
      run({ startedAt: '2026-11-02T08:00:00.000Z', result: result() }),
    ];
    await storage.put(old);
    await storage.put(young);
    await storage.put({ ...run(), level: 9 } as unknown as PracticeRun);
    expect(await storage.runs()).toEqual([young, old]);
    expect(await storage.run(old.id)).toEqual(old);
    await storage.remove(old.id);
    expect(await storage.run(old.id)).toBeUndefined();
  });
  it('places are those of an exercise, and no others', () => {
    const { id } = run();
    expect(practicePlaceOf(`/practice/${id}/trace`)).toEqual({ id, stage: 'trace' });
    expect(practicePlaceOf(`/practice/${id}/debrief/`)).toEqual({ id, stage: 'debrief' });
    for (const path of [`/practice/${id}/take-in`, '/practice/1/trace', `/case/${id}/trace`])
      expect(practicePlaceOf(path)).toBeUndefined();
  });
});

describe('a course as a file', () => {
  const course: Course = {
    format: 'hanzai course',
    version: 1,
    title: 'First week',
    boards: [board],
    exercises: [{ board: 0, seed: 3, level: 1, within: '', help: 'priced', note: 'the fuse' }],
  };
  it('is taken in; results of it are told in a line', () => {
    expect(readCourse('a.json', JSON.stringify(course))).toEqual({
      ok: true,
      what: 'course',
      course,
    });
    const runs = [
      run({ course: 'First week', result: result() }),
      run({ course: 'First week' }),
      run({ course: 'another', result: result() }),
    ];
    const handed = resultsOf(course, runs, 'Ada');
    expect(handed.results).toHaveLength(1);
    expect(readCourse('r.json', JSON.stringify(handed))).toMatchObject({
      handed: { who: 'Ada', words: '1 done, 1 sound, 1 without harm' },
    });
  });
  it.each([
    ['no JSON', 'mains', 'no JSON'],
    ['nothing', '', 'no JSON'],
    ['null', 'null', 'expected a course'],
    ['a list', '[]', 'expected a course'],
    [
      'a level of nine',
      JSON.stringify({ ...course, exercises: [{ ...course.exercises[0], level: 9 }] }),
      'exercises.0.level',
    ],
    [
      'another board',
      JSON.stringify({ ...course, exercises: [{ ...course.exercises[0], board: 4 }] }),
      'exercises.0.board',
    ],
    ['results of nobody', JSON.stringify({ ...resultsOf(course, [], 'x'), who: '' }), 'who'],
  ])('%s is refused with its place', (_, text, words) => {
    const read = readCourse('x.json', text);
    expect(read.ok).toBe(false);
    expect(!read.ok && read.why).toContain(words);
  });
});

describe('what is proposed', () => {
  const day = 86_400_000;
  const at = Date.parse(result().finishedAt);
  it('is a repeat of what went wrong, when it is time; else the skill that is known least', () => {
    const bad = run({ result: result({ solved: false }) });
    expect(wentWell(bad)).toBe(false);
    expect(
      wentWell(run({ result: result({ score: { cost: 1, safety: 0.5, attribution: 1 } }) })),
    ).toBe(false);
    expect(wentWell(run({ result: result() }))).toBe(true);
    expect(propose([bad], at + day)).toMatchObject({ what: 'repeat', run: bad });
    expect(propose([bad], at + day / 2)).toMatchObject({ what: 'skill' });
    const many = Array.from({ length: 9 }, () => run({ result: result() }));
    expect(propose(many, at)).toMatchObject({ what: 'skill', skill: 'logic' });
    expect(statesOf(many).find(({ skill }) => skill === 'supply')).toMatchObject({
      tried: 9,
      done: 9,
    });
  });
});

describe('the tour', () => {
  it('is made of points that the board has, and ticks off what was done', () => {
    const steps = tourOf([], index);
    expect(steps.every(({ isDone }) => !isDone)).toBe(true);
    for (const { example } of steps.slice(0, 3)) expect(readPoints(index, example).ok).toBe(true);
    const found = resolveMeasurement(index, 'on', 'voltage', 'V12', '');
    if (!found.ok) throw new Error(found.what);
    const read = entry(readEntry(found.measurement, 11.9));
    const done = (...bodies: EntryBody[]): number =>
      tourOf([read, ...bodies.map(entry)], index).filter(({ isDone }) => isDone).length;
    expect(done()).toBe(1);
    expect(done({ kind: 'retract', entry: read.id })).toBe(2);
    expect(done(condemn('F1'), removed('F1'))).toBe(3);
    expect(done(condemn('F1'), removed('F1'), fitted('F1'))).toBe(4);
  });
  it('stands on every demo board', () => {
    for (const name of ['cr40', 'pd3If', 'pd3Rw', 'cr40Whole', 'yc2Whole', 'tl9'] as const) {
      const own = indexBoard(demoBoard(name));
      for (const { example } of tourOf([], own)) {
        const isPoint = !/^(note|back|condemn)|( off| on same)$/.test(example);
        if (isPoint) expect(readPoints(own, example).ok, `${name}: ${example}`).toBe(true);
        else if (/^condemn /.test(example))
          expect(own.partByKey.has(nameKey(example.slice(8))), `${name}: ${example}`).toBe(true);
      }
    }
  });
  it('counts for no skill and is not repeated', () => {
    const tour = run({ tour: true, result: result({ solved: false }) });
    expect(statesOf([tour]).every(({ tried }) => tried === 0)).toBe(true);
    expect(propose([tour], Date.now())).toMatchObject({ what: 'skill' });
  });
});

describe('what a debrief says', () => {
  const move = (worthBits: number | undefined, better = 1): SeenMove => ({
    words: 'a move',
    minutes: 2,
    worthBits,
    better: { words: 'another', bits: better, minutes: 2 },
    belief: 0.2,
  });
  const said = (more: Partial<Debrief>): Debrief => ({
    truth: ['F1:open'],
    moves: [],
    minutes: 0,
    best: undefined,
    optimum: undefined,
    decidedAt: undefined,
    noticedAt: undefined,
    wrong: [],
    notes: [],
    score: { cost: 0, safety: 1, attribution: 0 },
    solved: false,
    ...more,
  });
  it.each([
    [0.95, 'as good as any'],
    [0.6, 'more than half as good as the best'],
    [0.3, '3 in 10 of the best'],
    [0.01, 'told next to nothing'],
    [undefined, ''],
  ])('%s of the best is %s', (bits, words) => {
    expect(worthWords(move(bits))).toBe(words);
  });
  it('counts what was done between deciding and noticing', () => {
    const moves = [move(1), move(0.1), move(0.1), move(undefined)];
    expect(noticedWords(said({ moves, decidedAt: 0, noticedAt: 3 }))).toContain(
      '2 moves and 4.0 minutes that changed nothing',
    );
    expect(noticedWords(said({ moves, decidedAt: 2, noticedAt: 3 }))).toContain('at once');
    expect(noticedWords(said({ moves, noticedAt: 3 }))).toContain('a guess, and it was right');
    expect(noticedWords(said({ moves, decidedAt: 2 }))).toContain('nothing was done');
    expect(noticedWords(said({ moves }))).toBe('It was never decided by readings.');
    expect(noticedWords(said({ moves, decidedAt: 3, noticedAt: 1 }))).toContain('before it was');
  });
  it('names a habit once, and none where there was none', () => {
    expect(habitWords(said({}))).toEqual([]);
    const idle = said({
      moves: [move(0), move(0), move(0)],
      wrong: ['C1 was good: x', 'C2 was good: x'],
    });
    expect(habitWords(idle)).toHaveLength(2);
    expect(habitWords(said({ wrong: ['F1 blew: ohms from the rails to ground'] }))[0]).toContain(
      'Ohms',
    );
  });
});

describe('without a sheet', () => {
  it('the case of the screens has none, and the bench is the same board', () => {
    expect(practiceView(run({ level: 8 })).board).toBeNull();
    expect(practiceView(run({ level: 7 })).board).not.toBeNull();
    const door = new PracticeDoor();
    const stand = door.open({ board, seed: 1, level: 8, actions: [] });
    expect(stand).toMatchObject({ minutes: 0, damage: [] });
    expect(
      door.act({ do: 'take', setup: 'off', kind: 'resistance', at: 'C6.1', to: 'C6.2' }),
    ).toHaveProperty('value');
  });
  it('a reading stands at the points that it names', () => {
    const found = readPoints(index, 'c6.1 c6.2 ohms');
    if (!found.ok) throw new Error(found.what);
    const entries = [entry(readEntry(found.measurement, 12))];
    expect(playJournal(entries, undefined).loose).toHaveLength(1);
  });
  it('a run that an earlier version debriefed is debriefed again', () => {
    const { moves, score } = { moves: [], score: { safety: 1 } };
    const old = { ...run({ result: result() }), said: { moves, score } };
    expect(PracticeRun.parse(old).said).toBeUndefined();
    const now = { ...old, said: { moves, score, notes: [] } };
    expect(PracticeRun.parse(now).said).toBeDefined();
  });
});

describe('a closed case', () => {
  const close: EntryBody = { kind: 'close', note: '' } as EntryBody;
  const reading = (value: number): EntryBody => {
    const found = resolveMeasurement(index, 'on', 'voltage', 'V12', '');
    if (!found.ok) throw new Error(found.what);
    return readEntry(found.measurement, value);
  };
  const view = (bodies: readonly EntryBody[]) => ({
    ...practiceView(run({ entries: bodies.map(entry) })),
    number: 1008,
    complaint: 'dead after a storm',
  });
  it('gives what cured it and what was read before', () => {
    const source = closedSource(
      view([reading(0.01), condemn('F1'), removed('F1'), fitted('F1'), reading(11.9), close]),
    );
    expect(source).toMatchObject({ number: 1008, parts: ['F1'], complaint: 'dead after a storm' });
    expect(typeof source !== 'string' && source.readings.map(({ value }) => value)).toEqual([0.01]);
  });
  it('that is open, or in which nothing was replaced, gives none', () => {
    expect(closedSource(view([fitted('F1')]))).toContain('still open');
    expect(closedSource(view([close]))).toContain('no part was replaced');
    expect(closedSource({ ...view([close]), board: null })).toContain('no sheet');
  });
});
