import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { describeIssue, readBoardFile, readDeck, writeDeck, type Board } from '../src/board';
import { LIBRARY } from '@hanzai/data';

// A board means the same as deck and as Board JSON: what a sheet has beside its parts travels in
// annotations.

const deckOf = (...lines: string[]): ReturnType<typeof readDeck> =>
  readDeck(['t', 'R1 A B 1k', ...lines, '.end'].join('\n'));
function boardOf(...lines: string[]): Board {
  const result = deckOf(...lines);
  if (!result.ok) throw new Error(result.issues.map(describeIssue).join('\n'));
  return result.value;
}
const issueOf = (...lines: string[]): string => {
  const result = deckOf(...lines);
  return result.ok ? 'no issue' : result.issues.map(describeIssue).join('\n');
};

describe('the demo boards', () => {
  const folder = new URL('../../data/demo/boards/', import.meta.url);
  it.each(readdirSync(folder).filter((name) => name.endsWith('.json')))(
    '%s says the same as deck',
    (name) => {
      const json = readBoardFile(name, readFileSync(new URL(name, folder), 'utf8'), LIBRARY);
      const deck = readBoardFile(
        'x.cir',
        readFileSync(new URL(name.replace('.json', '.cir'), folder), 'utf8'),
        LIBRARY,
      );
      if (!json.ok || !deck.ok) throw new Error('cannot be read');
      // An empty list says what none says.
      const said = Object.fromEntries(
        Object.entries(json.value).filter(([, value]) => !Array.isArray(value) || value.length > 0),
      );
      expect(deck.value).toStrictEqual(said);
    },
  );
});

describe('any sheet', () => {
  const word = fc
    .stringMatching(/^[A-Za-z0-9_/+.:-]{1,12}$/)
    .filter((text) => !/^[<>|]/.test(text));
  const text = fc.stringMatching(
    /^[A-Za-z0-9=;*@,.'()µΩ-]([A-Za-z0-9 =;*@,.'()µΩ-]{0,30}[A-Za-z0-9=;*@,.'()µΩ-])?$/,
  );
  const name = fc.stringMatching(/^[a-z][a-z0-9-]{0,20}$/);
  const number = fc.double({ min: -1e6, max: 1e6, noNaN: true }).map((x) => x || 0);
  const ref = fc.stringMatching(/^[A-Z]{1,3}[0-9]{1,3}$/);
  const refs = fc.option(fc.array(ref, { minLength: 1, maxLength: 3 }), { nil: undefined });
  const maybe = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> =>
    fc.option(of, { nil: undefined });
  const place = fc.tuple(number, number);
  const sheet = fc.record({
    outlineMm: maybe(
      fc.record({
        width: fc.integer({ min: 1, max: 900 }),
        height: fc.integer({ min: 1, max: 900 }),
      }),
    ),
    setups: maybe(
      fc.array(
        fc.record({
          name,
          blocked: refs,
          thrown: refs,
          unplugged: refs,
          turning: maybe(fc.dictionary(ref, number, { minKeys: 1, maxKeys: 3 })),
        }),
        {
          minLength: 1,
          maxLength: 3,
        },
      ),
    ),
    observables: maybe(
      fc.array(
        fc.record({
          name,
          title: text,
          setup: maybe(name),
          when: fc.array(
            fc.oneof(
              fc.record({
                type: fc.constant('volts' as const),
                at: word,
                to: maybe(word),
                magnitude: fc.constantFrom(true, undefined),
                least: maybe(number),
                most: maybe(number),
              }),
              fc.record({
                type: fc.constant('ampere' as const),
                ref,
                least: maybe(number),
                most: maybe(number),
              }),
              fc.record({
                type: fc.constant('level' as const),
                at: word,
                is: fc.uniqueArray(fc.constantFrom('0', '1', 'P', 'Z'), { minLength: 1 }),
              }),
            ),
            { minLength: 1, maxLength: 4 },
          ),
        }),
        { minLength: 1, maxLength: 3 },
      ),
    ),
    edges: maybe(
      fc.array(fc.record({ net: word, note: maybe(text) }), { minLength: 1, maxLength: 3 }),
    ),
    testPoints: maybe(
      fc.array(fc.record({ net: word, label: text, positionMm: maybe(place) }), {
        minLength: 1,
        maxLength: 3,
      }),
    ),
    hazards: maybe(
      fc.array(
        fc.record({ kind: fc.constantFrom('mains', 'laser', 'hot'), ref: maybe(ref), note: text }),
        { minLength: 1, maxLength: 3 },
      ),
    ),
  });
  it('comes back as it was', () => {
    fc.assert(
      fc.property(
        sheet,
        fc.array(fc.option(place), { minLength: 1, maxLength: 2 }),
        (extra, pinPositionsMm) => {
          const board = JSON.parse(
            JSON.stringify({
              format: 'hanzai-board',
              version: 1,
              title: 'any',
              parts: [
                {
                  kind: 'resistor',
                  ref: 'R1',
                  pins: ['A', 'B'],
                  resistanceOhm: 1000,
                  pinPositionsMm,
                },
              ],
              ...extra,
            }),
          ) as Board;
          const read = readDeck(writeDeck(board));
          expect(read.ok ? read.value : read.issues).toEqual(board);
        },
      ),
      { seed: 20270, numRuns: 300 },
    );
  });
  it('cannot put a line of its own into a deck', () => {
    const board = {
      ...boardOf(),
      edges: [{ net: 'A', note: 'here\nR9 A B 1\n.end' }],
      title: 'a\nR8 A B 1',
    };
    const read = readDeck(writeDeck(board));
    expect(read.ok && read.value.parts.map((part) => part.ref)).toEqual(['R1']);
    expect(read.ok && read.value.edges).toEqual([{ net: 'A', note: 'here R9 A B 1 .end' }]);
  });
});

describe('lines written by hand', () => {
  it('are read in any order and any case of their word', () => {
    const board = boardOf(
      '*@ .Outline 120,80',
      '*@ .OBSERVABLE lit title="the lamp is lit" when="ampere D1 >=5m ; |volts| A B <=2.5 ; level EN 1P"',
    );
    expect(board.outlineMm).toEqual({ width: 120, height: 80 });
    expect(board.observables).toEqual([
      {
        name: 'lit',
        title: 'the lamp is lit',
        when: [
          { type: 'ampere', ref: 'D1', least: 0.005 },
          { type: 'volts', at: 'A', to: 'B', magnitude: true, most: 2.5 },
          { type: 'level', at: 'EN', is: ['1', 'P'] },
        ],
      },
    ]);
  });
  it.each([
    ['*@ .outline 120', /line 3: cannot read the outline; expected .outline 120,80/],
    ['*@ .outline 0,80', /outline/],
    ['*@ .edge', /line 3: cannot read the edge.*net/],
    ['*@ .setup Running', /setup Running: name; expected .setup run/],
    ['*@ .setup run turning=G1:fast', /turning/],
    ['*@ .observable lit title=x', /when/],
    ['*@ .observable lit title=x when="volts A B C"', /when/],
    ['*@ .observable lit title=x when="level A 2"', /when/],
    ['*@ .observable lit title=x when="ampere D1 >=lots"', /when/],
    ['*@ .hazard gravity note=x', /hazard gravity: kind/],
    ['*@ .testpoint A pos=1,2', /label/],
    ['*@ R1 pins=1,2;3', /R1: cannot read pins/],
  ])('%s is refused with its line', (line, message) => expect(issueOf(line)).toMatch(message));
  it('that are not known are left out with a note', () => {
    const result = deckOf('*@ .colour green');
    expect(result.ok && result.notes).toEqual(['line 3: annotation .colour is not known, skipped']);
  });
  it('a program that does not compile is refused with its line, in a deck and in Board JSON', () => {
    const lines = ['t', 'V1 P5 0 5', 'XY1 a 0 c P5 CLOCK4', '*@ Y1 program="Y = (("', '.end'].join(
      '\n',
    );
    const deck = readDeck(lines, LIBRARY);
    expect(deck.ok ? '' : deck.issues.map(describeIssue).join()).toMatch(
      /line 4: Y1: cannot read program/,
    );
    const sound = readDeck(lines.replace('Y = ((', 'Y = 1'), LIBRARY);
    if (!sound.ok) throw new Error('deck');
    expect(sound.value.parts[1]).toMatchObject({ model: { function: ['Y = 1'] } });
    for (const wrong of ['Y = ((', 'Y = NOBODY', 'nonsense']) {
      const json = readBoardFile(
        'x.json',
        JSON.stringify(sound.value).replace('Y = 1', wrong),
        LIBRARY,
      );
      expect(json.ok ? '' : json.issues.map(describeIssue).join()).toMatch(/function/);
    }
    // A chip of the library does what it does.
    const gate = readDeck(
      't\nXU1 a b c d e f 0 h i j k l m P5 74LS00\n*@ U1 program="Y1 = 1"\n.end',
      LIBRARY,
    );
    expect(gate.ok).toBe(false);
  });
  it('ESR may be zero, and what is not known may be said so', () => {
    const board = boardOf(
      'C1 A 0 10u',
      '*@ C1 esr=0',
      'C2 A 0 10u',
      '*@ C2 esr=? volt=? tol=? kind=electrolytic',
    );
    expect(board.parts[1]).toMatchObject({ ref: 'C1', esrOhm: 0 });
    expect(board.parts[2]).toEqual({
      kind: 'capacitor',
      ref: 'C2',
      pins: ['A', '0'],
      capacitanceFarad: 10e-6,
      dielectric: 'electrolytic',
    });
    expect(issueOf('C1 A 0 10u', '*@ C1 esr=-1')).toMatch(/esr=-1/);
  });
});
