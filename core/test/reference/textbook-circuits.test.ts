import { describe, expect, it } from 'vitest';
import { THERMAL_VOLT } from '../../src/circuit';
import { board, respond, volts } from '../boards';

// Closed forms of circuits that every textbook has: Gray & Meyer, Analysis and Design of Analog
// Integrated Circuits (differential pair, mirrors, Widlar source); Sedra & Smith, Microelectronic
// Circuits (amplifier with finite gain, bias of a diode); Kennelly 1899 (star and triangle). Each
// form is worked in the test.
const SATURATION = 1e-15;
const NPN = `.model QN NPN(IS=${SATURATION} BF=1e6 BR=1)`;
const diode = (emission: number): string => `.model DX D(IS=1e-14 N=${emission} RS=0)`;

/** The root of a rising function between two bounds, by halving. */
function rootOf(f: (x: number) => number, low: number, high: number): number {
  for (let i = 0; i < 200; i += 1) {
    const middle = (low + high) / 2;
    if (f(middle) < 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

describe('junctions against their law', () => {
  it.each([1, 1.5, 2])(
    'a decade of current moves a diode of emission %d by n·VT·ln 10',
    (emission) => {
      const drop = (ampere: number): number =>
        volts(board(`I1 0 A ${ampere}\nD1 A 0 DX\n${diode(emission)}`)).A!;
      expect(drop(1e-3) - drop(1e-4)).toBeCloseTo(emission * THERMAL_VOLT * Math.LN10, 6);
    },
  );

  it.each([
    [5, 1000],
    [1, 100],
    [12, 10_000],
  ])('a diode on %d V through %d ohm lies where line and characteristic meet', (volt, ohm) => {
    const characteristic = (v: number): number =>
      1e-14 * Math.expm1(v / THERMAL_VOLT) - (volt - v) / ohm;
    expect(volts(board(`V1 IN 0 ${volt}\nR1 IN A ${ohm}\nD1 A 0 DX\n${diode(1)}`)).A).toBeCloseTo(
      rootOf(characteristic, 0, 1),
      6,
    );
  });

  it('two junctions in series share the voltage, two side by side the current', () => {
    const series = volts(board(`I1 0 A 1m\nD1 A M DX\nD2 M 0 DX\n${diode(1)}`));
    expect(series.M).toBeCloseTo(series.A! / 2, 7);
    const beside = volts(board(`I1 0 A 1m\nD1 A 0 DX\nD2 A 0 DX\n${diode(1)}`)).A!;
    expect(series.A! / 2 - beside).toBeCloseTo(THERMAL_VOLT * Math.LN2, 6);
  });
});

describe('transistors against closed forms', () => {
  it.each([-0.1, -0.05, -0.018, 0, 0.018, 0.05, 0.1])(
    'a differential pair splits its tail current by tanh(v / 2 VT), v = %d V',
    (difference) => {
      const net = volts(
        board(
          `V1 VCC 0 15\nV2 B1 0 ${difference}\nV3 VEE 0 -15\nR1 VCC C1 5k\nR2 VCC C2 5k\nQ1 C1 B1 E QN\nQ2 C2 0 E QN\nI1 E VEE 1m\n${NPN}`,
        ),
      );
      const [one, other] = [(15 - net.C1!) / 5000, (15 - net.C2!) / 5000];
      expect((one - other) / 1e-3).toBeCloseTo(Math.tanh(difference / (2 * THERMAL_VOLT)), 4);
    },
  );

  it.each([20, 100, 400])(
    'a mirror of gain %d loses two base currents: 1 / (1 + 2 / gain)',
    (gain) => {
      const net = volts(
        board(
          `V1 VCC 0 10\nI1 VCC B 1m\nQ1 B B 0 QG\nQ2 OUT B 0 QG\nR1 VCC OUT 1k\n.model QG NPN(IS=${SATURATION} BF=${gain} BR=1)`,
        ),
      );
      expect((10 - net.OUT!) / 1000 / 1e-3).toBeCloseTo(1 / (1 + 2 / gain), 4);
    },
  );

  it.each([1000, 5000, 20_000])(
    'a Widlar source with %d ohm gives the root of I·R = VT·ln(Iref / I)',
    (ohm) => {
      const net = volts(
        board(
          `V1 VCC 0 10\nI1 VCC B 1m\nQ1 B B 0 QN\nQ2 OUT B E QN\nR2 E 0 ${ohm}\nR1 VCC OUT 1k\n${NPN}`,
        ),
      );
      const root = rootOf(
        (ampere) => ampere * ohm - THERMAL_VOLT * Math.log(1e-3 / ampere),
        1e-9,
        1e-3,
      );
      expect((10 - net.OUT!) / 1000).toBeCloseTo(root, 8);
    },
  );

  it('a Darlington has the product of the gains, nearly', () => {
    const model = `.model QG NPN(IS=${SATURATION} BF=50 BR=1)`;
    const net = volts(
      board(`V1 VCC 0 12\nI1 0 B 10u\nQ1 VCC B M QG\nQ2 VCC M E QG\nR1 E 0 100\n${model}`),
    );
    // Emitter current: (bf + 1)(bf + 1) times the base current.
    expect(net.E! / 100 / 10e-6).toBeCloseTo(51 * 51, 0);
  });

  it('an emitter follower is as stiff as VT over its current', () => {
    const out = (load: string): number =>
      volts(board(`V1 VCC 0 12\nV2 B 0 6\nQ1 VCC B E QN\nI1 E 0 1m\n${load}\n${NPN}`)).E!;
    const ohm = (out('R9 E 0 100meg') - out('I2 E 0 1u')) / 1e-6;
    expect(ohm / (THERMAL_VOLT / 1e-3)).toBeGreaterThan(0.9);
    expect(ohm / (THERMAL_VOLT / 1e-3)).toBeLessThan(1.1);
  });
});

describe('linear networks against theorems', () => {
  const STAR = { a: 120, b: 330, c: 82 };
  const { a, b, c } = STAR;
  const sum = a * b + b * c + c * a;

  it('a star is the triangle of Kennelly, between every two corners', () => {
    const star = board(`R1 A M ${a}\nR2 B M ${b}\nR3 0 M ${c}`);
    const triangle = board(`R1 A B ${sum / c}\nR2 B 0 ${sum / a}\nR3 A 0 ${sum / b}`);
    for (const [from, to] of [
      ['A', 'B'],
      ['B', '0'],
      ['A', '0'],
    ] as const)
      expect(respond(star, 'resistance', from, to).value).toBeCloseTo(
        respond(triangle, 'resistance', from, to).value,
        6,
      );
  });

  it('a network of resistors answers alike when source and meter change places', () => {
    const rest = 'R1 A M 47\nR2 M B 220\nR3 M 0 33\nR4 A B 1k\nR5 B 0 100\nR6 A 0 680';
    const forward = volts(board(`I1 0 A 10m\n${rest}`)).B;
    const backward = volts(board(`I1 0 B 10m\n${rest}`)).A;
    expect(forward).toBeCloseTo(backward!, 10);
  });

  it('two sources give the sum of what each gives alone', () => {
    const both = (one: number, two: number): number =>
      volts(board(`V1 A 0 ${one}\nI1 0 B ${two}\nR1 A B 1k\nR2 B C 2.2k\nR3 C 0 470`)).C!;
    expect(both(12, 3e-3)).toBeCloseTo(both(12, 0) + both(0, 3e-3), 10);
  });

  it.each(Array.from({ length: 16 }, (_, code) => code))(
    'a ladder of R and 2R turns the code %d into its sixteenths',
    (code) => {
      const bits = [3, 2, 1, 0].map(
        (bit, i) =>
          `V${i + 1} S${bit} 0 ${(code >> bit) & 1 ? 8 : 0}\nRB${bit} S${bit} N${bit} 20k`,
      );
      const rungs = [3, 2, 1].map((bit) => `RR${bit} N${bit} N${bit - 1} 10k`);
      // Open at the top: the full ladder's Thevenin voltage.
      expect(volts(board(`${[...bits, ...rungs].join('\n')}\nRT N0 0 20k`)).N3).toBeCloseTo(
        (8 * code) / 16,
        8,
      );
    },
  );
});

describe('ESR readings against the complex sum', () => {
  const OMEGA = 2 * Math.PI * 100_000;
  interface Complex {
    readonly re: number;
    readonly im: number;
  }
  const capacitor = (farad: number, esr: number): Complex => ({
    re: esr,
    im: -1 / (OMEGA * farad),
  });
  const beside = (...all: readonly Complex[]): Complex => {
    const admittance = all.map(({ re, im }) => ({
      g: re / (re * re + im * im),
      s: -im / (re * re + im * im),
    }));
    const [g, s] = [
      admittance.reduce((sum, one) => sum + one.g, 0),
      admittance.reduce((sum, one) => sum + one.s, 0),
    ];
    return { re: g / (g * g + s * s), im: -s / (g * g + s * s) };
  };
  /**
   * ESR of the sound part, as the engine takes it for a plain capacitor of this size: read off by
   * itself.
   */
  const alone = (lines: string): number => respond(board(lines), 'esr', 'C1.1', 'C1.2').value;

  it('two capacitors side by side read the real part of both together', () => {
    const [one, other] = [alone('C1 A 0 100u'), alone('C1 A 0 1u')];
    const expected = beside(capacitor(100e-6, one), capacitor(1e-6, other)).re;
    expect(
      respond(board('C1 A 0 100u\nC2 A 0 1u'), 'esr', 'C1.1', 'C1.2').value / expected,
    ).toBeCloseTo(1, 6);
  });

  it.each([0.5, 5, 50])('a resistor of %d ohm across a capacitor draws its share', (ohm) => {
    const expected = beside(capacitor(1e-6, alone('C1 A 0 1u')), { re: ohm, im: 0 }).re;
    expect(
      respond(board(`C1 A 0 1u\nR1 A 0 ${ohm}`), 'esr', 'C1.1', 'C1.2').value / expected,
    ).toBeCloseTo(1, 6);
  });

  it('ten alike read a tenth of one', () => {
    const bank = Array.from({ length: 10 }, (_, i) => `C${i + 1} A 0 47u`).join('\n');
    expect(respond(board(bank), 'esr', 'C1.1', 'C1.2').value / alone('C1 A 0 47u')).toBeCloseTo(
      0.1,
      6,
    );
  });
});
