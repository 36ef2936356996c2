import { describe, expect, it } from 'vitest';
import { indexBoard, readDeck, type Board, type BoardIndex } from '@hanzai/core/board';
import { parseFault } from '@hanzai/core/fault';
import { BenchState, resolveMeasurement } from '@hanzai/core/instrument';
import { Diagnoser, edgeVariants } from '@hanzai/core/diagnosis';
import { LIBRARY, RATES } from '@hanzai/data';

function deck(lines: string, more: Partial<Board> = {}): BoardIndex {
  const result = readDeck(`devices\n${lines}\n.end`, LIBRARY);
  if (!result.ok) throw new Error(JSON.stringify(result.issues));
  return indexBoard({ ...result.value, ...more });
}

function volts(
  index: BoardIndex,
  setup = 'on',
  ...faults: string[]
): Record<string, number | null> {
  const states = faults.map((name) => {
    const parsed = parseFault(index, name);
    if (!parsed.ok) throw new Error(parsed.what);
    return { fault: parsed.fault };
  });
  const nets = new BenchState(index, { setup, faults: states, absent: [] }).netVolts();
  if ('ok' in nets && nets.ok === false) throw new Error(String(nets.why));
  return nets as Record<string, number | null>;
}

// Behaviour from the common data sheets of three-terminal regulators, from memory.
describe('a series regulator', () => {
  const index = deck('V1 IN 0 12\nXU1 IN 0 OUT 7805\nR1 OUT 0 100\nR2 OUT 0 1meg');
  it('holds its voltage', () => expect(volts(index).OUT).toBeCloseTo(5, 1));
  it('drops out below its head room', () => {
    const low = deck('V1 IN 0 6\nXU1 IN 0 OUT 7805\nR1 OUT 0 100');
    expect(volts(low).OUT).toBeLessThan(4.2);
    expect(volts(low).OUT).toBeGreaterThan(3.5);
  });
  it('limits its current into a short', () => {
    const shorted = deck('V1 IN 0 12\nXU1 IN 0 OUT 7805\nR1 OUT 0 0.5');
    expect(volts(shorted).OUT! / 0.5).toBeCloseTo(1.5, 1);
  });
  it('two in a row settle at one point, wherever the search begins', () => {
    const row = deck(
      'V1 IN 0 18\nXU1 IN 0 MID 7812\nXU2 MID 0 OUT 7805\nR1 OUT 0 100\nR2 MID 0 1k\nC1 OUT 0 100n',
    );
    const shorted = parseFault(row, 'C1:short');
    if (!shorted.ok) throw new Error(shorted.what);
    const faults = [{ fault: shorted.fault }];
    const sound = new BenchState(row, { setup: 'on', faults: [], absent: [] });
    const anew = volts(row, 'on', 'C1:short');
    const beside = new BenchState(
      row,
      { setup: 'on', faults, absent: [] },
      sound,
    ).netVolts() as Record<string, number | null>;
    expect(beside.MID).toBeCloseTo(anew.MID!, 3);
    expect(beside.OUT).toBeCloseTo(anew.OUT!, 3);
    // The first cannot give what the second takes and the resistor besides: the net between them
    // sinks.
    expect(anew.MID).toBeLessThan(11.5);
  });
  it('a negative one mirrors it, an adjustable one holds 1.25 V against its adjust pin', () => {
    expect(volts(deck('V1 0 IN 12\nXU1 0 IN OUT 7905\nR1 OUT 0 100')).OUT).toBeCloseTo(-5, 1);
    // 1.25 V (1 + 1k / 240) and the adjust current through 1k: 6.5 V.
    expect(
      volts(deck('V1 IN 0 12\nXU1 ADJ OUT IN 317\nR1 OUT ADJ 240\nR2 ADJ 0 1k')).OUT,
    ).toBeCloseTo(1.25 * (1 + 1000 / 240), 0);
  });
  it.each([
    ['U1:open', 0, 0.1],
    ['U1:short', 11.8, 12.1],
    ['U1:low-output', 2, 4],
    ['U1.3:dry', 0, 0.1],
  ])('%s', (fault, least, most) => {
    expect(volts(index, 'on', fault).OUT).toBeGreaterThanOrEqual(least - 0.01);
    expect(volts(index, 'on', fault).OUT).toBeLessThan(most);
  });
});

describe('amplifiers', () => {
  // Closed form: an ideal amplifier holds its inputs equal.
  it('a follower follows, a gain of two doubles, an inverter inverts about its reference', () => {
    const index = deck(
      'V1 P 0 12\nVI A 0 2\nVR R 0 5\nXU1 O1 O1 A 0 A M2 O2 P 358\nR1 O2 M2 10k\nR2 M2 0 10k\nXU2 O3 M3 R 0 R O4 O4 P 358\nR3 A M3 10k\nR4 M3 O3 10k',
    );
    const { O1, O2, O3, O4 } = volts(index);
    expect([O1, O2, O3, O4].map((v) => Number(v!.toFixed(2)))).toEqual([2, 4, 8, 5]);
  });
  it('stops at its rails', () => {
    const { O1 } = volts(
      deck('V1 P 0 12\nVI A 0 2\nXU1 O1 M A 0 A x x P 358\nR1 O1 M 100k\nR2 M 0 1k'),
    );
    expect(O1).toBeGreaterThan(10);
    expect(O1).toBeLessThan(11);
  });
  it('a stuck output goes to its rail, an amplifier without supply does nothing', () => {
    const index = deck(
      'V1 P 0 12\nXW1 P PA LINK\nVI A 0 2\nXU1 O1 O1 A 0 A x x PA 358\nR1 O1 0 10k',
    );
    expect(volts(index, 'on', 'U1.1:stuck-1').O1).toBeGreaterThan(10);
    expect(volts(index, 'on', 'U1.1:stuck-0').O1).toBeLessThan(0.2);
    expect(Math.abs(volts(index, 'on', 'W1:open').O1!)).toBeLessThan(0.2);
  });
  it('a comparator answers which input is higher', () => {
    const index = deck(
      'V1 P 0 5\nVA A 0 2\nVB B 0 3\nXU1 Y1 A B 0 A B Y2 P 393\nR1 P Y1 10k\nR2 P Y2 10k',
    );
    expect(volts(index).Y1).toBeGreaterThan(4.5);
    expect(volts(index).Y2).toBeLessThan(0.5);
  });
});

describe('a home sensor', () => {
  const index = deck('V1 P 0 5\nR1 P A 180\nXO1 A 0 C 0 INTERRUPTER\nR2 P C 10k', {
    setups: [{ name: 'at-home', blocked: ['O1'] }],
  });
  it('is low with light through and high when blocked', () => {
    expect(volts(index).C).toBeLessThan(0.4);
    expect(volts(index, 'at-home').C).toBeGreaterThan(4.5);
  });
  it('reads blocked for ever with a dead lamp, and through for ever with a shorted detector', () => {
    for (const fault of ['O1:emitter-open', 'O1:blocked', 'R1:open', 'O1.1:dry'])
      expect(volts(index, 'on', fault).C, fault).toBeGreaterThan(4.5);
    expect(volts(index, 'at-home', 'O1:detector-short').C).toBeLessThan(0.4);
  });
});

describe('magnetic and moving parts', () => {
  const relay =
    'V1 P 0 12\nXK1 P COIL C NC NO RELAY\nR1 COIL 0 10\nVC C 0 5\nR2 NC 0 1k\nR3 NO 0 1k';
  it('a relay pulls in with its coil fed and rests without', () => {
    const pulled = volts(deck(relay));
    expect([pulled.NO! > 4.9, pulled.NC! < 0.1]).toEqual([true, true]);
    const rested = volts(deck(relay), 'on', 'K1:coil-open');
    expect([rested.NO! < 0.1, rested.NC! > 4.9]).toEqual([true, true]);
    expect(volts(deck(relay), 'on', 'K1:work-open').NO).toBeLessThan(0.1);
  });
  it('a transformer feeds its rectifier, and not with the plug out', () => {
    const index = deck(
      'XT1 L N SA SB TRANSFORMER\nD1 SA RAW D\nD2 0 SB D\nR1 RAW 0 1k\nR9 L N 1meg\n.model D D',
    );
    expect(volts(index).RAW).toBeGreaterThan(14);
    expect(volts(index, 'off').RAW).toBe(0);
    expect(volts(index, 'on', 'T1:primary-open').RAW).toBeLessThan(0.1);
    const ohms = resolveMeasurement(index, '', 'resistance', 'L', 'N');
    if (!ohms.ok) throw new Error(ohms.what);
    const read = new BenchState(index, { setup: 'off', faults: [], absent: [] }).respond(
      ohms.measurement,
    );
    expect('ok' in read ? 0 : read.value).toBeCloseTo(400, -1);
  });
  it('a turning winding gives its back-EMF', () => {
    const index = deck('XG1 A 0 WINDING\nR1 A 0 1k', {
      setups: [{ name: 'running', turning: { G1: 3 } }],
    });
    expect(volts(index, 'running').A).toBeCloseTo((3 * 1000) / 1010, 2);
    expect(volts(index).A).toBe(0);
  });
});

describe('driver chips', () => {
  it('a Darlington array sinks a coil and clamps nothing while it rests', () => {
    const index = deck(
      'V1 P12 0 12\nVA A 0 3.5\nVB B 0 0.2\nXU1 A B 0 0 0 0 0 0 P12 y7 y6 y5 y4 y3 YB YA DARLINGTON7\nR1 P12 YA 100\nR2 P12 YB 100',
    );
    expect(volts(index).YA).toBeLessThan(1.2);
    expect(volts(index).YB).toBeGreaterThan(11.9);
  });
  it('a half bridge drives a motor both ways from its own supply', () => {
    const bridge = (a: number, b: number): BoardIndex =>
      deck(
        `V1 P5 0 5\nV2 VM 0 9\nVA A 0 ${a}\nVB B 0 ${b}\nXU1 P5 A M1 0 0 M2 B VM 0 0 z1 0 0 z2 0 P5 HALFBRIDGE4\nR1 M1 M2 30`,
      );
    const [forward, back] = [volts(bridge(4, 0)), volts(bridge(0, 4))];
    expect(forward.M1! - forward.M2!).toBeGreaterThan(5);
    expect(back.M1! - back.M2!).toBeLessThan(-5);
  });
  it('a full bridge drives a coil both ways, and its sense resistor shows the current', () => {
    const bridge = (a: number, b: number, enable: number): ReturnType<typeof volts> =>
      volts(
        deck(
          `V1 P5 0 5\nV2 VM 0 12\nVA A 0 ${a}\nVB B 0 ${b}\nVE E 0 ${enable}\nXU1 SA M1 M2 VM A E B 0 P5 0 0 0 z1 z2 0 HBRIDGE2\nR1 M1 M2 30\nR2 SA 0 0.5`,
        ),
      );
    const [forward, back, off] = [bridge(4, 0, 4), bridge(0, 4, 4), bridge(4, 0, 0)];
    const ampere = (forward.M1! - forward.M2!) / 30;
    expect(ampere).toBeGreaterThan(0.25);
    expect(back.M1! - back.M2!).toBeCloseTo(-30 * ampere, 1);
    expect(forward.SA!).toBeCloseTo(0.5 * ampere, 2);
    expect(back.SA!).toBeCloseTo(0.5 * ampere, 2);
    expect(Math.abs(off.SA!)).toBeLessThan(0.01);
  });
});

describe('edges of a sheet', () => {
  const lines = 'V1 P 0 5\nR1 P OUT 10k\nR2 OUT 0 10k';
  const plain = deck(lines);
  const open = deck(lines, { edges: [{ net: 'OUT' }] });
  it('stand for several guesses, the first of which is nothing', () => {
    expect(edgeVariants(plain)).toHaveLength(1);
    expect(edgeVariants(open).length).toBeGreaterThan(4);
    expect(edgeVariants(open)[0]).toBe(open);
  });
  it('make a reading that something outside may explain less damning', () => {
    const belief = (index: BoardIndex): number => {
      const m = resolveMeasurement(index, '', 'voltage', 'OUT', '');
      if (!m.ok) throw new Error(m.what);
      // A sound board whose sheet is wrong counts as sound too; here the sheet is right but for its
      // edge.
      const { healthy, sheet } = new Diagnoser(index, RATES).believe([
        { measurement: m.measurement, value: 1.6 },
      ]);
      return healthy - sheet.reduce((sum, { probability }) => sum + probability, 0);
    };
    expect(belief(open)).toBeGreaterThan(5 * belief(plain));
  });
});
