import { describe, expect, it } from 'vitest';
import {
  combinedSpread,
  parseShorthand,
  pointText,
  readReadingsFile,
  readout,
  writeReadingsFile,
} from '../src/instrument';
import { bench, board, measurement, respond } from './boards';

const shown = (kind: Parameters<typeof readout>[0], r: Parameters<typeof readout>[1]): string =>
  readout(kind, r).display;

describe('the standard meter', () => {
  const divider = board(
    'V1 VCC 0 5\nR1 VCC OUT 1meg\nR2 OUT 0 1meg\nXF1 OUT FO FUSE\nR9 FO 0 100meg\nD1 OUT K DS\nR3 K 0 10k\nC1 VCC 0 47u\n*@ C1 kind=electrolytic esr=0.06\n.model DS D',
  );

  it('loads what it measures with 10 MΩ', () => {
    const pair = board('V1 VCC 0 5\nR1 VCC OUT 1meg\nR2 OUT 0 1meg');
    // Thevenin: 2.5 V behind 500 kΩ into 10 MΩ.
    expect(respond(pair, 'voltage', 'OUT').value).toBeCloseTo((2.5 * 10) / 10.5, 6);
    expect(bench(pair, 'on').netVolts()).toMatchObject({ OUT: 2.5 });
  });

  it('takes the range that keeps the test voltage at 0.4 V, so a silicon junction hardly conducts', () => {
    const clamp = board('R1 A 0 1meg\nD1 A 0 DS\n.model DS D');
    expect(respond(clamp, 'resistance', 'A')).toMatchObject({ fullScale: 4e6 });
    expect(respond(clamp, 'resistance', 'A').value).toBeGreaterThan(0.95e6);
    expect(respond(board('R1 A 0 3.3k'), 'resistance', 'A')).toMatchObject({ fullScale: 4e3 });
    expect(shown('resistance', respond(board('R1 A 0 4.7k'), 'resistance', 'A'))).toBe('4.70 kΩ');
  });

  it('shows OL where nothing joins the probes or the ohms are beyond 40 MΩ', () => {
    expect(
      shown('resistance', respond(board('R1 A 0 1k\nC1 A B 1u\nR2 B C 1k'), 'resistance', 'B')),
    ).toBe('OL');
    expect(shown('resistance', respond(board('R1 A 0 47meg'), 'resistance', 'A'))).toBe('OL');
  });

  it('beeps below 30 Ω at 1 mA', () => {
    expect(shown('continuity', respond(board('R1 A 0 29'), 'continuity', 'A'))).toBe('beep');
    expect(shown('continuity', respond(board('R1 A 0 31'), 'continuity', 'A'))).toBe('open');
    expect(
      shown(
        'continuity',
        respond(board('XF1 A 0 FUSE\nR1 A 0 1k'), 'continuity', 'F1.1', 'F1.2', 'F1:open'),
      ),
    ).toBe('open');
  });

  it('reads a junction at 1 mA and OL the other way', () => {
    // I = IS exp(V/Vt): V = 0.025865 ln(1e-3/1e-14) = 0.6551 V.
    const one = board('D1 A K DS\nR1 K 0 1meg\n.model DS D');
    expect(respond(one, 'diode', 'D1.a', 'D1.k').value).toBeCloseTo(
      0.025865 * Math.log(1e11 + 1),
      4,
    );
    expect(shown('diode', respond(one, 'diode', 'D1.k', 'D1.a'))).toBe('OL');
  });

  it('reads ESR through everything in parallel: the best capacitor wins', () => {
    const rail = board('C1 A 0 470u\n*@ C1 esr=0.05\nC2 A 0 470u\n*@ C2 esr=0.05\nR1 A 0 1k');
    expect(respond(rail, 'esr', 'C1.1', 'C1.2').value).toBeCloseTo(0.025, 3);
    expect(respond(rail, 'esr', 'C1.1', 'C1.2', 'C1:high-esr').value).toBeCloseTo(0.05, 2);
  });

  it('sees the part side on a dry pin and the net elsewhere', () => {
    const supply = board('V1 VIN 0 9\nXF1 VIN VM FUSE\nR1 VM 0 1k');
    expect(respond(supply, 'voltage', 'VM', '', 'F1.2:dry').value).toBeLessThan(0.01);
    expect(respond(supply, 'voltage', 'F1.2', '', 'F1.2:dry').value).toBeGreaterThan(8.9);
  });

  it('combines part tolerance and meter accuracy as the GUM says', () => {
    // 1 kΩ 5 %: sigma 25 Ω; meter ±(0.8 % + 2 counts of 1 Ω) = ±10 Ω, rectangular: 10/√3. JCGM
    // 100:2008, 4.3.7 and 5.1.2.
    const r = respond(board('R1 A 0 1k'), 'resistance', 'A');
    expect(combinedSpread('resistance', r)).toBeCloseTo(Math.hypot(25, 10 / Math.sqrt(3)), 6);
    expect(readout('resistance', r)).toMatchObject({
      low: expect.closeTo(1000 - 2 * 25.66, 1),
      high: expect.closeTo(1000 + 2 * 25.66, 1),
    });
  });

  it('understands the shorthand of the strip', () => {
    const read = (text: string): string => {
      const result = parseShorthand(divider, text);
      if (!result.ok) return result.expected;
      const { measurement: m, value } = result.reading;
      return `${m.setup} ${m.kind} ${pointText(m.at)}>${pointText(m.to)} ${value}`;
    };
    expect(
      [
        'r1 4k7',
        'vcc 4.98',
        'f1 beep',
        'f1 open',
        'c1 1.03 esr',
        'c1 .06',
        'd1.a d1.k .62 diode',
        'd1 ol',
        'out k ol',
        'r3 20ma',
        'vcc 2k5',
        'out lo',
        'd1 .6v',
        'vcc 0',
        'vcc gnd 340r',
        'r1 4.7 k',
      ].map(read),
    ).toEqual([
      'off resistance R1.1>R1.2 4700',
      'on voltage VCC> 4.98',
      'off continuity F1.1>F1.2 beep',
      'off continuity F1.1>F1.2 open',
      'off esr C1.1>C1.2 1.03',
      'off esr C1.1>C1.2 0.06',
      'off diode D1.A>D1.K 0.62',
      'off diode D1.A>D1.K OL',
      'off resistance OUT>K OL',
      'on current R3.1>R3.2 0.02',
      'off resistance VCC> 2500',
      'on logic OUT> 0',
      'off diode D1.A>D1.K 0.6',
      'on voltage VCC> 0',
      'off resistance VCC> 340',
      'off resistance R1.1>R1.2 4700',
    ]);
    expect(read('vcc on 5 off')).toContain('setup on');
    expect(parseShorthand(divider, 'r77 4k7')).toMatchObject({
      ok: false,
      understood: 'no part, pin or net "r77"',
    });
    expect(parseShorthand(divider, 'r1')).toMatchObject({
      ok: false,
      understood: 'r1',
      expected: expect.stringContaining('value') as string,
    });
  });

  it('reads and writes readings files, and names the line of what it cannot read', () => {
    const text =
      'setup,kind,at,to,value,unit\r\non,voltage,VCC,,4.98,V\r\noff,continuity,F1.1,F1.2,beep\r\noff,resistance,OUT,,OL,ohm\r\n';
    const result = readReadingsFile(divider, text);
    if (!result.ok) throw new Error('readings');
    expect(result.value.map((r) => r.value)).toEqual([4.98, 'beep', 'OL']);
    expect(readReadingsFile(divider, writeReadingsFile(result.value))).toEqual(result);
    expect(
      readReadingsFile(
        divider,
        'setup,kind,at,to,value,unit\non,voltage,NOPE,,1,V\noff,voltage,VCC,,1,V\non,voltage,VCC,,4k7x,V',
      ),
    ).toMatchObject({
      ok: false,
      issues: [{ line: 2 }, { line: 3 }, { line: 4 }],
    });
    expect(measurement(divider, 'voltage', 'vcc').at.net).toBe('VCC');
  });
});
