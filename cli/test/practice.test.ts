import { PassThrough, Readable } from 'node:stream';
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { demoBoard } from '@hanzai/data/demo';
import { RATES } from '@hanzai/data';
import { debrief, drawExercise, refsOf, Session } from '@hanzai/core/training';
import { InputError, UsageError } from '../src/arguments';
import { debriefText, practice, PracticeGame } from '../src/practice';

// An exercise in the terminal, line by line.

const BOARD = 'data/demo/boards/cr40-srv-supply.cir';
const exercise = drawExercise(demoBoard('cr40'), RATES, 1, 1);
const [bad] = refsOf(exercise.faults);
const game = (): PracticeGame => new PracticeGame(new Session(exercise));

async function played(words: readonly string[], lines: readonly string[]) {
  const [out, aside] = [new PassThrough(), new PassThrough()];
  const status = await practice(words, Readable.from([lines.join('\n')]), out, aside);
  const text = (of: PassThrough): string => (of.read() as Buffer | null)?.toString() ?? '';
  return { status, out: text(out), aside: text(aside) };
}

describe('the exercise in a terminal', () => {
  it('says that it is none, what the owner says, and what can be done; not what it is', () => {
    const { greeting } = game();
    expect(greeting).toContain('Practice, no real unit');
    expect(greeting).toContain('only if you are qualified');
    expect(greeting).not.toContain(exercise.faults[0]);
  });
  it('answers readings with their minutes, and what nobody understands with what is expected', () => {
    const one = game();
    expect(one.answer('r p5').text).toMatch(/Ω {3}\[0\.5 min\]$/);
    expect(one.answer('v p5').text).toMatch(/V {3}\[2\.0 min\]$/);
    expect(one.answer('beep f1.1 f1.2').text).toMatch(/^(beep|open)/);
    for (const [line, why] of [
      ['x p5', 'help says what is'],
      ['r nowhere', 'no net or pin'],
      ['v', 'expected'],
      ['replace Z9', 'no part "Z9"'],
      ['replace P5~NOWHERE', 'no part'],
      ['net nowhere', 'no net'],
    ])
      expect(one.answer(line!).text, line).toContain(why);
    expect(one.answer('help').text).toContain('replace REF');
    expect(one.answer('  ').text).toBe('');
  });
  it('does the small things at the bench, each for its minutes, and says what is missing', () => {
    const one = game();
    for (const [line, says] of [
      ['zero', /leads touched.*\[0\.3 min\]/],
      ['wait 5', /left on for 5 min.*\[6\.3 min\]/],
      ['chill c8', /C8 sprayed cold/],
      ['press', /flexed/],
      ['let go', /let go/],
      ['off c8', /done/],
      ['back c8', /done/],
      ['mark c8', /written down/],
      ['swap c8 r5', /not two of a kind/],
      ['wait', /1 to 60 minutes/],
      ['wait 1e9', /1 to 60 minutes/],
      ['chill', /name of a part/],
      ['chill Z9', /no part "Z9"/],
      ['swap c8', /name of a part/],
    ] as const)
      expect(one.answer(line).text, line).toMatch(says);
  });
  it('never says by itself whether a replaced part was the one', () => {
    const one = game();
    const [right, wrong] = [one.answer(`replace ${bad}`), one.answer('replace C8')].map(
      ({ text }) => text.replace(/\[.*/, '').replace(/^\S+/, ''),
    );
    expect(right).toBe(wrong);
  });
  it('takes any line without falling over', () => {
    const one = game();
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 40 }),
          fc
            .constantFrom('r', 'v', 'replace', 'see', 'i', 'wait', 'swap', 'press', 'off')
            .chain((verb) => fc.string({ maxLength: 12 }).map((rest) => `${verb} ${rest}`)),
        ),
        (line) => {
          const { text } = one.answer(line);
          expect(text).not.toMatch(/undefined|NaN/);
        },
      ),
      { seed: 41, numRuns: 300 },
    );
  });
});

describe('practice BOARD', () => {
  it('plays from standard input to what is said afterwards', async () => {
    const { status, out } = await played(
      [BOARD, '--seed', '1', '--level', '1'],
      ['r p9f', `replace ${bad}`, 'done', 'r p5'],
    );
    expect(status).toBe(0);
    expect(out).toContain('It is sound.');
    expect(out).toContain(`It was: ${exercise.faults[0]}.`);
    expect(out).toContain('the planner');
    expect(out).toMatch(/attribution 100 %/);
  });
  it('prints one JSON object with --json, the rest aside', async () => {
    const { out, aside } = await played([BOARD, '--json'], ['quit']);
    expect(JSON.parse(out)).toMatchObject({ solved: false, minutes: 0, moves: [] });
    expect(aside).toContain('Practice, no real unit');
  });
  it('ends where the input ends', async () => {
    const { out } = await played([BOARD, '--seed', '2'], []);
    expect(out).toContain('It is not sound.');
  });
  it.each([
    [[], UsageError],
    [[BOARD, 'more'], UsageError],
    [[BOARD, '--seed', '0'], UsageError],
    [[BOARD, '--seed', 'one'], UsageError],
    [[BOARD, '--level', '9'], UsageError],
    [['no-such.cir'], InputError],
  ])('refuses %j', async (words, kind) => {
    await expect(played(words as string[], [])).rejects.toThrow(kind as typeof UsageError);
  });
});

it('what is said afterwards has every move, and its words are whole', () => {
  const session = new Session(exercise);
  const one = new PracticeGame(session);
  for (const line of ['r p9f', 'ask', 'replace C8', `replace ${bad}`]) one.answer(line);
  const text = debriefText(debrief(session, RATES));
  for (const words of [
    '1. P9F, resistance',
    '2. help: next',
    '3. C8 replaced: it was good',
    'Wrong: C8 was good',
  ])
    expect(text).toContain(words);
  expect(text).not.toMatch(/undefined|NaN/);
});
