import { parseFuse, type Dielectric } from '../../board';
import { SAFETY_CLASSES, type ArraySpec, type CeramicClass } from '../spec';
import {
  amountOf,
  amounts,
  type Amount,
  assigned,
  named,
  toleranceOf,
  valueOf,
  wattOf,
} from '../words';
import { flag, meant, said, type Fields, type Reader } from './said';

export const DIELECTRICS: readonly (readonly [RegExp, Dielectric])[] = [
  [/\b(bipolar|non-?polar(ised|ized)?|np|bp)\b/i, 'bipolar'],
  [/\b(tantalum|tant|ta)\b/i, 'tantalum'],
  [/\bpolymer\b/i, 'polymer'],
  [/\b(ceramic|cer|mlcc|x[5-8][rstu]|c0g|cog|np0|npo|y5[tuv]|z5[uv])\b/i, 'ceramic'],
  [/\b(film|foil|polyester|polypropylene|mkt|mkp|paper|mylar)\b/i, 'film'],
  [/\b(electrolytic|elko|elco|alu(minium)?|radial|axial)\b/i, 'electrolytic'],
];
/** Codes of ceramics. Source: EIA-198: C0G is class 1, X7R and its like class 2. */
const CERAMICS: readonly (readonly [RegExp, CeramicClass])[] = [
  [/\b(c0g|cog|np0|npo|class[ -]?1)\b/i, 1],
  [/\b(x[5-8][rstu]|y5[tuv]|z5[uv]|class[ -]?2)\b/i, 2],
];
export const BACK_TO_BACK = /\b(back[ -]to[ -]back|anti-?series)\b/i;

/**
 * Two figures and how many noughts follow, picofarad: `104` is 100 nF. Source: IEC 60062. A number
 * alone that is no such code says nothing: it may be microfarads on one part and picofarads on
 * another.
 */
const CODE = /^([1-9]\d)([0-6])$/;
function faradOf(list: readonly Amount[]): number | undefined {
  const written = list.find(
    ({ unit, word }) => unit === 'F' || (unit === '' && /[a-zµμ]/i.test(word)),
  );
  if (written) return written.value;
  const code = list.flatMap(({ unit, word }) => (unit === '' ? (CODE.exec(word) ?? []) : []));
  if (code.length < 3) return undefined;
  return Number((Number(code[1]) * 10 ** Number(code[2]) * 1e-12).toPrecision(12));
}

export const readCapacitor: Reader<'capacitor'> = (text) => {
  // Ohms before or behind "esr" are not the value.
  const esrOhm = named(text, 'esr', 'ohm');
  const rest = text
    .replace(/\besr\s*[=:]?\s*[^\s,;]+/i, (found) =>
      /esr\s*$/i.test(found) || !/\d/.test(found) ? found : ' ',
    )
    .replace(/[^\s,;=]*\d[^\s,;=]*\s+esr\b/i, ' ')
    .replace(/\b\d\s*[x×]\s+/i, ' ');
  const list = amounts(rest);
  const safety = SAFETY_CLASSES.filter((name) =>
    new RegExp(`(?:^|[\\s/])${name}(?=$|[\\s/,])`, 'i').test(rest),
  );
  return said<Fields<'capacitor'>>({
    farad: faradOf(list),
    tolerance: toleranceOf(rest),
    volt: amountOf(list, 'V'),
    dielectric: meant(rest, DIELECTRICS),
    ceramic: meant(rest, CERAMICS),
    esrOhm,
    rippleAmpere: assigned(text, 'ripple') ?? amountOf(list, 'A'),
    safety: safety.length > 0 ? safety : undefined,
    backToBack: flag(BACK_TO_BACK.test(text)),
  });
};

export const readFuse: Reader<'fuse'> = (text) => {
  const rating = parseFuse(
    text.replace(/\bbreaking\s*[=:]?\s*\S+/i, ' ').replace(/\bi2t\s*[=:]\s*\S+/i, ' '),
  );
  return {
    ...rating,
    ...said<Pick<Fields<'fuse'>, 'breakingAmpere' | 'meltingA2s'>>({
      breakingAmpere: assigned(text, 'breaking') ?? named(text, 'breaking', 'A'),
      meltingA2s: assigned(text.replace(/A2s|A²s/i, ''), 'i2t|melting'),
    }),
  };
};

export const readResistor: Reader<'resistor'> = (text) =>
  said<Fields<'resistor'>>({
    ohm: valueOf(amounts(text.replace(/(?:^|\s)\d+\/\d+\s*W(?=\s|,|$)/i, ' ')), 'ohm'),
    tolerance: toleranceOf(text),
    watt: wattOf(text),
    fusible: flag(/\bfus(ible|ing)\b/i.test(text)),
    flameproof: flag(/\b(flame-?(proof|retardant)|fire-?proof|metal[ -]oxide)\b/i.test(text)),
    wound: flag(/\bwire-?wound\b/i.test(text)),
  });

const JOINED: readonly (readonly [RegExp, NonNullable<ArraySpec['joined']>])[] = [
  [/\bisolated\b/i, 'isolated'],
  [/\b(bussed|bused|common)\b/i, 'bussed'],
  [/\b(divider|terminator|dual)\b/i, 'divider'],
];
const TIMES = /(?:^|\s)(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])(?=\s|,|$)/i;
export const readArray: Reader<'array'> = (text) => {
  const times = TIMES.exec(text);
  const pins = /\b(\d{1,2})[ -]?pins?\b/i.exec(text)?.[1];
  const elements = times?.[1] ?? times?.[2] ?? /\b(\d{1,2})\s+elements?\b/i.exec(text)?.[1];
  return said<Fields<'array'>>({
    ohm: valueOf(
      amounts(text.replace(TIMES, ' ').replace(/\b\d{1,2}[ -]?(pins?|elements?)\b/gi, ' ')),
      'ohm',
    ),
    tolerance: toleranceOf(text),
    elements: elements === undefined ? undefined : Number(elements),
    pins: pins === undefined ? undefined : Number(pins),
    joined: meant(text, JOINED),
  });
};

export const readInductor: Reader<'inductor'> = (text) => {
  const list = amounts(text);
  return said<Fields<'inductor'>>({
    henry: valueOf(list, 'H'),
    tolerance: toleranceOf(text),
    ampere: amountOf(list, 'A'),
    copperOhm: assigned(text, 'dcr') ?? amountOf(list, 'ohm'),
  });
};

export const readCrystal: Reader<'crystal'> = (text) => {
  const list = amounts(text);
  return said<Fields<'crystal'>>({
    type: meant(text, [
      [/\boscillator\b/i, 'oscillator' as const],
      [/\bresonator\b/i, 'resonator' as const],
      [/\b(crystal|xtal|quartz)\b/i, 'crystal' as const],
    ]),
    hertz: valueOf(list, 'Hz'),
    loadFarad: assigned(text, 'load') ?? amountOf(list, 'F'),
    cut: meant(text, [
      [/\bovertone\b/i, 'overtone' as const],
      [/\bfundamental\b/i, 'fundamental' as const],
    ]),
  });
};
