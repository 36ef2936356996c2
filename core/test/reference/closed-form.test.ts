import { describe, expect, it } from 'vitest';
import { board, respond, volts } from '../boards';

describe('networks with a closed form', () => {
  it('a loaded divider gives E·(R2||RL)/(R1 + R2||RL)', () => {
    const lower = 1 / (1 / 2200 + 1 / 470);
    expect(volts(board('V1 IN 0 12\nR1 IN OUT 1k\nR2 OUT 0 2.2k\nR3 OUT 0 470')).OUT).toBeCloseTo(
      (12 * lower) / (1000 + lower),
      9,
    );
  });

  it('a bridge of 100, 220, 330, 470 ohm with a 150 ohm detector gives the mesh solution', () => {
    // Node equations with v(A) = 10: (1/100+1/330+1/150) B - C/150 = 10/100 ; (1/220+1/470+1/150) C
    // - B/150 = 10/220.
    const [p, q, g] = [1 / 100 + 1 / 330 + 1 / 150, 1 / 220 + 1 / 470 + 1 / 150, 1 / 150];
    const det = p * q - g * g;
    const net = volts(
      board('V1 A 0 10\nR1 A B 100\nR2 A C 220\nR3 B 0 330\nR4 C 0 470\nR5 B C 150'),
    );
    expect(net.B).toBeCloseTo(((10 / 100) * q + (10 / 220) * g) / det, 9);
    expect(net.C).toBeCloseTo(((10 / 220) * p + (10 / 100) * g) / det, 9);
  });

  it('an endless-ladder section of R and 2R halves the voltage at each node', () => {
    const sections = [1, 2, 3, 4]
      .map((i) => `RS${i} N${i - 1} N${i} 1k\nRP${i} N${i} 0 2k`)
      .join('\n');
    const net = volts(board(`V1 N0 0 16\n${sections}\nRT N4 0 2k`));
    // The last shunt pair is 1k, so every section sees 1k + 1k.
    expect([net.N1, net.N2, net.N3, net.N4].map((v) => Number(v!.toFixed(9)))).toEqual([
      8, 4, 2, 1,
    ]);
  });

  it('the resistance across one edge of a cube of twelve 1 kΩ resistors is 7/12 kΩ', () => {
    const edges: string[] = [];
    for (let v = 0; v < 8; v += 1)
      for (const bit of [1, 2, 4])
        if (!(v & bit)) edges.push(`R${v}_${bit} ${v === 0 ? '0' : `N${v}`} N${v | bit} 1k`);
    expect(respond(board(edges.join('\n')), 'resistance', 'N1').value).toBeCloseTo(
      (7 / 12) * 1000,
      6,
    );
  });

  it('a transistor bias network gives the textbook answer', () => {
    // Sedra & Smith, Microelectronic Circuits, discrete bias example: 15 V, 100k/50k base divider,
    // RC 5k, RE 3k, beta 100, VBE 0.7 V at about 1.3 mA: VB 4.57 V, IE 1.29 mA, VC 8.6 V (figures
    // from memory of that example). IS is set for VBE = 0.7 V at 1.28 mA.
    const saturation = 1.28e-3 / Math.exp(0.7 / 0.025865);
    const net = volts(
      board(
        `V1 VCC 0 15\nR1 VCC B 100k\nR2 B 0 50k\nRC VCC C 5k\nRE E 0 3k\nQ1 C B E QX\n.model QX NPN(IS=${saturation} BF=100)`,
      ),
    );
    expect(net.B).toBeCloseTo(4.57, 1);
    expect(net.E! / 3000).toBeCloseTo(1.29e-3, 5);
    expect(net.C).toBeCloseTo(8.6, 1);
  });
});
