import { describe, expect, it } from 'vitest';
import { indexBoard, readDeck, type BoardIndex } from '@hanzai/core/board';
import {
  Diagnoser,
  minimalDiagnoses,
  minimalHittingSets,
  type Belief,
} from '@hanzai/core/diagnosis';
import { parseFault } from '@hanzai/core/fault';
import {
  BenchState,
  resolveMeasurement,
  type Reading,
  type ReadingValue,
} from '@hanzai/core/instrument';
import { expectedRepairMinutes, repairOrder } from '@hanzai/core/plan';
import { LIBRARY, RATES } from '@hanzai/data';

function deck(lines: readonly string[]): BoardIndex {
  const result = readDeck(['classic', 'V1 VCC 0 5', ...lines, '.end'].join('\n'), LIBRARY);
  if (!result.ok) throw new Error(JSON.stringify(result.issues));
  return indexBoard(result.value);
}

function levels(index: BoardIndex, seen: Readonly<Record<string, ReadingValue>>): Reading[] {
  return Object.entries(seen).map(([net, value]) => {
    const m = resolveMeasurement(index, 'on', 'logic', net, '');
    if (!m.ok) throw new Error(m.what);
    return { measurement: m.measurement, value };
  });
}

/**
 * One gate alone in its package, as one component of a textbook circuit. The rest of the package is
 * tied down.
 */
const gate = (
  ref: string,
  name: '7400' | '7408' | '7432' | '7486',
  a: string,
  b: string,
  y: string,
): string => `X${ref} ${a} ${b} ${y} 0 0 ${ref}n1 0 ${ref}n2 0 0 ${ref}n3 0 0 VCC ${name}`;

const shareOf = (belief: Belief, ref: string): number =>
  belief.byPart.find((part) => part.ref === ref)!.probability;
/** Minimal diagnoses and conflicts by name, in a fixed order. */
function sets(
  index: BoardIndex,
  readings: readonly Reading[],
  components: Readonly<Record<string, readonly string[]>>,
): { diagnoses: string[]; conflicts: string[] } {
  const names = Object.keys(components);
  const text = (list: readonly number[][]): string[] =>
    list
      .map((set) =>
        set
          .map((i) => names[i])
          .sort()
          .join(' '),
      )
      .sort();
  const diagnoses = minimalDiagnoses(index, readings, Object.values(components));
  return { diagnoses: text(diagnoses), conflicts: text(minimalHittingSets(diagnoses)) };
}

/** Belief in a set of parts being bad together and nothing else. */
const shareOfSet = (belief: Belief, refs: readonly string[]): number =>
  belief.suspects
    .filter(
      ({ hypothesis }) =>
        hypothesis.refs.length === refs.length &&
        refs.every((ref) => hypothesis.refs.includes(ref)),
    )
    .reduce((sum, { probability }) => sum + probability, 0);

describe('full adder', () => {
  // Source: R. Reiter, "A theory of diagnosis from first principles", Artificial Intelligence 32,
  // 1987, figure 1: inputs 1, 0, 1 give sum 1 and carry 0, both wrong. Minimal diagnoses there:
  // {X1}, {X2, O1}, {X2, A2}.
  const index = deck([
    'VA A 0 5',
    'VB B 0 0',
    'VC C 0 5',
    gate('UX1', '7486', 'A', 'B', 'P'),
    gate('UX2', '7486', 'P', 'C', 'SUM'),
    gate('UA1', '7408', 'A', 'B', 'G'),
    gate('UA2', '7408', 'P', 'C', 'H'),
    gate('UO1', '7432', 'G', 'H', 'CARRY'),
  ]);
  const belief = new Diagnoser(index, RATES).believe(levels(index, { SUM: '1', CARRY: '0' }));
  it('its minimal diagnoses and conflicts are the published ones', () => {
    const components = { X1: ['UX1'], X2: ['UX2'], A1: ['UA1'], A2: ['UA2'], O1: ['UO1'] };
    const { diagnoses, conflicts } = sets(
      index,
      levels(index, { SUM: '1', CARRY: '0' }),
      components,
    );
    expect(diagnoses).toEqual(['A2 X2', 'O1 X2', 'X1']);
    expect(conflicts).toEqual(['A2 O1 X1', 'X1 X2']);
  });
  it('the single diagnosis leads', () => expect(belief.byPart[0]!.ref).toBe('UX1'));
  it('nothing else alone explains both outputs', () => {
    // An input shorted inside UX2 or UA2 would pull P down for both, which a textbook gate cannot:
    // that much is left to them.
    for (const ref of ['UX2', 'UA1', 'UA2', 'UO1'])
      expect(shareOfSet(belief, [ref])).toBeLessThan(0.1);
  });
  it('the published double diagnoses are the likeliest pairs', () => {
    const again = new Diagnoser(index, RATES, (ref) => (ref === 'UX1' ? 1e-9 : 1)).believe(
      levels(index, { SUM: '1', CARRY: '0', P: '1' }),
    );
    const doubles = again.suspects.filter(({ hypothesis }) => hypothesis.type === 'joint');
    expect(doubles.length).toBeGreaterThan(5);
    const named = new Set(doubles.slice(0, 8).map(({ hypothesis }) => hypothesis.refs.join(' ')));
    expect(
      [...named].every((refs) => ['UX2 UA2', 'UX2 UO1'].includes(refs)),
      [...named].join(', '),
    ).toBe(true);
  });
});

describe('multiplier-adder', () => {
  // Source: J. de Kleer & B. Williams, "Diagnosing multiple faults", Artificial Intelligence 32,
  // 1987: A 3, B 2, C 2, D 3, E 3; F should be 12 and is 10, G is 12 as it should be. Minimal
  // diagnoses there: [A1], [M1], [A2, M2], [M2, M3]. Multipliers of two bits: four ANDs and an
  // adder; X = A C, Y = B D, Z = C E.
  const multiplier = (m: string, a: string, b: string, out: string): string[] => [
    `XU${m}A ${a}0 ${b}0 ${out}0 ${a}1 ${b}0 ${m}p 0 ${m}q ${a}0 ${b}1 ${m}r ${a}1 ${b}1 VCC 7408`,
    `XU${m}B ${m}n1 ${out}3x 0 0 VCC ${out}2 0 ${m}r ${out}1 ${m}p ${m}q 0 0 ${m}n2 ${m}n3 0 7483`,
  ];
  const adder = (ref: string, x: string, y: string, f: string): string =>
    `XU${ref} ${x}3x ${f}2 ${x}2 ${y}2 VCC ${f}1 ${y}1 ${x}1 ${f}0 ${x}0 ${y}0 0 0 ${ref}c ${f}3 ${y}3x 7483`;
  const number = (name: string, value: number): string[] =>
    [0, 1].map((bit) => `V${name}${bit} ${name}${bit} 0 ${(value >> bit) & 1 ? 4 : 0.2}`);
  const index = deck([
    ...number('A', 3),
    ...number('B', 2),
    ...number('C', 2),
    ...number('D', 3),
    ...number('E', 3),
    ...multiplier('M1', 'A', 'C', 'X'),
    ...multiplier('M2', 'B', 'D', 'Y'),
    ...multiplier('M3', 'C', 'E', 'Z'),
    adder('A1', 'X', 'Y', 'F'),
    adder('A2', 'Y', 'Z', 'G'),
  ]);
  const value = (nets: Record<string, number | null>, name: string): number =>
    [0, 1, 2, 3].reduce((sum, bit) => sum + ((nets[`${name}${bit}`] ?? 0) > 1.5 ? 2 ** bit : 0), 0);
  const seen = (name: string, number: number): Record<string, ReadingValue> =>
    Object.fromEntries(
      [0, 1, 2, 3].map((bit) => [`${name}${bit}`, (number >> bit) & 1 ? '1' : '0']),
    );

  it('computes 12 and 12 when it is sound', () => {
    const nets = new BenchState(index, {
      setup: 'on',
      faults: [],
      absent: [],
    }).netVolts() as Record<string, number | null>;
    expect([value(nets, 'F'), value(nets, 'G')]).toEqual([12, 12]);
  });
  it('its minimal diagnoses and conflicts are the published ones', () => {
    const components = {
      M1: ['UM1A', 'UM1B'],
      M2: ['UM2A', 'UM2B'],
      M3: ['UM3A', 'UM3B'],
      A1: ['UA1'],
      A2: ['UA2'],
    };
    const { diagnoses, conflicts } = sets(
      index,
      levels(index, { ...seen('F', 10), ...seen('G', 12) }),
      components,
    );
    expect(diagnoses).toEqual(['A1', 'A2 M2', 'M1', 'M2 M3']);
    expect(conflicts).toEqual(['A1 A2 M1 M3', 'A1 M1 M2']);
  });
  it('accuses the first multiplier and the first adder alone, and no other component alone', () => {
    const belief = new Diagnoser(index, RATES).believe(
      levels(index, { ...seen('F', 10), ...seen('G', 12) }),
    );
    const [first, adderShare] = [
      shareOfSet(belief, ['UM1A']) + shareOfSet(belief, ['UM1B']),
      shareOfSet(belief, ['UA1']),
    ];
    expect(first + adderShare).toBeGreaterThan(0.85);
    expect(Math.min(first, adderShare)).toBeGreaterThan(0.02);
    for (const ref of ['UM2A', 'UM2B', 'UM3A', 'UM3B', 'UA2'])
      expect(shareOf(belief, ref)).toBeLessThan(0.1);
  });
});

describe('c17', () => {
  // Source: ISCAS-85 benchmark c17 (Brglez & Fujiwara, ISCAS 1985): six NAND gates; 22 = nand(10,
  // 16), 23 = nand(16, 19), 10 = nand(1, 3), 11 = nand(3, 6), 16 = nand(2, 11), 19 = nand(11, 7).
  const circuit = (inputs: readonly number[]): string[] => [
    ...['N1', 'N2', 'N3', 'N6', 'N7'].map((net, i) => `V${net} ${net} 0 ${inputs[i] ? 4 : 0.2}`),
    gate('U10', '7400', 'N1', 'N3', 'N10'),
    gate('U11', '7400', 'N3', 'N6', 'N11'),
    gate('U16', '7400', 'N2', 'N11', 'N16'),
    gate('U19', '7400', 'N11', 'N7', 'N19'),
    gate('U22', '7400', 'N10', 'N16', 'N22'),
    gate('U23', '7400', 'N16', 'N19', 'N23'),
  ];
  const vectors = Array.from({ length: 32 }, (_, v) =>
    [0, 1, 2, 3, 4].map((bit) => (v >> bit) & 1),
  );
  it('gives its outputs for all 32 inputs', () => {
    for (const inputs of vectors) {
      const [n1, n2, n3, n6, n7] = inputs.map(Boolean) as [
        boolean,
        boolean,
        boolean,
        boolean,
        boolean,
      ];
      const n11 = !(n3 && n6);
      const n16 = !(n2 && n11);
      const expected = [!(!(n1 && n3) && n16), !(n16 && !(n11 && n7))];
      const nets = new BenchState(deck(circuit(inputs)), {
        setup: 'on',
        faults: [],
        absent: [],
      }).netVolts() as Record<string, number | null>;
      expect([nets.N22! > 1.5, nets.N23! > 1.5], inputs.join('')).toEqual(expected);
    }
  });
  it('the sets that explain a vector with both outputs wrong are those of an enumeration over the gates alone', () => {
    const gates: Record<string, (v: Record<string, boolean>) => boolean> = {
      10: (v) => !(v.N1! && v.N3!),
      11: (v) => !(v.N3! && v.N6!),
      16: (v) => !(v.N2! && v[11]!),
      19: (v) => !(v[11]! && v.N7!),
      22: (v) => !(v[10]! && v[16]!),
      23: (v) => !(v[16]! && v[19]!),
    };
    const names = Object.keys(gates);
    const explains = (free: Readonly<Record<string, boolean>>): boolean => {
      const v: Record<string, boolean> = { N1: true, N2: true, N3: true, N6: true, N7: true };
      for (const name of names) v[name] = free[name] ?? gates[name]!(v);
      return !v[22] && v[23] === true;
    };
    const both = [false, true];
    const singles = names.filter((g) => both.some((level) => explains({ [g]: level })));
    const pairs = names.flatMap((g, i) =>
      names
        .slice(i + 1)
        .filter((h) => both.some((x) => both.some((y) => explains({ [g]: x, [h]: y }))))
        .map((h) => [g, h]),
    );
    const smallest = [
      ...singles,
      ...pairs
        .filter((pair) => !pair.some((g) => singles.includes(g)))
        .map((pair) => pair.sort().join(' ')),
    ].sort();
    const index = deck(circuit([1, 1, 1, 1, 1]));
    const components = Object.fromEntries(names.map((name) => [name, [`U${name}`]]));
    expect(smallest.length).toBeGreaterThan(1);
    expect(sets(index, levels(index, { N22: '0', N23: '1' }), components).diagnoses).toEqual(
      smallest,
    );
  });
  it('both outputs wrong at 1, 1, 1, 1, 1 point at what they share: gates 11 and 16', () => {
    const index = deck(circuit([1, 1, 1, 1, 1]));
    // Sound: 10 is 0, 11 is 0, 16 is 1, 19 is 1, 22 is 1, 23 is 0. Seen: 22 is 1 still, 23 is 1.
    const belief = new Diagnoser(index, RATES).believe(levels(index, { N22: '1', N23: '1' }));
    const shared = ['U11', 'U16', 'U19', 'U23'].reduce(
      (sum, ref) => sum + shareOfSet(belief, [ref]),
      0,
    );
    // Two readings on a sheet of six gates: a part of the belief stays with a fault beside the
    // sheet.
    expect(shared).toBeGreaterThan(0.8);
    expect(shareOf(belief, 'U10')).toBeLessThan(0.03);
  });
  it('has the stuck-at faults of the published collapsed list: 22, of which two sit on the stem of input 3 that is no pin of a gate', () => {
    // Source: ISCAS-85 c17 has 17 lines, 34 single stuck-at faults, 22 after collapsing by
    // equivalence (Brglez & Fujiwara 1985), every one of them detectable.
    const pins = ['U10', 'U11', 'U16', 'U19', 'U22', 'U23'].flatMap((ref) =>
      [1, 2, 3].flatMap((pin) => [`${ref}.${pin}:stuck-0`, `${ref}.${pin}:stuck-1`]),
    );
    const signatures = new Map(pins.map((name) => [name, '']));
    let sound = '';
    for (const inputs of vectors) {
      const index = deck(circuit(inputs));
      const base = new BenchState(index, { setup: 'on', faults: [], absent: [] });
      const outputs = (state: BenchState): string => {
        const nets = state.netVolts() as Record<string, number | null>;
        return `${nets.N22! > 1.5 ? 1 : 0}${nets.N23! > 1.5 ? 1 : 0}`;
      };
      sound += outputs(base);
      for (const name of pins) {
        const parsed = parseFault(index, name);
        if (!parsed.ok) throw new Error(parsed.what);
        const faulty = new BenchState(
          index,
          { setup: 'on', faults: [{ fault: parsed.fault }], absent: [] },
          base,
        );
        signatures.set(name, signatures.get(name)! + outputs(faulty));
      }
    }
    expect(
      [...signatures].filter(([, signature]) => signature === sound).map(([name]) => name),
    ).toEqual([]);
    expect(new Set(signatures.values()).size).toBe(22 - 2);
  });
});

describe('order of repairs', () => {
  // Source: Heckerman, Breese & Rommelse, CACM 38(3), 1995: with one fault and independent costs
  // the best order is by probability over cost.
  it('by probability over cost is the cheapest of all orders', () => {
    const steps = [
      { ref: 'a', probability: 0.5, minutes: 30 },
      { ref: 'b', probability: 0.2, minutes: 5 },
      { ref: 'c', probability: 0.25, minutes: 40 },
      { ref: 'd', probability: 0.05, minutes: 2 },
    ];
    const permutations = <T>(list: readonly T[]): T[][] =>
      list.length < 2
        ? [[...list]]
        : list.flatMap((first, i) =>
            permutations([...list.slice(0, i), ...list.slice(i + 1)]).map((rest) => [
              first,
              ...rest,
            ]),
          );
    const all = permutations(steps).map((order) => expectedRepairMinutes(order, 0));
    expect(all.length).toBe(24);
    expect(expectedRepairMinutes(repairOrder(steps), 0)).toBeCloseTo(Math.min(...all), 9);
    expect(repairOrder(steps).map(({ ref }) => ref)).toEqual(['b', 'd', 'a', 'c']);
  });
});
