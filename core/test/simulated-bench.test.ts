// What the simulated bench answers is held against Ohm's law, the rules of IEC 60127 for fuses and
// IEEE 488.2 for the answers' form; its slips and noise against what it says of them.
import { LIBRARY } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import { readDeck, type Board } from '../src/board';
import { checkBench, OVERLOAD, simulatedBench, type BenchWish } from '../src/simulated';
import type { ScpiInstrument } from '../src/scpi';

const DECK = `bench test
V1 PLUG 0 12
XF1 PLUG IN FUSE
*@ F1 rating=F500mA
R1 IN OUT 1k
R2 OUT 0 2k
R3 IN 0 100
C1 OUT 0 10u
*@ C1 esr=1.2
D1 OUT LED DX
R4 LED 0 100k
XP2 IN MOTOR LINK
R5 MOTOR 0 50
.model DX D
.end
`;

/** What R1 reads in circuit: beside it R2 with what lies from IN to ground. */
const R1 = 1 / (1 / 1000 + 1 / (2000 + 1 / (1 / 100 + 1 / 50)));

function board(): Board {
  const read = readDeck(DECK, LIBRARY);
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return read.value;
}

/** A bench with a clock that runs only while somebody waits. */
function bench(wish: Partial<BenchWish> = {}) {
  let now = 0;
  const instrument = simulatedBench(
    { board: board(), faults: [], seed: 1, slips: false, exact: true, ...wish },
    {
      now: () => now,
      wait: (milliseconds) => {
        now += milliseconds;
        return Promise.resolve();
      },
    },
  );
  const ask = (text: string): Promise<string | undefined> => instrument.execute(text);
  return {
    instrument,
    ask,
    pass: (milliseconds: number) => void (now += milliseconds),
    at: () => now,
  };
}

const number = async (
  { ask }: { readonly ask: ScpiInstrument['execute'] },
  text: string,
): Promise<number> => {
  const answer = await ask(text);
  const error = await ask('SYST:ERR?');
  if (answer === undefined || !error!.startsWith('0,')) throw new Error(`${answer} ${error}`);
  return Number(answer);
};

/** What is read lies within the meter's accuracy of what Ohm's law says, leads left out. */
const near = (read: number, truth: number, leads = 0): void => {
  expect(read).toBeGreaterThan(truth * 0.985 - 0.03);
  expect(read).toBeLessThan(truth * 1.015 + 0.03 + leads);
};

describe('the simulated bench', () => {
  it('reads volts, ohms, continuity, diode, ESR and levels as the circuit has them', async () => {
    const one = bench();
    await one.ask('BENC:POW ON;:ROUT:PROB "OUT","0"');
    // 12 V over 1 k and 2 k, the diode's branch beside it draws some 70 µA.
    near(await number(one, 'MEAS:VOLT:DC?'), 7.95);
    await one.ask('ROUT:PROB "IN"');
    expect(await one.ask('MEAS:LOG?')).toBe('1');
    await one.ask('ROUT:PROB "0"');
    expect(await one.ask('MEAS:LOG?')).toBe('0');
    await one.ask('BENC:POW OFF;:ROUT:PROB "R3.1","R3.2"');
    // 100 beside 3 k beside 50 through the plug: 33 ohm less 1 %.
    near(await number(one, 'MEAS:RES?'), 1 / (1 / 100 + 1 / 3000 + 1 / 50), 0.31);
    near(await number(one, 'MEAS:CONT?'), 33, 0.31);
    await one.ask('ROUT:PROB "C1.1","C1.2"');
    near(await number(one, 'MEAS:IMP:ESR?'), 1.2, 0.31);
    await one.ask('ROUT:PROB "D1.A","D1.K"');
    const junction = await number(one, 'MEAS:DIOD?');
    expect(junction).toBeGreaterThan(0.5);
    expect(junction).toBeLessThan(0.8);
    await one.ask('ROUT:PROB "D1.K","D1.A"');
    expect(await number(one, 'MEAS:DIOD?')).toBe(OVERLOAD);
  });
  it('reads the same again from the same seed, and other parts from another', async () => {
    const read = async (seed: number): Promise<number> => {
      const one = bench({ seed, exact: false });
      return number(one, 'ROUT:PROB "R1.1","R1.2";:MEAS:RES?');
    };
    expect(await read(5)).toBe(await read(5));
    expect(await read(5)).not.toBe(await read(6));
  });
  it('answers in the form of IEEE 488.2 (NR3), and overload as 9.9E37', async () => {
    const one = bench();
    await one.ask('ROUT:PROB "R1.1","R1.2"');
    expect(await one.ask('MEAS:RES?')).toMatch(/^\+6\.[67]\d+E\+02$/);
    await one.ask('ROUT:OPEN');
    expect(await one.ask('MEAS:RES?')).toBe('+9.90000000E+37');
  });
  it('keeps to a range that is fixed: beyond it is overload, and its counts are coarser', async () => {
    const one = bench();
    await one.ask('ROUT:PROB "R1.1","R1.2";:CONF:RES 400');
    expect(await one.ask('READ?')).toBe('+9.90000000E+37');
    await one.ask('RES:RANG 30 KOHM');
    expect(await number(one, 'RES:RANG?')).toBe(40e3);
    // 40 kΩ over 4000 counts: tens of ohms.
    expect((await number(one, 'READ?')) % 10).toBeCloseTo(0, 6);
    expect(await one.ask('CONF?')).toBe('"RES +4.00000000E+04"');
    await one.ask('RES:RANG:AUTO ON');
    expect(await one.ask('CONF?')).toBe('"RES AUTO"');
    expect(await one.ask('RES:RANG 1E9')).toBeUndefined();
    expect(await one.ask('SYST:ERR?')).toMatch(/^-222/);
  });
  it('takes time to come to rest, and longer where the range changes', async () => {
    const one = bench();
    await one.ask('BENC:POW ON;:CONF:VOLT;:ROUT:PROB "IN","0";:TRIG:DEL 0');
    const hasty = await number(one, 'READ?');
    one.pass(2000);
    const rested = await number(one, 'READ?');
    expect(hasty).toBeLessThan(0.97 * rested);
    near(rested, 12);
    const from = one.at();
    await one.ask('READ?');
    const same = one.at() - from;
    await one.ask('ROUT:PROB "R4.2","0"');
    const before = one.at();
    await one.ask('READ?');
    expect(one.at() - before).toBeGreaterThan(same);
  });
  it('has leads of its own, which zeroing takes off until the reset', async () => {
    const one = bench();
    await one.ask('ROUT:SHOR');
    const leads = await number(one, 'MEAS:IMP:ESR?');
    expect(leads).toBeGreaterThan(0.03);
    expect(leads).toBeLessThan(0.5);
    await one.ask('LEAD:ZERO');
    expect(await number(one, 'MEAS:IMP:ESR?')).toBeLessThan(0.03);
    // Zeroed with the probes apart it takes nothing off.
    await one.ask('ROUT:OPEN;:LEAD:ZERO;:ROUT:SHOR');
    expect(await number(one, 'MEAS:IMP:ESR?')).toBeGreaterThan(0.03);
  });
  it('waits for a trigger where it is told to, and says so where it has nothing', async () => {
    const one = bench();
    expect(await one.ask('FETC?')).toBeUndefined();
    expect(await one.ask('SYST:ERR?')).toMatch(/^-230/);
    await one.ask('CONF:RES;:TRIG:SOUR BUS;COUN 3;:ROUT:PROB "R1.1","R1.2";:INIT');
    expect(await one.ask('STAT:OPER:COND?')).toBe('32');
    await one.ask('INIT');
    expect(await one.ask('SYST:ERR?')).toMatch(/^-213/);
    await one.ask('*TRG');
    const three = (await one.ask('FETC?'))!.split(',').map(Number);
    expect(three).toHaveLength(3);
    three.forEach((ohm) => near(ohm, R1, 0.31));
    await one.ask('*TRG');
    expect(await one.ask('SYST:ERR?')).toMatch(/^-211/);
    await one.ask('READ?');
    expect(await one.ask('SYST:ERR?')).toMatch(/^-221/);
    await one.ask('ABOR;*RST');
    expect(await one.ask('TRIG:SOUR?;COUN?')).toBe('IMM;1');
  });
  it('names what it does not know by the standard number', async () => {
    const one = bench();
    const refused = async (text: string): Promise<string> => {
      await one.ask(text);
      return (await one.ask('SYST:ERR?'))!.split(',')[0]!;
    };
    expect(await refused('ROUT:PROB "NOWHERE"')).toBe('-224');
    expect(await refused('ROUT:PROB')).toBe('-109');
    expect(await refused('ROUT:PROB C1.1')).not.toBe('0');
    expect(await refused('BENC:SET "dancing"')).toBe('-224');
    for (const action of [
      'dance',
      'unplug Z9',
      'lift R1',
      'bridge IN IN',
      'unplug R1 R2',
      'solder R1.1',
      'toString',
      '',
    ])
      expect(await refused(`BENC:ACT "${action}"`), action).toBe('-224');
    expect(await refused('CONF:FREQ')).toBe('-113');
    expect(await refused('FUNC "TEMP"')).toBe('-224');
    expect(await refused('BENC:SUPP:LIM 0')).toBe('-222');
  });
  it('does to the board what a hand would', async () => {
    const one = bench();
    const fuse = async (): Promise<number> => {
      await one.ask('BENC:POW OFF;:ROUT:PROB "R3.1","R3.2"');
      return number(one, 'MEAS:RES?');
    };
    near(await fuse(), 33, 0.31);
    await one.ask('BENC:ACT "unplug p2"');
    near(await fuse(), 96.8, 0.31);
    await one.ask('BENC:ACT "lift R3.1"');
    // The probe is on the pin that was lifted: the part alone.
    near(await fuse(), 100, 0.31);
    await one.ask('BENC:ACT "solder R3.1";ACT "plug P2"');
    near(await fuse(), 33, 0.31);
    await one.ask('BENC:ACT "bridge IN 0"');
    expect(await fuse()).toBeLessThan(1);
    await one.ask('BENC:ACT "cut 0 IN"');
    near(await fuse(), 33, 0.31);
  });
  it('blows a fuse at a short, tells of it once, and a new one blows again', async () => {
    const one = bench({ faults: ['R3:short'] });
    await one.ask('BENC:POW ON;:ROUT:PROB "IN","0"');
    expect(await number(one, 'MEAS:VOLT?')).toBeLessThan(0.1);
    expect(await one.ask('BENC:EVEN?')).toMatch(/^"F1 blew: \d+\.\d times its rating"$/);
    expect(await one.ask('BENC:EVEN?')).toBe('""');
    await one.ask('BENC:ACT "replace F1"');
    expect(await one.ask('BENC:EVEN?')).toMatch(/F1 blew/);
    await one.ask('BENC:POW OFF;ACT "replace R3";ACT "replace F1";POW ON');
    expect(await one.ask('BENC:EVEN?')).toBe('""');
    near(await number(one, 'MEAS:VOLT?'), 12);
  });
  it('turns its supply down at the current limit, which saves the fuse', async () => {
    const one = bench({ faults: ['R3:short'] });
    await one.ask('BENC:SUPP:LIM 0.3;:BENC:POW ON');
    expect(await one.ask('BENC:EVEN?')).toBe('""');
    expect(await number(one, 'BENC:SUPP:CURR?')).toBeCloseTo(0.3, 2);
    await one.ask('ROUT:PROB "PLUG"');
    expect(await number(one, 'MEAS:VOLT?')).toBeLessThan(0.5);
  });
  it('makes nonsense of ohms under power, and blows the meter where the volts are high', async () => {
    const one = bench();
    await one.ask('BENC:POW ON;:ROUT:PROB "R3.1","R3.2"');
    const live = await number(one, 'MEAS:RES?');
    expect(Math.abs(live - 33)).toBeGreaterThan(100);
    const high = readDeck('high\nV1 A 0 90\nR1 A 0 1k\n.end\n', LIBRARY);
    if (!high.ok) throw new Error('deck');
    const two = bench({ board: high.value });
    await two.ask('BENC:POW ON;:ROUT:PROB "A","0"');
    await two.ask('MEAS:RES?');
    await two.ask('BENC:POW OFF');
    expect(await number(two, 'MEAS:RES?')).toBe(OVERLOAD);
    expect(await two.ask('*TST?')).toBe('1');
    await two.ask('BENC:ACT "meter-fuse"');
    near(await number(two, 'MEAS:RES?'), 1000, 0.31);
  });
  it('slips about as often as it says, and only where it is told to', async () => {
    const count = async (slips: boolean): Promise<number> => {
      const one = bench({ slips, seed: 3 });
      let odd = 0;
      for (let i = 0; i < 200; i += 1) {
        const read = await number(one, 'ROUT:PROB "R1.1","R1.2";:MEAS:RES?');
        if (Math.abs(read - R1) > 20) odd += 1;
      }
      return odd;
    };
    expect(await count(false)).toBe(0);
    const odd = await count(true);
    // 200 at 1 in 20: ten, and hardly ever none or thirty.
    expect(odd).toBeGreaterThan(1);
    expect(odd).toBeLessThan(26);
  });
  it('is off after a reset, and refuses a fault that the board cannot have', async () => {
    const one = bench();
    await one.ask('BENC:POW ON;:CONF:RES;*RST');
    expect(await one.ask('BENC:POW?;:FUNC?;:ROUT:PROB?')).toBe('0;"VOLT";"",""');
    const wish = { board: board(), seed: 1, slips: false };
    expect(() => checkBench({ ...wish, faults: ['R9:open'] })).toThrow(/R9/);
    expect(() => checkBench({ ...wish, faults: ['R1:open=soft'] })).toThrow(/soft/);
    expect(() => checkBench({ ...wish, faults: [], setup: 'dancing' })).toThrow(/dancing/);
    expect(() => checkBench({ ...wish, faults: ['R1:open=2M', 'C1:high-esr=5'] })).not.toThrow();
  });
});

// Closed form of the junction, Shockley 1949: V = Vt ln(I / IS + 1), Vt 25.865 mV; ohms are V / I.
describe('a range that is held', () => {
  it('drives its own current: a junction reads other ohms on each', async () => {
    const deck = readDeck('t\nV1 A 0 5\nD1 A 0 DS\n.model DS D (IS=1e-7)\n.end\n', LIBRARY);
    if (!deck.ok) throw new Error(JSON.stringify(deck.issues));
    const one = bench({ board: deck.value });
    await one.ask('BENC:POW OFF;:ROUT:PROB "A","0";:CONF:RES');
    for (const [fullScale, ampere] of [
      [400, 1e-3],
      [4e3, 1e-4],
      [40e3, 1e-5],
    ] as const) {
      await one.ask(`RES:RANG ${fullScale}`);
      one.pass(5000);
      const ohm = (0.025865 * Math.log(ampere / 1e-7 + 1)) / ampere;
      expect(Math.abs((await number(one, 'READ?')) / ohm - 1)).toBeLessThan(0.01);
    }
  });
});
