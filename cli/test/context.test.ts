import { describe, expect, it, vi } from 'vitest';
import { writeBoardJson } from '@hanzai/core/board';
import { demoBoard } from '@hanzai/data/demo';
import { diagnoseBoard, next } from '../src/verbs';
import { deck, file } from './files';

// `--context FILE`: what was said and done moves the parts of the board. The pattern is one of the
// library's (common practice, no published source).

interface Diagnosis {
  byPart: { ref: string; probability: number }[];
  unit?: string;
  blocks?: { block: string; probability: number }[];
}

const pd3 = file('json', writeBoardJson(demoBoard('pd3If')));
const context = (content: unknown): string =>
  file('json', typeof content === 'string' ? content : JSON.stringify(content));
const diagnose = (content: unknown, ...more: string[]): Diagnosis =>
  diagnoseBoard([pd3, '--context', context(content), ...more]).json as Diagnosis;
const first = ({ byPart }: Diagnosis, count: number): string[] =>
  byPart.slice(0, count).map(({ ref }) => ref);

/** Parts of PD3-IF that stand on the host's lines. */
const BUS = ['U1', 'U2', 'U3', 'U4', 'S1', 'S2', 'D6', 'D7', 'D8', 'D9', 'RN1'];

describe('what was said of the unit', () => {
  it('after "host says no device" the bus parts lead, and no capacitor is among the first six', () => {
    const said = diagnose({ unit: 'flexible-disk-unit', patterns: ['no-device'] });
    for (const ref of first(said, 6)) expect(BUS).toContain(ref);
    expect(
      first(diagnose({ unit: 'flexible-disk-unit' }), 6).some((ref) => ref.startsWith('C')),
    ).toBe(true);
    expect(['bus-receiver', 'bus-driver']).toContain(said.blocks![0]!.block);
  });
  it('a start that stops at the self-test points at processor, ROM and RAM, one that gets to the host away from them', () => {
    const share = (said: Diagnosis, ref: string): number =>
      said.byPart.find((part) => part.ref === ref)!.probability;
    const [boot, host] = [
      diagnose({ unit: 'flexible-disk-unit', stage: 'boot' }),
      diagnose({ unit: 'flexible-disk-unit', stage: 'host' }),
    ];
    for (const ref of ['U6', 'U7', 'U8'])
      expect(share(boot, ref)).toBeGreaterThan(4 * share(host, ref));
    expect(share(host, 'U1')).toBeGreaterThan(4 * share(boot, 'U1'));
  });
  it('the kind of unit is told by the words, or by its pattern', () => {
    expect(
      diagnose({
        complaint: 'the disk unit: head creeps to one side, then the host says no device',
      }).unit,
    ).toBe('flexible-disk-unit');
    expect(diagnose({ patterns: ['spins-without-end'] }).unit).toBe('flexible-disk-unit');
  });
  it('stands beside readings and in the plan', () => {
    const board = deck(
      'V1 A 0 5',
      'R1 A B 1k',
      '*@ R1 role="bus driver"',
      'R2 A C 1k',
      '*@ R2 role="home sensor"',
      'R3 B 0 1k',
      'R4 C 0 1k',
      'R5 B C 1meg',
    );
    const readings = file('csv', 'setup,kind,at,to,value,unit\non,voltage,A,,5,V\n');
    for (const [stage, ref, other] of [
      ['home', 'R2', 'R1'],
      ['host', 'R1', 'R2'],
    ]) {
      const said = ['--context', context({ unit: 'flexible-disk-unit', stage })];
      const { byPart } = diagnoseBoard([board, '--readings', readings, ...said]).json as Diagnosis;
      expect(byPart.findIndex((part) => part.ref === ref)).toBeLessThan(
        byPart.findIndex((part) => part.ref === other),
      );
      const [step] = (
        next([board, ...said, '--json']).json as { measurements: { at: string; to: string }[] }
      ).measurements;
      expect([step!.at, step!.to].join()).toMatch(stage === 'home' ? /C/ : /B/);
    }
  });
  it('codes that change from start to start are one symptom', () => {
    // The library ships no codes; a file cannot bring its own, so what it says of unknown codes
    // moves nothing.
    expect(first(diagnose({ unit: 'flexible-disk-unit', codes: ['3', '7', '9'] }), 3)).toEqual(
      first(diagnose({ unit: 'flexible-disk-unit' }), 3),
    );
  });
});

describe('a context that cannot be used', () => {
  it.each([
    ['no JSON', '{unit', /not JSON/],
    ['another key', { patern: ['no-device'] }, /Unrecognized key|patern/],
    [
      'an unknown kind of unit',
      { unit: 'toaster' },
      /unknown kind of unit "toaster"; expected flexible-disk-unit/,
    ],
    [
      'an unknown pattern',
      { unit: 'flexible-disk-unit', patterns: ['smokes'] },
      /has no pattern "smokes"; expected spins-without-end/,
    ],
    [
      'an unknown stage',
      { unit: 'flexible-disk-unit', stage: 'lunch' },
      /has no stage "lunch"; expected supply, boot/,
    ],
    [
      'an unknown stage of a start',
      { unit: 'flexible-disk-unit', starts: [{ clean: false, stage: 'lunch' }] },
      /has no stage "lunch"/,
    ],
    ['no hint of the unit', { complaint: 'broken' }, /kind of unit is not clear/],
    ['a list', [], /expected/],
    ['null', null, /expected/],
  ])('%s says what is wrong and what is expected', (_, content, words) => {
    expect(() => diagnose(content)).toThrow(words);
  });
  it('without readings or context there is nothing to diagnose', () => {
    expect(() => diagnoseBoard([pd3])).toThrow(/--readings/);
  });
  it('a complaint is only a proposal, said beside the answer', () => {
    const write = vi.spyOn(process.stderr, 'write').mockReturnValue(true);
    const said = diagnose({ unit: 'flexible-disk-unit', complaint: 'host says no device' });
    expect(write.mock.calls.flat().join('')).toMatch(/may speak of no-device/);
    expect(said.byPart).toEqual(diagnose({ unit: 'flexible-disk-unit' }).byPart);
    write.mockRestore();
  });
});
