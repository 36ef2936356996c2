import { NoAnswer, number, text, type Result } from './calculator';

/** Tolerance letters, per cent. Source: IEC 60062:2016, table 5. */
export const TOLERANCE_LETTERS: Readonly<Record<string, number>> = {
  E: 0.005, L: 0.01, P: 0.02, W: 0.05, B: 0.1, C: 0.25, D: 0.5, F: 1, G: 2, J: 5, K: 10, M: 20, N: 30,
}; // prettier-ignore

/** Rated volts by code. Source: EIA-198 and JIS C 5101, from memory. */
const VOLT_LETTERS: Readonly<Record<string, number>> = {
  G: 4, J: 6.3, A: 10, C: 16, D: 20, E: 25, V: 35, H: 50, K: 80,
}; // prettier-ignore
const voltsOf = (code: string): number | undefined => {
  const [, power, letter] = /^([0-3])([A-Z])$/.exec(code) ?? [];
  const base = letter === undefined ? undefined : VOLT_LETTERS[letter];
  return base === undefined
    ? undefined
    : Number((base * 10 ** (Number(power) - (base >= 10 ? 1 : 0))).toPrecision(6));
};
const COLD: Readonly<Record<string, number>> = { X: -55, Y: -30, Z: 10 };
const HOT: Readonly<Record<string, number>> = { 4: 65, 5: 85, 6: 105, 7: 125, 8: 150, 9: 200 };
const MOVES: Readonly<Record<string, string>> = {
  P: '±10 %', R: '±15 %', S: '±22 %', T: '+22 to -33 %', U: '+22 to -56 %', V: '+22 to -82 %', F: '±7.5 %',
}; // prettier-ignore

/**
 * A resistor or capacitor code of letters and figures: `4k7J`, `R47`, `1002`, `104K`, `104 1H X7R`.
 */
export function readCode(said: string, of: string): readonly Result[] {
  const words = said.trim().split(/\s+/).filter(Boolean);
  const first = words[0]!.replace(/,/g, '.');
  const [, mark = '', letter = ''] =
    /^(.*?\d(?:[a-zµμR](?=\d*$))?[a-zµμ]?|R\d+|\d+[Rr]\d*)([BCDEFGJKLMNPW])?$/.exec(first) ?? [];
  const value = of === 'R' ? ohmsOf(mark) : faradsOf(mark);
  if (value === undefined)
    throw new NoAnswer(
      `"${words[0]}" is no code of a ${of === 'R' ? 'resistor' : 'capacitor'} that is known here`,
    );
  const unit = of === 'R' ? 'ohm' : 'F';
  const results: Result[] = [number('value', 'value', value, unit)];
  const tolerance = TOLERANCE_LETTERS[letter];
  if (tolerance !== undefined) results.push(number('tolerance', 'tolerance', tolerance, '%'));
  for (const word of words.slice(1)) {
    const volt = voltsOf(word.toUpperCase());
    const [, cold, hot, moves] = /^([XYZ])([4-9])([PRSTUVF])$/i.exec(word) ?? [];
    if (volt !== undefined && of === 'C') results.push(number('volt', 'rated', volt, 'V'));
    else if (/^(C0G|NP0)$/i.test(word))
      results.push(text('kind', 'ceramic', 'class 1: stays within 30 millionths a kelvin'));
    else if (cold && hot && moves)
      results.push(
        text(
          'kind',
          'ceramic',
          `class 2: ${COLD[cold.toUpperCase()]} to ${HOT[hot]} °C, value moves ${MOVES[moves.toUpperCase()]}; falls with volts on it beside that`,
        ),
      );
    else throw new NoAnswer(`"${word}" is no code that is known here`);
  }
  return results;
}

function ohmsOf(mark: string): number | undefined {
  const [, whole, letter, part] = /^(\d*)([RrkKM])(\d*)$/.exec(mark) ?? [];
  if (letter !== undefined && (whole || part)) {
    const scale = /k/i.test(letter) ? 1e3 : letter === 'M' ? 1e6 : 1;
    return Number((Number(`${whole || 0}.${part || 0}`) * scale).toPrecision(12));
  }
  // Two or three figures and how many noughts follow, as on chips.
  const [, figures, noughts] = /^(\d{2,3})(\d)$/.exec(mark) ?? [];
  return figures === undefined ? undefined : Number(`${figures}e${noughts}`);
}

function faradsOf(mark: string): number | undefined {
  const [, whole, letter, part] = /^(\d*)([pnuµμm])(\d*)$/.exec(mark) ?? [];
  if (letter !== undefined && (whole || part)) {
    const scale = { p: 1e-12, n: 1e-9, u: 1e-6, µ: 1e-6, μ: 1e-6, m: 1e-3 }[letter]!;
    return Number((Number(`${whole || 0}.${part || 0}`) * scale).toPrecision(12));
  }
  const [, figures, noughts] = /^([1-9]\d)([0-689])$/.exec(mark) ?? [];
  if (figures === undefined) return undefined;
  // An 8 or 9 at the end divides by 100 or 10.
  const power = noughts === '8' ? -2 : noughts === '9' ? -1 : Number(noughts);
  return Number((Number(figures) * 10 ** (power - 12)).toPrecision(12));
}
