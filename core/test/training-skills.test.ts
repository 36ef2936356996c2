import { describe, expect, it } from 'vitest';
import { demoBoard } from '@hanzai/data/demo';
import { indexBoard } from '../src/board';
import { Diagnoser } from '../src/diagnosis';
import { measurementKey, resolveMeasurement, type ReadingValue } from '../src/instrument';
import {
  Action,
  Course,
  CourseResults,
  debrief,
  drawExercise,
  dueRepeats,
  exerciseOfCase,
  FAULT_SKILLS,
  NoExercise,
  readPoints,
  refsOf,
  REPEAT_DAYS,
  Session,
  type Skill,
  skillOf,
  skillStates,
  skillToTeach,
  triedIn,
} from '../src/training';
import { RATES } from './boards';

// What is practised, what comes back, what is handed out, and a case that is gone through once
// more.

const board = demoBoard('cr40');
const index = indexBoard(board);
const DAY = 86_400_000;

describe('points without a value', () => {
  const read = (text: string): string => {
    const result = readPoints(index, text);
    return result.ok ? measurementKey(result.measurement) : `${result.what}; ${result.expected}`;
  };
  it.each([
    ['p5', 'on|voltage|=p5|=0'],
    ['p5 ohms', 'off|resistance|=p5|=0'],
    ['P5 P9F ohms', 'off|resistance|=p5|=p9f'],
    ['c8', 'off|esr|c8.0|c8.1'],
    ['f1', 'off|continuity|f1.0|f1.1'],
    ['f1 ohms', 'off|resistance|f1.0|f1.1'],
    ['esr c8', 'off|esr|c8.0|c8.1'],
    ['c8.1 p5 v', 'on|voltage|c8.0|=p5'],
  ])('%s is %s', (text, key) => {
    expect(read(text)).toBe(key);
  });
  it.each([
    ['', 'no point'],
    ['p5 p9f vm', '3 points'],
    ['ohms', 'no point'],
    ['zz9', 'zz9'],
  ])('%j is refused with what is expected', (text, words) => {
    expect(readPoints(index, text).ok).toBe(false);
    expect(read(text)).toContain(words);
  });
  it('a part of three pins is asked which', () => {
    const three = index.board.parts.find(({ pins }) => pins.length === 3)!;
    expect(read(three.ref)).toContain(`${three.ref}.1`);
  });
});

describe('a session that is played again', () => {
  it('shows the same, costs the same and has the same damage', () => {
    const of = drawExercise(board, RATES, 5, 2);
    const actions: Action[] = [
      { do: 'take', setup: 'off', kind: 'resistance', at: 'P5', to: '' },
      { do: 'take', setup: 'off', kind: 'esr', at: 'C8.1', to: 'C8.2' },
      { do: 'pass', words: 'the mains hazard was passed by' },
      { do: 'take', setup: 'on', kind: 'voltage', at: 'P5', to: '' },
      { do: 'help', help: 'reading', net: '' },
      { do: 'replace', ref: 'R5' },
      { do: 'take', setup: 'on', kind: 'voltage', at: 'P9F', to: '' },
    ];
    const play = (): readonly unknown[] => {
      const session = new Session(of);
      const diagnoser = new Diagnoser(of.index, RATES);
      const said = actions.map((action) => session.act(action, () => diagnoser));
      return [said, session.minutes, session.damage, session.readings.length];
    };
    expect(play()).toEqual(play());
    const [said, , damage] = play() as [{ words?: string }[], number, { words: string }[]];
    expect(said[4]!.words).toMatch(/^P5, voltage, power on/);
    expect(damage[0]!.words).toBe('the mains hazard was passed by');
    for (const action of actions) expect(Action.parse(action)).toEqual(action);
  });
  it('a point that the board has not is no reading and costs nothing', () => {
    const session = new Session(drawExercise(board, RATES, 5, 2));
    const never = (): never => {
      throw new Error('nobody was asked');
    };
    expect(
      session.act({ do: 'take', setup: 'on', kind: 'voltage', at: 'NOWHERE', to: '' }, never),
    ).toEqual({});
    expect(session.moves).toEqual([]);
  });
});

describe('a part that is off', () => {
  it('is missing from what is read, costs half of its minutes, and half again when one goes on', () => {
    const of = { ...drawExercise(board, RATES, 5, 2), faults: [] };
    const session = new Session(of);
    const measured = resolveMeasurement(index, 'on', 'voltage', 'P9F', '');
    if (!measured.ok) throw new Error(measured.what);
    expect(session.take(measured.measurement)).toBeGreaterThan(8);
    const before = session.minutes;
    session.takeOff('f1');
    session.takeOff('F1');
    expect(session.minutes - before).toBeCloseTo(0.5 * 15 + 2, 6);
    expect(Math.abs(Number(session.take(measured.measurement)))).toBeLessThan(0.1);
    expect(session.readings.at(-1)!.absent).toEqual(['F1']);
    session.putBack('F1');
    expect(session.take(measured.measurement)).toBeGreaterThan(8);
    session.takeOff('F1');
    session.replace('F1');
    expect(session.take(measured.measurement)).toBeGreaterThan(8);
    expect(session.readings.at(-1)!.absent).toBeUndefined();
    const said = debrief(session, RATES).moves.map(({ words }) => words);
    expect(said).toEqual(expect.arrayContaining(['F1 taken off', 'F1 put back']));
  });
});

describe('skills', () => {
  it('each kind of fault calls for its own', () => {
    expect(skillOf(index, 'C8:high-esr')).toBe('esr');
    expect(skillOf(index, 'F1:open')).toBe('supply');
    expect(skillOf(index, 'P5~P9F:bridge')).toBeUndefined();
    const logic = indexBoard(demoBoard('pd3If'));
    const chip = logic.board.parts.find(({ kind }) => kind === 'chip')!;
    expect(skillOf(logic, `${chip.ref}:dead`)).toBe('logic');
  });
  it('a session counts what was found, how readings were chosen, and whether anything was harmed', () => {
    const of = drawExercise(board, RATES, 1, 1);
    const session = new Session(of);
    const measured = resolveMeasurement(index, 'off', 'resistance', 'P9F', '');
    if (measured.ok) session.take(measured.measurement);
    for (const ref of refsOf(of.faults)) session.replace(ref);
    const tried = triedIn(session, debrief(session, RATES), true);
    const of_ = (skill: Skill): unknown => tried.find((one) => one.skill === skill);
    expect(of_('order')).toMatchObject({ tried: 1 });
    expect(of_('safety')).toMatchObject({ tried: 1, done: 1 });
    expect(of_('bookkeeping')).toMatchObject({ tried: 1, done: 1 });
    session.pass('a hazard');
    expect(triedIn(session, debrief(session, RATES), false)).toEqual(
      expect.arrayContaining([
        { skill: 'safety', tried: 1, done: 0 },
        { skill: 'bookkeeping', tried: 1, done: 0 },
      ]),
    );
    // Nothing done says nothing of safety.
    const idle = new Session(of);
    expect(triedIn(idle, debrief(idle, RATES), true).map(({ skill }) => skill)).not.toContain(
      'safety',
    );
  });
  it('say how far they are known: 2 of 10 is 2.5 to 55.6 %, none of none anything', () => {
    const states = skillStates([
      { skill: 'esr', tried: 6, done: 1 },
      { skill: 'esr', tried: 4, done: 1 },
    ]);
    const esr = states.find(({ skill }) => skill === 'esr')!;
    // Clopper and Pearson 1934, as tabled.
    expect(esr.interval.low).toBeCloseTo(0.0252, 4);
    expect(esr.interval.high).toBeCloseTo(0.5561, 4);
    expect(states.find(({ skill }) => skill === 'logic')!.interval).toEqual({ low: 0, high: 1 });
  });
  it('what is known least well is taught next', () => {
    const known = FAULT_SKILLS.filter((skill) => skill !== 'coils').map((skill) => ({
      skill,
      tried: 20,
      done: 18,
    }));
    expect(skillToTeach(skillStates(known))).toBe('coils');
    expect(skillToTeach(skillStates([...known, { skill: 'coils', tried: 20, done: 19 }]))).toBe(
      'supply',
    );
  });
});

describe('repeats', () => {
  const at = (key: string, day: number, wentWell: boolean) => ({ key, at: day * DAY, wentWell });
  it('come after a day where it went wrong, and never where it always went well', () => {
    const done = [at('a', 0, false), at('b', 0, true)];
    expect(dueRepeats(done, 0.9 * DAY)).toEqual([]);
    expect(dueRepeats(done, DAY)).toEqual(['a']);
  });
  it('stretch while it goes well, begin anew where it does not, and end', () => {
    const well = [at('a', 0, false), at('a', 1, true)];
    expect(dueRepeats(well, 3.9 * DAY)).toEqual([]);
    expect(dueRepeats(well, 4 * DAY)).toEqual(['a']);
    expect(dueRepeats([...well, at('a', 4, false)], 5 * DAY)).toEqual(['a']);
    let day = 0;
    const all = [at('a', 0, false)];
    for (const days of REPEAT_DAYS) all.push(at('a', (day += days), true));
    expect(dueRepeats(all, 10_000 * DAY)).toEqual([]);
  });
  it('the longest overdue goes first, in whatever order they are told', () => {
    const done = [at('b', 2, false), at('a', 0, false)];
    expect(dueRepeats(done, 9 * DAY)).toEqual(['a', 'b']);
  });
});

describe('a course', () => {
  const course = {
    format: 'hanzai course',
    version: 1,
    title: 'First week',
    boards: [board],
    exercises: [{ board: 0, seed: 3, level: 1, help: 'priced', note: '' }],
  };
  it('is read as it was written', () => {
    const read = Course.parse(JSON.parse(JSON.stringify(course)));
    // What an earlier version wrote had no place: the whole board.
    expect(read.exercises[0]).toMatchObject({ within: '' });
    expect(read).toMatchObject(course);
  });
  it.each([
    ['a board that it has not', { exercises: [{ ...course.exercises[0], board: 1 }] }],
    ['a level that there is not', { exercises: [{ ...course.exercises[0], level: 9 }] }],
    ['a seed of nought', { exercises: [{ ...course.exercises[0], seed: 0 }] }],
    ['another version', { version: 2 }],
    ['no exercise', { exercises: [] }],
    ['a file of something else', { format: 'hanzai board' }],
  ])('with %s is refused', (_, change) => {
    expect(Course.safeParse({ ...course, ...change }).success).toBe(false);
  });
  it('results without a name, or with more done than can be, are refused', () => {
    const results = {
      format: 'hanzai course results',
      version: 1,
      course: 'First week',
      who: 'Ada',
      results: [],
    };
    expect(CourseResults.safeParse(results).success).toBe(true);
    expect(CourseResults.safeParse({ ...results, who: '  ' }).success).toBe(false);
  });
});

describe('a closed case as an exercise', () => {
  const measured = (kind: string, setup: string, at: string, to: string, value: ReadingValue) => {
    const found = resolveMeasurement(index, setup, kind, at, to);
    if (!found.ok) throw new Error(found.what);
    return { measurement: found.measurement, value };
  };
  const readings = [
    measured('voltage', 'on', 'P9F', '', 0.012),
    measured('continuity', 'off', 'F1.1', 'F1.2', 'open'),
  ];
  const closed = { board, parts: ['F1'], readings, complaint: 'dead', seed: 9 };
  it('is bad in the way that its readings speak for, and shows just what was read', () => {
    const of = exerciseOfCase(closed, RATES);
    expect(of.faults).toEqual(['F1:open']);
    const session = new Session(of);
    expect(session.take(readings[1]!.measurement)).toBe('open');
    expect(session.take(readings[0]!.measurement)).toBe(0.012);
    session.replace('F1');
    expect(session.isSound).toBe(true);
    // The board is another now: what was read of the old one is not shown of it.
    expect(session.take(readings[1]!.measurement)).not.toBe('open');
  });
  it('of parts that its sheet has not is refused', () => {
    expect(() => exerciseOfCase({ ...closed, parts: ['X99'] }, RATES)).toThrow(NoExercise);
    expect(() => exerciseOfCase({ ...closed, parts: [] }, RATES)).toThrow(NoExercise);
  });
});
