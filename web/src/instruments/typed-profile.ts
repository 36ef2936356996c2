import { STANDARD_METER, type MeterProfile, type ReadingKind } from '@hanzai/core/instrument';
import { formatCompact, parseQuantity, type Unit } from '@hanzai/core/quantity';
import { z } from 'zod';
import { typedNumber, typedWords } from '../form/typed';

/** A size with its unit, above zero. */
const size = (unit: Unit, words: string) =>
  z.string().transform((text, context) => {
    const read = parseQuantity(text);
    if (read.ok && read.value !== 'OL' && read.value > 0 && ['', unit].includes(read.unit))
      return read.value;
    context.addIssue(words);
    return z.NEVER;
  });
const share = typedNumber({
  fits: (value) => value >= 0 && value <= 50,
  words: 'no accuracy; expected percent such as 0.5',
});
const counts = typedNumber({
  fits: (value) => value >= 0 && value <= 1000,
  words: 'no counts; expected a number such as 2',
});
/** Sizes with blanks or commas between them, the smallest first. */
const ranges = z.string().transform((text, context) => {
  const read = text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(parseQuantity);
  const sizes = read.flatMap((one) =>
    one.ok && one.value !== 'OL' && one.value > 0 ? [one.value] : [],
  );
  if (sizes.length === read.length && sizes.length > 0 && sizes.length <= 12)
    return sizes.sort((a, b) => a - b);
  context.addIssue('full scales such as 0.4 4 40 400');
  return z.NEVER;
});
/** Ranges of ohms with their currents: `400@1m 4k@100u`. */
const ohmRanges = z.string().transform((text, context) => {
  const pairs = text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((pair) => pair.split('@').map(parseQuantity));
  const sizes = pairs.flatMap(([full, ampere, more]): [number, number][] =>
    full?.ok &&
    ampere?.ok &&
    !more &&
    typeof full.value === 'number' &&
    typeof ampere.value === 'number' &&
    full.value > 0 &&
    ampere.value > 0
      ? [[full.value, ampere.value]]
      : [],
  );
  if (sizes.length === pairs.length && sizes.length > 0 && sizes.length <= 12)
    return sizes.sort((a, b) => a[0] - b[0]);
  context.addIssue('full scale and test current, such as 400@1m 4k@100u');
  return z.NEVER;
});

/** Kinds of reading that belong together on one instrument, and what they are called. */
export const USES: readonly (readonly [string, string, readonly ReadingKind[]])[] = [
  ['volts', 'volts', ['voltage', 'current']],
  ['ohms', 'ohms, beeps, diode tests', ['resistance', 'continuity', 'diode']],
  ['esr', 'ESR', ['esr']],
  ['logic', 'logic levels', ['logic']],
];

/** What is typed of an instrument, and the profile that it makes. */
export const TypedInstrument = z
  .object({
    name: typedWords(80, 'what it is called, for example "yellow hand meter"'),
    uses: z.array(z.string()).min(1, 'what it is used for'),
    counts: size('', 'counts of a full range, such as 4000'),
    voltShare: share,
    voltCounts: counts,
    voltInputOhm: size('ohm', 'ohms of its input, such as 10M'),
    voltRanges: ranges,
    ohmShare: share,
    ohmCounts: counts,
    ohmRanges,
    ohmVoltLimit: size('V', 'volts, such as 0.4'),
    continuityOhm: size('ohm', 'ohms, such as 30'),
    diodeAmpere: size('A', 'amperes, such as 1m'),
    diodeOverloadVolt: size('V', 'volts, such as 3'),
    leadOhm: z.string(),
    esrHertz: size('Hz', 'hertz, such as 100k'),
    esrMethod: z.enum(['real', 'magnitude']),
    esrShare: share,
    esrOhm: typedNumber({ fits: (v) => v >= 0 && v <= 10, words: 'no ohms; expected 0.02' }),
    logicLowVolt: size('V', 'volts, such as 0.8'),
    logicHighVolt: size('V', 'volts, such as 2'),
  })
  .transform((typed, context) => {
    const leads = typed.leadOhm.trim() === '' ? undefined : parseQuantity(typed.leadOhm);
    if (leads && (!leads.ok || leads.value === 'OL' || leads.value < 0 || leads.value > 10)) {
      context.addIssue({
        code: 'custom',
        path: ['leadOhm'],
        message: 'ohms such as 0.2, or nothing',
      });
      return z.NEVER;
    }
    if (typed.logicLowVolt >= typed.logicHighVolt) {
      context.addIssue({ code: 'custom', path: ['logicHighVolt'], message: 'above the low level' });
      return z.NEVER;
    }
    const profile: MeterProfile = {
      ...STANDARD_METER,
      counts: Math.round(typed.counts),
      voltInputOhm: typed.voltInputOhm,
      voltRanges: typed.voltRanges,
      ohmRanges: typed.ohmRanges,
      ohmVoltLimit: typed.ohmVoltLimit,
      continuityOhm: typed.continuityOhm,
      diodeAmpere: typed.diodeAmpere,
      diodeOverloadVolt: typed.diodeOverloadVolt,
      esrHertz: typed.esrHertz,
      esrMethod: typed.esrMethod,
      logicLowVolt: typed.logicLowVolt,
      logicHighVolt: typed.logicHighVolt,
      volts: { share: typed.voltShare / 100, counts: typed.voltCounts },
      ohms: { share: typed.ohmShare / 100, counts: typed.ohmCounts },
      esr: { share: typed.esrShare / 100, ohm: typed.esrOhm },
      ...(leads?.ok && typeof leads.value === 'number' ? { leadOhm: leads.value } : {}),
    };
    const kinds = USES.flatMap(([use, , own]) => (typed.uses.includes(use) ? own : []));
    return { name: typed.name, kinds, profile };
  });
export type InstrumentTyped = z.input<typeof TypedInstrument>;

const percent = (value: number): string => String(Number((100 * value).toPrecision(6)));

/** An instrument as it is typed. */
export function asTyped(
  name: string,
  kinds: readonly ReadingKind[],
  profile: MeterProfile,
): InstrumentTyped {
  return {
    name,
    uses: USES.flatMap(([use, , own]) => (own.some((kind) => kinds.includes(kind)) ? [use] : [])),
    counts: String(profile.counts),
    voltShare: percent(profile.volts.share),
    voltCounts: String(profile.volts.counts),
    voltInputOhm: formatCompact(profile.voltInputOhm, ''),
    voltRanges: profile.voltRanges.map(String).join(' '),
    ohmShare: percent(profile.ohms.share),
    ohmCounts: String(profile.ohms.counts),
    ohmRanges: profile.ohmRanges
      .map(([full, ampere]) => `${formatCompact(full, '')}@${formatCompact(ampere, '')}`)
      .join(' '),
    ohmVoltLimit: String(profile.ohmVoltLimit),
    continuityOhm: String(profile.continuityOhm),
    diodeAmpere: formatCompact(profile.diodeAmpere, ''),
    diodeOverloadVolt: String(profile.diodeOverloadVolt),
    leadOhm: profile.leadOhm === undefined ? '' : String(profile.leadOhm),
    esrHertz: formatCompact(profile.esrHertz, ''),
    esrMethod: profile.esrMethod,
    esrShare: percent(profile.esr.share),
    esrOhm: String(profile.esr.ohm),
    logicLowVolt: String(profile.logicLowVolt),
    logicHighVolt: String(profile.logicHighVolt),
  };
}

/** Known resistors as they are typed, one a line: what it is, what was read, its percent. */
export function typedResistors(text: string): {
  readonly known: readonly {
    readonly trueOhm: number;
    readonly readOhm: number;
    readonly tolerance: number;
  }[];
  readonly unread: readonly number[];
} {
  const unread: number[] = [];
  const known = text.split('\n').flatMap((line, i) => {
    if (line.trim() === '') return [];
    const [trueText = '', readText = '', share = '1'] = line.trim().split(/[\s,;]+/);
    const [is, shown] = [parseQuantity(trueText), parseQuantity(readText)];
    const tolerance = Number(share.replace('%', '').replace(',', '.')) / 100;
    if (
      is.ok &&
      shown.ok &&
      typeof is.value === 'number' &&
      typeof shown.value === 'number' &&
      is.value > 0 &&
      tolerance >= 0
    )
      return [{ trueOhm: is.value, readOhm: shown.value, tolerance }];
    unread.push(i + 1);
    return [];
  });
  return { known, unread };
}
