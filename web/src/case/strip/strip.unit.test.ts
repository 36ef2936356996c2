import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { indexBoard, scratchBoard } from '@hanzai/core/board';
import { measurementKey, type Measurement } from '@hanzai/core/instrument';
import { candidateMeasurements } from '@hanzai/core/plan';
import { RUN_STATES } from '@hanzai/core/prove';
import { LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { EntryBody } from '../entry';
import { completions } from './completion';
import { grammarExamples } from './examples';
import { parseStrip, type StripContext, type StripItem } from './grammar';
import { printEntry, printReading } from './printed';
import { spokenLine } from './spoken';

const BOARDS = (Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][]).map((name) =>
  indexBoard(demoBoard(name)),
);
const supply = indexBoard(demoBoard('cr40'));
const on = (more: Partial<StripContext> = {}): StripContext => ({
  index: supply,
  hasSheet: true,
  list: [],
  model: undefined,
  chance: () => 0.5,
  ...more,
});
const items = (text: string, context = on()): readonly StripItem[] => {
  const read = parseStrip(context, text);
  if (!read.ok) throw new Error(`${text}: ${read.understood}; expected ${read.expected}`);
  return read.items;
};
const body = (text: string, context = on()): EntryBody => {
  const [item] = items(text, context);
  if (item?.kind !== 'entry') throw new Error(`${text} is ${item?.kind}`);
  return EntryBody.parse(item.body);
};
const refused = (text: string, context = on()): string => {
  const read = parseStrip(context, text);
  return read.ok ? 'nothing' : `${read.understood} | ${read.expected}`;
};

describe('what the strip takes', () => {
  it.each([
    ['c1 off', { kind: 'removed', ref: 'C1' }],
    ['c3 off sat minus down', { kind: 'removed', ref: 'C3', sat: 'minus down' }],
    [
      'c3 on 100u 25v polarity sat minus down note same',
      { value: '100u 25v', polarityChecked: true, sat: 'minus down', note: 'same' },
    ],
    ['f1 on t1a', { kind: 'fitted', ref: 'F1', value: 't1a', polarityChecked: false }],
    [
      'C1 on 47u 25v polarity note lead free',
      { value: '47u 25v', polarityChecked: true, note: 'lead free' },
    ],
    ['r1 out note not needed', { kind: 'leftOut', ref: 'R1', note: 'not needed' }],
    ['note flux under u7; really', { kind: 'finding', text: 'flux under u7; really' }],
    ['symptom dark when warm', { kind: 'symptom', text: 'dark when warm' }],
    ['start ok', { kind: 'start', failedAt: null, tries: 1 }],
    [
      'start spin 4,5s x3 with Cold, lid open heard clicks twice',
      {
        failedAt: 'spin',
        seconds: 4.5,
        tries: 3,
        conditions: ['cold', 'lid open'],
        sounds: 'clicks twice',
      },
    ],
    ['zero 0.04', { kind: 'leadZero', ohm: 0.04 }],
    ['run 12', { kind: 'run', passes: 12, errors: 0, of: 'none', medium: '', states: [] }],
    ['run 0 errors 3', { kind: 'run', passes: 0, errors: 3, of: 'none' }],
    ['run 5 of foreign', { of: 'foreign', medium: '', passes: 5 }],
    [
      'run 12 errors 1 of card 14 Written Here at first track in Warm, after a power cycle note lid on',
      {
        kind: 'run',
        passes: 12,
        errors: 1,
        medium: 'card 14',
        of: 'written here',
        where: 'first track',
        states: ['warm', 'after a power cycle'],
        note: 'lid on',
      },
    ],
    [
      'alone c1 82u 20ua tan 0.15 esr 0.4',
      {
        kind: 'offBoard',
        ref: 'C1',
        farad: 82e-6,
        leakAmpere: 20e-6,
        dissipation: 0.15,
        esrOhm: 0.4,
      },
    ],
    ['alone c1 2200uF', { kind: 'offBoard', ref: 'C1', farad: 2.2e-3 }],
    ['code E4', { kind: 'code', code: 'E4' }],
    ['rail p5 5', { kind: 'rail', net: 'p5', volt: 5 }],
    ['condemn c1 it bulges', { kind: 'condemn', ref: 'C1', probability: 0.5, reason: 'it bulges' }],
    ['clear c1', { kind: 'acquit', ref: 'C1' }],
    ['leave U7 lifted', { kind: 'pause', where: 'U7 lifted' }],
  ])('%s', (text, expected) => expect(body(text)).toMatchObject(expected));

  it('several with semicolons; a column of values over points; a column over a list', () => {
    const list = ['VM', 'P5'].map((at) => ({
      setup: 'on' as const,
      kind: 'voltage' as const,
      at,
      to: '',
    }));
    const nets = supply.nets
      .filter((net) => net !== '0')
      .slice(0, 2)
      .map((net) => net.toLowerCase());
    const read = items(`${nets[0]} 4.98; c1 off; back`);
    expect(read.map(({ kind }) => kind)).toEqual(['reading', 'entry', 'back']);
    expect(items(`${nets[0]} ${nets[1]} = 5.01 8.6`)).toHaveLength(2);
    expect(refused(`${nets[0]} ${nets[1]} = 5.01`)).toContain('2 points, 1 values');
    const own = on({ list: list.map((one, i) => ({ ...one, at: nets[i]! })) });
    const values = (text: string) =>
      items(text, own).map((item) =>
        item.kind === 'reading' ? `${item.measurement.at.net} ${item.value}`.toLowerCase() : '',
      );
    expect(values('5.01 8.6')).toEqual([`${nets[0]} 5.01`, `${nets[1]} 8.6`]);
    expect(values('5.01; 8.6')).toEqual([`${nets[0]} 5.01`, `${nets[1]} 8.6`]);
    expect(values(`${nets[1]} 8.6`)).toEqual([`${nets[1]} 8.6`]);
    expect(refused('5 6 7', own)).toContain('3 values for 2 points');
  });

  it('a dash passes a proposed reading over, alone and in a column', () => {
    const list = ['C1', 'C2', 'C3'].map((ref) => ({
      setup: 'off' as const,
      kind: 'esr' as const,
      at: `${ref}.1`,
      to: `${ref}.2`,
    }));
    const filed = (text: string) =>
      items(text, on({ list })).map((item) =>
        item.kind === 'reading'
          ? `${item.measurement.at.pin!.part.ref} ${item.value}`
          : item.kind === 'entry' &&
            item.body.kind === 'skip' &&
            `${item.body.at} ${item.body.why}`,
      );
    expect(filed('-')).toEqual(['C1.1 reach']);
    expect(filed('0.1 - 0.3')).toEqual(['C1 0.1', 'C2.1 reach', 'C3 0.3']);
    expect(filed('-; 0.2')).toEqual(['C1.1 reach', 'C2 0.2']);
    expect(refused('-')).toContain('-');
    expect(refused('- - - -', on({ list }))).toContain('4 values for 3 points');
  });

  it('what a part measures by itself is read to the last word, or not at all', () => {
    for (const text of [
      'alone',
      'alone c1',
      'alone c1 tan',
      'alone c1 ol',
      'alone c1 5V',
      'alone c1 82u what',
    ])
      expect(refused(text), text).toMatch(/alone|C1/);
    expect(refused('alone c999 82u')).toContain('no part');
    expect(refused('zero')).toContain('zero');
    expect(refused('zero OL')).toContain('zero');
    // Beyond what the journal takes it is refused here, not by the server.
    expect(refused('zero 50')).toContain('zero');
    expect(refused('alone c1 20F')).toContain('C1');
  });

  it('a name goes before a value that it could be: a net P9 is no 0.9 p', () => {
    const proposal = { setup: 'on' as const, kind: 'voltage' as const, at: 'P5', to: '' };
    const bare = (text: string): StripContext =>
      on({ index: indexBoard(scratchBoard(text, LIBRARY)), hasSheet: false, list: [proposal] });
    const [item] = items('p9 9', bare('p9 9'));
    expect(item?.kind === 'reading' && item.measurement.at.net).toBe('P9');
    expect(refused('p9', bare('p9'))).toContain('the value');
    const sheet = on({ list: [{ ...proposal, at: 'VM' }] });
    expect(refused('p5', sheet)).toContain('the value');
    // A level stays a level, whatever nets are called.
    const level = { ...proposal, kind: 'logic' as const };
    expect(items('p', on({ list: [level] }))[0]?.kind).toBe('reading');
  });

  it('says how far it got, and nothing is half understood', () => {
    expect(refused('f1 on')).toContain('F1 went on');
    expect(refused('condemn c999')).toContain('no part "c999"');
    expect(refused('seen mould c1 3mm')).toContain('leak');
    expect(refused('start')).toContain('ok, or the first stage');
    expect(refused('run')).toContain('passes, then');
    expect(refused('run some')).toContain('passes, then');
    expect(refused('run 12 of card 14')).toContain('one of pressed, written here');
    expect(refused('run 12 in hot')).toContain('"hot" | how the unit was');
    expect(refused('c1 off; nonsense here')).toContain('1 before it');
    expect(refused('')).toContain('a point and a value');
    expect(refused(' ; ; ')).toContain('between the semicolons');
  });

  it('doubts a unit of another kind and what no board has, and still takes it', () => {
    const doubt = (text: string): string | undefined => {
      const [item] = items(text);
      return item?.kind === 'reading' ? item.doubt : 'no reading';
    };
    const net = supply.nets.find((one) => one !== '0')!;
    expect(doubt('c1 1.03v esr')).toContain('read in ohms');
    expect(doubt(`${net} 4980`)).toContain('the supplies of this sheet');
    expect(doubt('c1 470 esr')).toContain('not farads');
    expect(doubt('r1 80M')).toContain('OL');
    expect(doubt('c1 1.03 esr')).toBeUndefined();
  });

  it('without a sheet parts come into being by their letters, and words stay words', () => {
    const scratch = (text: string): StripContext =>
      on({ index: indexBoard(scratchBoard(text, LIBRARY)), hasSheet: false });
    expect(body('c9 on 100u', scratch('c9 on 100u'))).toMatchObject({
      kind: 'fitted',
      ref: 'C9',
      value: '100u',
    });
    expect(body('note nothing yet', scratch('note nothing yet'))).toMatchObject({
      text: 'nothing yet',
    });
    expect(items('vm 8.6', scratch('vm 8.6'))[0]?.kind).toBe('reading');
  });
});

describe('what the strip prints it can read', () => {
  const word = fc
    .stringMatching(/^[A-Za-z0-9%+.,:-]{1,12}$/)
    .filter((one) => !/^(note|with|heard|polarity|same|sat)$/i.test(one));
  const words = fc.array(word, { minLength: 1, maxLength: 5 }).map((all) => all.join(' '));
  const plain = words.filter((text) => !/^\d+(s|$)|^x\d/.test(text));
  const sat = fc.constantFrom({}, { sat: 'minus left' });
  const ref = fc.constantFrom(...supply.replaceable.keys());
  /** A number of four figures with an exponent in this range. */
  const figure = (least: number, most: number) =>
    fc
      .tuple(fc.integer({ min: 1000, max: 9999 }), fc.integer({ min: least, max: most }))
      .map(([digits, power]) => Number(`${digits}e${power - 3}`));
  const bodies = fc.oneof(
    words.map((text): EntryBody => ({ kind: 'finding', text: `${text}; ${text}` })),
    words.map((text): EntryBody => ({ kind: 'symptom', text })),
    words.map((where): EntryBody => ({ kind: 'pause', where })),
    word.map((code): EntryBody => ({ kind: 'code', code })),
    ref.map((one): EntryBody => ({ kind: 'acquit', ref: one })),
    fc
      .tuple(ref, words)
      .map(([one, reason]): EntryBody => ({ kind: 'condemn', ref: one, probability: 0.5, reason })),
    fc
      .tuple(ref, plain, sat, fc.constantFrom('', 'lifted pad'))
      .map(([one, value, own, note]): EntryBody => ({
        kind: 'removed',
        ref: one,
        value,
        ...own,
        note,
      })),
    fc
      .tuple(ref, plain, fc.boolean(), sat, fc.constantFrom('', 'wire from R1'))
      .map(([one, value, polarityChecked, own, note]): EntryBody => ({
        kind: 'fitted',
        ref: one,
        value,
        polarityChecked,
        ...own,
        note,
      })),
    ref.map((one): EntryBody => ({ kind: 'leftOut', ref: one, note: 'why not' })),
    fc
      .record({
        seconds: fc.option(fc.integer({ min: 0, max: 999 }), { nil: undefined }),
        tries: fc.integer({ min: 1, max: 99 }),
        conditions: fc.array(
          word.map((w) => w.replace(/,/g, 'x').toLowerCase()),
          { maxLength: 4 },
        ),
      })
      .map(({ seconds, ...rest }): EntryBody => ({
        kind: 'start',
        failedAt: 'spin',
        sounds: 'a click',
        ...(seconds === undefined ? {} : { seconds }),
        ...rest,
      })),
    fc
      .integer({ min: -30000, max: 30000 })
      .map((count) => count / 100)
      .map((volt): EntryBody => ({ kind: 'rail', net: 'P5', volt: Number(volt.toPrecision(4)) })),
    fc
      .record({
        medium: fc.constantFrom('', 'card 14', 'disc 3B'),
        of: fc.constantFrom('pressed', 'written here', 'written elsewhere', 'foreign'),
        where: fc.constantFrom('', 'side 1', 'last track'),
        states: fc.subarray([...RUN_STATES]),
        passes: fc.integer({ min: 0, max: 99_999 }),
        errors: fc.integer({ min: 0, max: 99_999 }),
        note: fc.constantFrom('', 'lid on'),
      })
      .map((run): EntryBody => ({ kind: 'run', ...run })),
    figure(-3, 0).map((ohm): EntryBody => ({ kind: 'leadZero', ohm })),
    fc
      .record(
        {
          farad: figure(-12, 0),
          leakAmpere: figure(-9, -1),
          dissipation: figure(-3, 1),
          esrOhm: figure(-2, 4),
        },
        { requiredKeys: [] },
      )
      .filter((some) => Object.keys(some).length > 0)
      .map((some): EntryBody => ({ kind: 'offBoard', ref: 'C1', ...some })),
  );

  it('any entry of the kinds that it takes', () => {
    fc.assert(
      fc.property(bodies, (made) => {
        const line = printEntry(made)!;
        expect(body(line)).toEqual(made);
      }),
      { seed: 281, numRuns: 1500 },
    );
  });

  it('any reading of a board', () => {
    for (const index of BOARDS) {
      const candidates = candidateMeasurements(index);
      fc.assert(
        fc.property(
          fc.constantFrom(...candidates),
          fc.integer({ min: 0, max: 4000 }),
          fc.constantFrom('0', '1', 'P', 'Z'),
          (m: Measurement, count, level) => {
            const value =
              m.kind === 'continuity'
                ? 'beep'
                : m.kind === 'logic'
                  ? (level as 'P')
                  : m.kind === 'symptom'
                    ? 'yes'
                    : count / 1000;
            const line = printReading(m, value);
            const [item] = items(line, on({ index }));
            expect(item?.kind, line).toBe('reading');
            if (item?.kind !== 'reading') return;
            expect(measurementKey(item.measurement), line).toBe(measurementKey(m));
            expect(item.value, line).toBe(value);
          },
        ),
        { seed: 282, numRuns: 600 },
      );
    }
  });

  it('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 80 }),
          words.map((w) => `start ${w}`),
          words.map((w) => `c1 on ${w}`),
          words.map((w) => `seen ${w}`),
          words.map((w) => `run 3 ${w}`),
        ),
        (text) => {
          const read = parseStrip(on(), text);
          if (read.ok) expect(read.items.length).toBeGreaterThan(0);
          else expect(read.expected.length).toBeGreaterThan(0);
        },
      ),
      { seed: 283, numRuns: 3000 },
    );
  });
});

describe('help while typing', () => {
  it('every example can be typed as it stands, on every board', () => {
    for (const index of BOARDS)
      for (const { line } of grammarExamples(index))
        expect(() => items(line, on({ index })), line).not.toThrow();
  });

  it('goes on with pins of the part, stages of the unit and words of the grammar', () => {
    const logic = BOARDS.find(({ board }) => board.parts.some(({ kind }) => kind === 'chip'))!;
    const chip = logic.board.parts.find(({ kind }) => kind === 'chip')!;
    const context = on({ index: logic });
    const pins = completions(context, `${chip.ref.toLowerCase()}.`).words;
    expect(pins.length).toBeGreaterThan(1);
    expect(pins.every((word) => word.startsWith(`${chip.ref}.`))).toBe(true);
    expect(completions(on(), 'no').words).toContain('note');
    expect(completions(on(), 'c1 of').words).toContain('off');
    expect(completions(on(), 'c1 off; con').words).toContain('condemn');
    expect(completions(on(), 'c1 ').words).toEqual([]);
    expect(completions(on(), 'c1 off; con').from).toBe('c1 off; '.length);
  });
});

describe('what is said', () => {
  it.each([
    ['see six one point oh three e s r', 'c6 1.03 esr'],
    ['C6 1.03 ESR', 'c6 1.03 esr'],
    ['you seven pin eleven low', 'u7.11 lo'],
    ['r twelve four point seven kilo', 'r12 4.7k'],
    ['eff one beep', 'eff 1 beep'],
    ['p five four point nine eight volts', 'p5 4.98V'],
    ['f one open semicolon note flux', 'f1 open; note flux'],
    ['see twenty three off', 'c23 off'],
    ['vm minus two point five volts', 'vm -2.5V'],
    ['', ''],
  ])('%s', (heard, line) => expect(spokenLine(heard)).toBe(line));
});
