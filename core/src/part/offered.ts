import { parseFuse, type Dielectric, type FuseRating } from '../board';
import { parseQuantity } from '../quantity';

/** Classes of capacitors that may lie on the mains. Source: IEC 60384-14. */
export const SAFETY_CLASSES = ['X1', 'X2', 'X3', 'Y1', 'Y2', 'Y3', 'Y4'] as const;
export type SafetyClass = (typeof SAFETY_CLASSES)[number];

/**
 * What is offered as a replacement, as far as it was written down. SI units; what was not written
 * is undefined.
 */
export interface OfferedPart {
  readonly value?: number;
  readonly ratedVolt?: number;
  readonly esrOhm?: number;
  readonly watt?: number;
  readonly tolerance?: number;
  readonly celsius?: number;
  readonly dielectric?: Dielectric;
  readonly safety?: readonly SafetyClass[];
  /** Resistors that open without flame. */
  readonly fusible?: boolean;
  readonly flameproof?: boolean;
  readonly fuse: FuseRating;
  readonly text: string;
}

// prettier-ignore
const KINDS: readonly (readonly [RegExp, Dielectric])[] = [
  [/\b(bipolar|non-?polar(ised|ized)?|np|bp)\b/i, 'bipolar'], [/\b(tantalum|tant|ta)\b/i, 'tantalum'], [/\bpolymer\b/i, 'polymer'],
  [/\b(ceramic|cer|mlcc|x7r|x5r|c0g|np0|y5v|z5u)\b/i, 'ceramic'], [/\b(film|foil|polyester|polypropylene|mkt|mkp|paper|mylar)\b/i, 'film'],
  [/\b(electrolytic|elko|elco|alu(minium)?|radial|axial)\b/i, 'electrolytic'],
];

/**
 * Reads what was written for a fitted part: `470u 35V tantalum`, `4k7 0.5W`, `100n X2 275V`, `0R47
 * fusible`. Words that say nothing are left alone.
 */
export function parseOffered(text: string): OfferedPart {
  const esr = /(\S+)\s+esr\b|\besr\s*[=:]?\s*(\S+)/i.exec(text);
  const esrOhm = esr ? ohms(esr[1] ?? esr[2]!) : undefined;
  const rest = esr && esrOhm !== undefined ? text.replace(esr[0], ' ') : text;
  const watt = /(?:^|\s)(?:(\d+)\/(\d+)|(\d+(?:[.,]\d+)?))\s*W(?=\s|,|$)/i.exec(rest);
  const celsius = /(?:^|\s)(\d{2,3})\s*°?C(?=\s|,|$)/.exec(rest)?.[1];
  const percent = /(?:^|\s)±?(\d+(?:[.,]\d+)?)\s*%/.exec(rest)?.[1];
  const safety = SAFETY_CLASSES.filter((name) =>
    new RegExp(`(?:^|[\\s/])${name}(?=$|[\\s/,])`, 'i').test(rest),
  );
  const dielectric = KINDS.find(([words]) => words.test(rest))?.[1];
  let found: { value?: number; ratedVolt?: number } = {};
  for (const word of rest.replace(/(\d)\s+V(ac|dc)?\b/gi, '$1V').split(/[\s,/]+/)) {
    const parsed = parseQuantity(word.replace(/V(ac|dc)$/i, 'V'));
    if (!parsed.ok || parsed.value === 'OL' || /%$/.test(word)) continue;
    if (parsed.unit === 'V') found.ratedVolt ??= parsed.value;
    else if (parsed.unit !== 'A') found = { ...found, value: found.value ?? parsed.value };
  }
  return {
    ...found,
    text,
    fuse: parseFuse(text),
    ...(esrOhm === undefined ? {} : { esrOhm }),
    ...(watt
      ? {
          watt:
            watt[3] === undefined
              ? Number(watt[1]) / Number(watt[2])
              : Number(watt[3].replace(',', '.')),
        }
      : {}),
    ...(celsius === undefined ? {} : { celsius: Number(celsius) }),
    ...(percent === undefined ? {} : { tolerance: Number(percent.replace(',', '.')) / 100 }),
    ...(safety.length === 0 ? {} : { safety }),
    ...(dielectric === undefined ? {} : { dielectric }),
    ...(/\bfus(ible|ing)\b/i.test(rest) ? { fusible: true } : {}),
    ...(/\b(flame-?(proof|retardant)|fire-?proof|metal[ -]oxide)\b/i.test(rest)
      ? { flameproof: true }
      : {}),
  };
}

function ohms(word: string): number | undefined {
  const parsed = parseQuantity(word);
  return parsed.ok && parsed.value !== 'OL' && (parsed.unit === '' || parsed.unit === 'ohm')
    ? parsed.value
    : undefined;
}
