import { LIBRARY, RATES } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import { resolveMeasurement, type Reading } from '../src/instrument';
import { readQuickList, surveyCapacitors } from '../src/survey';

const refs = (text: string): string[] =>
  readQuickList(text, LIBRARY).index.board.parts.map(({ ref }) => ref);
const unread = (text: string): string[] =>
  readQuickList(text, LIBRARY).unread.map(({ line, text: own }) => `${line}: ${own}`);

describe('a quick list', () => {
  it('is one capacitor a line, however it is parted', () => {
    expect(refs('C1 47u 16V\n\n c2, 100uF; 25V electrolytic \r\nC3 100n')).toEqual([
      'C1',
      'C2',
      'C3',
    ]);
    const { index } = readQuickList('C1 47u 16V electrolytic', LIBRARY);
    expect(index.partByKey.get('c1')).toMatchObject({
      kind: 'capacitor',
      capacitanceFarad: 47e-6,
      ratedVolt: 16,
      dielectric: 'electrolytic',
    });
  });
  it('names the lines that say nothing, and takes the others', () => {
    const text = 'C1 47u\nR1 10k\nC2\nnonsense\nC1 100u\nC3 10u what is this\n== C4 ==\nC5 1u';
    expect(refs(text).slice(0, 1)).toEqual(['C1']);
    expect(refs(text)).toContain('C5');
    expect(unread(text)).toEqual(
      expect.arrayContaining(['2: R1 10k', '3: C2', '4: nonsense', '5: C1 100u', '7: == C4 ==']),
    );
    expect(refs('')).toEqual([]);
  });
  it('is judged by its like: 0.03 and 0.04 ohm convict the third at 1.03', () => {
    // Common practice, no published source.
    const { index } = readQuickList(
      'C1 470u 16V electrolytic\nC2 470u 16V electrolytic\nC3 470u 16V electrolytic',
      LIBRARY,
    );
    const readings = [0.03, 0.04, 1.03].map((value, i): Reading => {
      const m = resolveMeasurement(index, 'off', 'esr', `C${i + 1}.1`, `C${i + 1}.2`);
      if (!m.ok) throw new Error(m.what);
      return { measurement: m.measurement, value };
    });
    expect(surveyCapacitors(index, readings, RATES).map(({ verdict }) => verdict)).toEqual([
      'good',
      'good',
      'bad',
    ]);
  });
});
