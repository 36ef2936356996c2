/**
 * The units a bench reading can carry. `''` is a bare number: its meaning comes from where it is
 * used.
 */
export type Unit = '' | 'ohm' | 'V' | 'A' | 'F' | 'H' | 'Hz';

/** What a typed quantity was understood as. `value` is in SI units. */
export type ParsedQuantity =
  | { readonly ok: true; readonly value: number; readonly unit: Unit }
  | { readonly ok: true; readonly value: 'OL'; readonly unit: Unit }
  | { readonly ok: false; readonly expected: string };

const EXPECTED = 'a quantity such as 4k7, 4.7k, .03, 183R, 3V3, 22u or OL';

/** Prefix letters. Case matters where the trade makes it matter: m is milli, M is mega. */
// prettier-ignore
const PREFIX: Readonly<Record<string, number>> = {
  '': 1, T: 1e12, G: 1e9, g: 1e9, meg: 1e6, Meg: 1e6, MEG: 1e6, M: 1e6, k: 1e3, K: 1e3,
  m: 1e-3, u: 1e-6, µ: 1e-6, μ: 1e-6, n: 1e-9, p: 1e-12,
};

// prettier-ignore
const UNIT_WORD: Readonly<Record<string, Unit>> = {
  ohm: 'ohm', ohms: 'ohm', r: 'ohm', ω: 'ohm', v: 'V', a: 'A', f: 'F', h: 'H', hz: 'Hz',
};

interface Letters {
  readonly scale: number;
  readonly unit: Unit;
}

/**
 * Reads the letters after (or inside) a number: a prefix, a unit, or both. Returns undefined when
 * they are neither.
 */
function readLetters(letters: string): Letters | undefined {
  if (letters in PREFIX) return { scale: PREFIX[letters]!, unit: '' };
  const whole = UNIT_WORD[letters.toLowerCase()];
  if (whole) return { scale: 1, unit: whole };
  for (const prefix of Object.keys(PREFIX)) {
    if (prefix === '' || !letters.startsWith(prefix)) continue;
    const unit = UNIT_WORD[letters.slice(prefix.length).toLowerCase()];
    if (unit) return { scale: PREFIX[prefix]!, unit };
  }
  return undefined;
}

/**
 * Reads one quantity in the trade's notation: plain (`4.7k`), letter for the point (`4k7`, `3V3`,
 * `R47`), scientific (`4.7e3`), or `OL`. Returns the value in SI units with the unit that was
 * written, if any; a decimal comma is accepted.
 * Source: IEC 60062:2016 clause 5 (letter for the decimal point); prefixes as in the SI brochure.
 */
export function parseQuantity(text: string): ParsedQuantity {
  const trimmed = text.trim().replace(/\s+/g, '').replace(/Ω|Ω/g, 'ohm');
  if (/^[o0]\.?l\.?$/i.test(trimmed)) return { ok: true, value: 'OL', unit: '' };
  const match =
    /^([+-]?)(\d*)(?:[.,](\d*))?(?:e([+-]?\d{1,3}))?([a-zµμωA-Z]*?)(\d*)([a-zµμωA-Z]*)$/u.exec(
      trimmed,
    );
  if (!match) return { ok: false, expected: EXPECTED };
  const [, sign, whole = '', fraction, exponent, inner = '', after = '', tail = ''] = match;
  if (whole === '' && !fraction && after === '') return { ok: false, expected: EXPECTED };
  const letterIsPoint = after !== '';
  if (letterIsPoint && (fraction !== undefined || exponent !== undefined || inner === ''))
    return { ok: false, expected: EXPECTED };
  const first = readLetters(letterIsPoint ? inner : inner + tail);
  const last = letterIsPoint ? readLetters(tail) : { scale: 1, unit: '' as Unit };
  if (!first || !last || last.scale !== 1 || (first.unit && last.unit))
    return { ok: false, expected: EXPECTED };
  const digits = letterIsPoint ? `${whole || '0'}.${after}` : `${whole || '0'}.${fraction || '0'}`;
  const value = Number(`${digits}e${exponent ?? 0}`) * first.scale * (sign === '-' ? -1 : 1);
  if (!Number.isFinite(value)) return { ok: false, expected: EXPECTED };
  return { ok: true, value: cleanProduct(value), unit: first.unit || last.unit };
}

/**
 * Removes the last-digit noise of scaling, so that 4.7 x 1e-6 is 0.0000047 and not 0.0000046999999.
 */
function cleanProduct(value: number): number {
  return Number(value.toPrecision(15));
}
