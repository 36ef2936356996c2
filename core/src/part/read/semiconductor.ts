import { diodeModel, transistorModel, type DeviceLibrary } from '../../board';
import type { DiodeSpec } from '../spec';
import { amountOf, amounts, assigned, millimetres, named, orderOf, wattOf } from '../words';
import { libraryPart } from './from-library';
import { flag, meant, said, type Fields, type Reader } from './said';

const DIODE_TYPES: readonly (readonly [RegExp, NonNullable<DiodeSpec['type']>])[] = [
  [/\bzener\b|\bBZ[XVY]/i, 'zener'],
  [/\bbridge\b/i, 'bridge'],
  [/\bschottky\b|\b1N58(1[789]|2[0-2])/i, 'schottky'],
  [/\bled\b/i, 'led'],
  [/\b(signal|switching)\b|\b1N(4148|4448|914|4151)/i, 'signal'],
  [/\brectifier\b|\b1N(400[1-7]|540[0-8]|493\d)/i, 'rectifier'],
];
/**
 * Reverse volts and amperes of diodes that are named by number alone. Published data sheets, from
 * memory.
 */
const DIODE_RATINGS: readonly (readonly [RegExp, volt: number, ampere: number])[] = [
  [/\b1N400([1-7])/i, 0, 1],
  [/\b1N(4148|4448)/i, 75, 0.2],
  [/\b1N914/i, 75, 0.075],
  [/\b1N5817/i, 20, 1],
  [/\b1N5818/i, 30, 1],
  [/\b1N5819/i, 40, 1],
  [/\b1N5820/i, 20, 3],
  [/\b1N5821/i, 30, 3],
  [/\b1N5822/i, 40, 3],
];
const VOLTS_1N4000 = [50, 100, 200, 400, 600, 800, 1000];
export const readDiode: Reader<'diode'> = (text) => {
  const list = amounts(text);
  const type = meant(text, DIODE_TYPES);
  const row = DIODE_RATINGS.find(([pattern]) => pattern.test(text));
  const step = Number(/\b1N400([1-7])/i.exec(text)?.[1] ?? 0);
  const written = amountOf(list, 'V') ?? (step > 0 ? VOLTS_1N4000[step - 1] : row?.[1]);
  const zener = text.split(/\s+/).flatMap((word) => diodeModel(word).breakdownVolt ?? [])[0];
  return said<Fields<'diode'>>({
    type: type ?? (zener !== undefined && written === undefined ? 'zener' : undefined),
    isFast:
      /\b(fast|ultra-?fast|switching|signal|schottky)\b|\b1N(4148|4448|914|4151|493\d|58)/i.test(
        text,
      )
        ? true
        : type === 'rectifier' || /\bslow\b|\bstandard\b/i.test(text)
          ? false
          : undefined,
    volt: written ?? zener,
    ampere: amountOf(list, 'A') ?? row?.[2],
    watt: wattOf(text),
    colour: /\b(red|green|yellow|amber|blue|white|infrared|ir)\b/i.exec(text)?.[1]?.toLowerCase(),
  });
};

export const readTransistor: Reader<'transistor'> = (text) => {
  const list = amounts(text);
  const byName = text.split(/[\s,]+/).flatMap((word) => transistorModel(word)?.polarity ?? [])[0];
  return said<Fields<'transistor'>>({
    polarity:
      meant(text, [
        [/\bn-?(channel|mos)/i, 'n-channel' as const],
        [/\bp-?(channel|mos)/i, 'p-channel' as const],
        [/\bnpn\b/i, 'npn' as const],
        [/\bpnp\b/i, 'pnp' as const],
      ]) ?? byName,
    darlington: /\bdarlington\b|\bTIP12\d|\bMPSA(13|14|63|64)/i.test(text)
      ? true
      : byName || /\b(npn|pnp)\b/i.test(text)
        ? false
        : undefined,
    volt: amountOf(list, 'V'),
    ampere: amountOf(list, 'A'),
    gain: assigned(text, 'hfe|gain|beta') ?? named(text, 'hfe|gain|beta', ''),
    watt: wattOf(text),
    hertz: assigned(text, 'ft') ?? amountOf(list, 'Hz'),
    order: orderOf(text, 'BCE') ?? orderOf(text, 'DGS'),
  });
};

export const readOpto: Reader<'opto'> = (text) =>
  said<Fields<'opto'>>({
    type: meant(text, [
      [/\b(reflective|reflex)\b/i, 'reflective' as const],
      [/\b(coupler|optocoupler|isolator)\b/i, 'coupler' as const],
      [/\b(interrupter|slot(ted)?|barrier|fork)\b/i, 'interrupter' as const],
    ]),
    order: orderOf(text, 'ACEK'),
    slotMm: assigned(text, 'slot|gap') ?? millimetres(text)[0],
  });

export const readRegulator =
  (library: DeviceLibrary): Reader<'regulator'> =>
  (text) => {
    const model = libraryPart(text, library, 'regulator')?.model;
    const list = amounts(text);
    const bare = /(?:^|\s)(7[89])[LM]?(\d\d)/i.exec(text);
    const volt = model?.volt ?? amountOf(list, 'V') ?? (bare ? Number(bare[2]) : undefined);
    return said<Fields<'regulator'>>({
      model,
      volt: volt === undefined ? undefined : Math.abs(volt),
      negative: model
        ? model.polarity === 'negative'
        : bare
          ? bare[1] === '79'
          : /\bnegative\b/i.test(text) || (volt ?? 0) < 0
            ? true
            : /\bpositive\b/i.test(text)
              ? false
              : undefined,
      adjustable: model ? /^3[13]7/.test(model.name) : flag(/\badjustable\b/i.test(text)),
      ampere: amountOf(list, 'A') ?? (model ? nominalAmpere(model.name) : undefined),
      dropoutVolt: assigned(text, 'drop-?out|drop') ?? model?.dropoutVolt,
      order:
        orderOf(text, 'IGO') ??
        (model ? model.roles.map((role) => role[0]!.toUpperCase()).join('') : undefined),
      lowDrop: flag(/\b(ldo|low[ -]?drop(out)?)\b/i.test(text)),
    });
  };
/** What a series regulator is rated for. Published data sheets, from memory. */
const nominalAmpere = (name: string): number =>
  /^7[89]L/.test(name) ? 0.1 : /^7[89]M/.test(name) ? 0.5 : 1;
