import { describe, expect, it } from 'vitest';
import { indexBoard, readDeck, type BoardIndex } from '@hanzai/core/board';
import { parseFault } from '@hanzai/core/fault';
import {
  BenchState,
  readout,
  readStepsFile,
  resolveMeasurement,
  stepThrough,
} from '@hanzai/core/instrument';
import { FAMILIES, LIBRARY } from '@hanzai/data';

function deck(lines: string): BoardIndex {
  const result = readDeck(`mixed\nVCC VCC 0 5\n${lines}\n.end`, LIBRARY);
  if (!result.ok) throw new Error(JSON.stringify(result.issues));
  return indexBoard(result.value);
}

function state(index: BoardIndex, ...faults: string[]): BenchState {
  const states = faults.map((name) => {
    const result = parseFault(index, name);
    if (!result.ok) throw new Error(result.what);
    return { fault: result.fault };
  });
  return new BenchState(index, { setup: 'on', faults: states, absent: [] });
}

function nets(index: BoardIndex, ...faults: string[]): Record<string, number | null> {
  const volts = state(index, ...faults).netVolts();
  if ('ok' in volts && volts.ok === false) throw new Error(String(volts.why));
  return volts as Record<string, number | null>;
}

function read(index: BoardIndex, kind: string, at: string, ...faults: string[]): unknown {
  const m = resolveMeasurement(index, '', kind, at, '');
  if (!m.ok) throw new Error(m.what);
  const response = state(index, ...faults).respond(m.measurement);
  if ('ok' in response) throw new Error(response.why);
  return readout(m.measurement.kind, response).value;
}

const inverters = (first: string, name: string, ref = 'U1'): string =>
  `X${ref} ${first} ${ref}c ${ref}d ${ref}e ${ref}f 0 ${ref}g ${ref}h ${ref}i ${ref}j ${ref}k ${ref}l VCC ${name}`;

// Source: published input and output level tables of the TTL and HCMOS families (JEDEC JESD8 for
// the latter), guaranteed values from memory.
describe('families at their pins, 5 V', () => {
  const guaranteed = {
    '': [2.4, 0.4],
    LS: [2.7, 0.5],
    S: [2.7, 0.5],
    ALS: [2.7, 0.5],
    F: [2.7, 0.5],
    HC: [4.3, 0.33],
    HCT: [4.3, 0.33],
  } as const;
  const load = {
    '': [400e-6, 16e-3],
    LS: [400e-6, 8e-3],
    S: [1e-3, 20e-3],
    ALS: [400e-6, 8e-3],
    F: [1e-3, 20e-3],
    HC: [4e-3, 4e-3],
    HCT: [4e-3, 4e-3],
  } as const;
  it.each(Object.keys(guaranteed) as (keyof typeof guaranteed)[])(
    '"%s" keeps its guaranteed levels at its guaranteed load',
    (family) => {
      const [high, low] = guaranteed[family];
      const [source, sink] = load[family];
      const index = deck(
        `VA A 0 0\nVB B 0 5\nXU1 A HI B LO 0 o1 0 o2 0 o3 0 o4 0 VCC 74${family}04\nI1 HI 0 ${source}\nI2 VCC LO ${sink}`,
      );
      const volts = nets(index);
      expect(volts.HI).toBeGreaterThan(high);
      expect(volts.LO).toBeLessThan(low);
    },
  );
  it('lets a TTL input float above its threshold, and an HC input nowhere', () => {
    for (const [name, model] of Object.entries(FAMILIES))
      if (model.input.type === 'ttl')
        expect(model.input.floatVolt, name).toBeGreaterThan(model.thresholdVolt!);
    const ttl = deck(inverters('IN Y', '74LS04'));
    expect(nets(ttl).IN).toBeCloseTo(1.4, 1);
    expect([read(ttl, 'logic', 'IN'), read(ttl, 'logic', 'Y')]).toEqual(['Z', '0']);
    const mos = deck(inverters('IN Y', '74HC04'));
    expect([nets(mos).IN, nets(mos).Y]).toEqual([null, null]);
    expect(read(mos, 'logic', 'IN')).toBe('Z');
  });
});

// A board is switched on with its fault: common practice in fault simulation, no published source.
// What follows holds whether the board is solved from the dark or from the sound one.
describe('a board that is powered with its fault', () => {
  /** The same board with the fault: switched on from the dark, and found from the sound board. */
  function bothWays(index: BoardIndex, fault: string): readonly Record<string, number | null>[] {
    const parsed = parseFault(index, fault);
    if (!parsed.ok) throw new Error(parsed.what);
    const faulty = { setup: 'on', faults: [{ fault: parsed.fault }], absent: [] } as const;
    const sound = new BenchState(index, { setup: 'on', faults: [], absent: [] });
    sound.solve();
    return [new BenchState(index, faulty), new BenchState(index, faulty, sound)].map(
      (one) => one.netVolts() as Record<string, number | null>,
    );
  }

  it('a flip-flop whose clear lets go does not take its data on a clock that only rose with the fault', () => {
    // D high, clock low, cleared: Q low. With the clock pin open the TTL input rests high, but it
    // was never low: Q stays as cleared.
    const cleared = deck(
      'VD D 0 5\nVC CK 0 0\nVR CLR 0 0\nXU1 CLR D CK VCC Q QN 0 q2 qn2 VCC VCC VCC VCC VCC 74LS74',
    );
    for (const volts of bothWays(cleared, 'U1.3:open')) expect(volts.Q).toBeLessThan(0.5);
    // Not cleared, nobody knows what it holds, and a clock pin that opens does not clock a high
    // data into it.
    const free = deck(
      'VD D 0 5\nVC CK 0 0\nXU1 VCC D CK VCC Q QN 0 q2 qn2 VCC VCC VCC VCC VCC 74LS74',
    );
    for (const volts of bothWays(free, 'U1.3:open')) expect(volts.Q).toBeNull();
  });

  it('a Schmitt input that nothing drives any more is high as from the start, not low as it was', () => {
    const chain = deck('VA A 0 5\nXU1 A M M Y 0 x3 0 x4 0 x5 0 x6 0 VCC 74LS14');
    expect(nets(chain).Y).toBeGreaterThan(2.4);
    const [dark, beside] = bothWays(chain, 'U1.2:open');
    expect(beside!.Y).toBeCloseTo(dark!.Y!, 3);
  });

  it('a net on a hundred megohms beside a TTL input has one level', () => {
    const index = deck(`R1 VCC IN 4.7k\n${inverters('IN Y', '74LS04')}`);
    const [dark, beside] = bothWays(index, 'R1:open');
    expect(beside!.IN).toBeCloseTo(dark!.IN!, 3);
  });
});

describe('a gate that never comes to rest', () => {
  it('pulses, and the other gates of its package do not', () => {
    // The first gate drives its own input through a resistor: no level agrees with itself. The
    // second has nothing to do with it.
    const index = deck(
      'VB B 0 0\nR1 A Y 100\nXU1 A Y B Z 0 x3 0 x4 0 x5 0 x6 0 VCC 74LS04\nXU2 Z W 0 y2 0 y3 0 y4 0 y5 0 y6 0 VCC 74LS04',
    );
    const board = state(index);
    expect(board.troubles().oscillating).toEqual(['U1.2']);
    expect(read(index, 'logic', 'Y')).toBe('P');
    expect([read(index, 'logic', 'Z'), read(index, 'logic', 'W')]).toEqual(['1', '0']);
  });
});

describe('nets that several pins share', () => {
  const bus = (pullUp: string): BoardIndex =>
    deck(`VA A 0 0\nVB B 0 0\nXU1 A BUS B BUS 0 x1 0 x2 0 x3 0 x4 0 VCC 7406\n${pullUp}`);
  it('an open-collector net needs its pull-up to be high', () => {
    expect(nets(bus('R1 VCC BUS 4.7k')).BUS).toBeCloseTo(5, 2);
    expect(nets(bus('')).BUS).toBeNull();
    expect(nets(bus('R1 VCC BUS 4.7k'), 'R1:open').BUS).toBeNull();
    expect(read(bus('R1 VCC BUS 4.7k'), 'logic', 'BUS', 'R1:open')).toBe('Z');
    expect(nets(bus('R1 VCC BUS 4.7k'), 'U1.2:stuck-0').BUS).toBeLessThan(0.4);
    expect(nets(bus('R1 VCC BUS 4.7k'), 'U1.2:stuck-1').BUS).toBeCloseTo(5, 2);
  });
  it('names outputs that are against each other; with TTL the low one prevails', () => {
    const index = deck('VA A 0 0\nVB B 0 5\nXU1 A N B N 0 x1 0 x2 0 x3 0 x4 0 VCC 74LS04');
    expect(state(index).troubles().contentions).toEqual([
      { net: 'N', low: ['U1.4'], high: ['U1.2'] },
    ]);
    expect(nets(index).N).toBeLessThan(0.8);
  });
  it('a three-state output that is off drives nothing, stuck it drives whatever its enable', () => {
    const index = deck(
      'VG G 0 5\nVA A 0 5\nXU1 G A Y 0 0 y2 0 y3 0 0 y4 0 0 VCC 74LS125\nR1 Y 0 10k',
    );
    expect(nets(index).Y).toBeCloseTo(0, 3);
    expect(nets(index, 'U1.3:stuck-1').Y).toBeGreaterThan(2.7);
  });
});

describe('faults of a chip', () => {
  const index = deck(
    'VA A 0 5\nVB B 0 0\nXU1 A B Y 0 0 y2 0 y3 0 0 y4 0 0 VCC 74LS86\nXU2 Y Z 0 z2 0 z3 0 z4 0 z5 0 z6 0 VCC 74LS04',
  );
  const levels = (...faults: string[]): (number | null)[] => [
    nets(index, ...faults).Y!,
    nets(index, ...faults).Z!,
  ];
  const high = (volt: number | null): boolean => volt !== null && volt > 2;
  it.each([
    ['healthy', [], true, false],
    ['a stuck input is seen by its chip alone', ['U1.1:stuck-0'], false, true],
    ['an input open inside floats high', ['U1.2:open'], false, true],
    ['a dry input floats high', ['U1.2:dry'], false, true],
    ['a shorted input pulls its net', ['U2.1:short-0'], false, true],
    ['a stuck output', ['U1.3:stuck-0'], false, true],
    ['an output open inside leaves its net to float', ['U1.3:open'], false, false],
    ['a chip without supply drives nothing', ['U1:no-supply'], false, false],
    ['a dry ground pin lifts the outputs through their clamps', ['U1.7:dry'], true, false],
  ] as [string, string[], boolean, boolean][])('%s', (_, faults, y, z) =>
    expect(levels(...faults).map(high)).toEqual([y, z]),
  );
});

describe('levels that move or are not known', () => {
  it('a divider of a pulsing clock pulses, and a dead clock stops it', () => {
    const index = deck(
      'XY1 nc1 0 CK VCC CLOCK4\nXU1 CLR QN CK VCC Q QN 0 x1 x2 VCC 0 0 VCC VCC 74LS74\nR1 CLR VCC 1k\nXU2 Q NQ 0 a 0 b 0 c 0 d 0 e 0 VCC 74LS04',
    );
    expect(['CK', 'Q', 'NQ'].map((net) => read(index, 'logic', net))).toEqual(['P', 'P', 'P']);
    expect(nets(index).Q).toBeGreaterThan(1.2);
    expect(read(index, 'logic', 'CK', 'Y1.3:stuck-0')).toBe('0');
    expect(nets(index, 'Y1.3:stuck-0').Q).toBeNull();
    expect(read(index, 'logic', 'Q', 'R1:open')).toBe('P');
    expect(read(index, 'logic', 'Q', 'CLR~0:bridge')).toBe('0');
  });
  it('a ring of one inverter never rests and is said so', () => {
    const index = deck('VE EN 0 5\nXU1 EN Y Y 0 0 a 0 b 0 0 c 0 0 VCC 74LS00');
    const run = stepThrough(index, [
      { step: 1, net: 'EN', volt: 0 },
      { step: 2, net: 'EN', volt: 5 },
    ]);
    expect(run.ok && run.steps[0]!.nets.Y).toBeGreaterThan(2);
    expect(run.ok && run.steps[1]!.nets.Y).toBeGreaterThan(0.8);
    expect(run.ok && run.steps[1]!.nets.Y).toBeLessThan(3);
  });
});

describe('steps', () => {
  it('chips keep their state from step to step', () => {
    const index = deck(
      'VD D 0 0\nVC CK 0 0\nVR CLR 0 0\nXU1 CLR D CK VCC Q QN 0 x1 x2 VCC 0 0 VCC VCC 74LS74',
    );
    const file = readStepsFile(
      index,
      'step,net,volts\n1,CLR,0\n2,CLR,5\n3,D,5\n4,CK,5\n5,D,0\n6,CK,0\n7,CK,5\n',
    );
    if (!file.ok) throw new Error(JSON.stringify(file.issues));
    const run = stepThrough(index, file.value);
    if (!run.ok) throw new Error(run.why);
    expect(run.steps.map(({ nets: n }) => (n.Q! > 2 ? 1 : 0))).toEqual([0, 0, 0, 1, 1, 1, 0]);
  });
  it('says what is wrong with a steps file, line by line', () => {
    const index = deck('VD D 0 0');
    const file = readStepsFile(index, 'step,net,volts\n1,NOWHERE,5\n1,D,many\n0,D,5');
    expect(file.ok).toBe(false);
    if (!file.ok) expect(file.issues.map(({ line }) => line)).toEqual([2, 3]);
  });
});

// Source: data sheets of the series: an open bipolar input acts as a high; the core's outside
// interface says so of inputs with hysteresis too.
describe('an input that nothing holds any more', () => {
  it.each([['74LS14'], ['7414'], ['74LS04']])(
    'of a %s counts as 1, whatever it saw while it was held',
    (name) => {
      const index = deck(
        `R1 A 0 470\nXU1 A Y 0 z1 0 z2 0 z3 0 z4 0 z5 0 VCC ${name}\nXU2 Y B 0 y1 0 y2 0 y3 0 y4 0 y5 0 VCC 74LS04`,
      );
      const levels = (...faults: string[]): (number | null)[] => {
        const { Y, B } = nets(index, ...faults);
        return [Y!, B!];
      };
      const [y, b] = levels();
      expect(y).toBeGreaterThan(2.4);
      expect(b).toBeLessThan(0.5);
      const [openY, openB] = levels('R1:open');
      expect(openY).toBeLessThan(0.5);
      expect(openB).toBeGreaterThan(2.4);
    },
  );
});
