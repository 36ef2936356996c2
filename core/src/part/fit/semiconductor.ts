import { atLeast, nearly, sameWord, whereSaid } from '../compare';
import type { Place } from '../place';
import { danger, ok, stop, warn, type FitnessRemark } from '../remark';
import type { DiodeSpec, OptoSpec, RegulatorSpec, TransistorSpec } from '../spec';

/** Volts by which a zener may differ: right, and to be thought of. Its usual grade is 5 %. */
const ZENER_SHARE = [0.03, 0.06] as const;

/** Judges a diode by its type: volts, amperes, speed, drop; a zener by what it holds and its watts. */
export function judgeDiode(
  was: DiodeSpec,
  offered: DiodeSpec,
  place: Place,
): readonly FitnessRemark[] {
  if (was.type === 'zener' || offered.type === 'zener') return zener(was, offered);
  if (was.type === 'led' || offered.type === 'led') return light(was, offered);
  return [
    type(was, offered),
    atLeast(
      { code: 'volts', what: 'reverse volts', unit: 'V' },
      was.volt,
      offered.volt,
      place.workingVolt,
    ),
    atLeast({ code: 'current', what: 'current', unit: 'A' }, was.ampere, offered.ampere),
    speed(was, offered),
  ];
}

function zener(was: DiodeSpec, offered: DiodeSpec): readonly FitnessRemark[] {
  return [
    sameWord(
      'kind',
      'kind',
      was.type,
      offered.type,
      'one holds its volts backwards, the other must not',
    ),
    nearly(
      { code: 'volts', what: 'volts that it holds', unit: 'V' },
      was.volt,
      offered.volt,
      ...ZENER_SHARE,
    ),
    atLeast({ code: 'watts', what: 'watts', unit: 'W' }, was.watt, offered.watt),
  ];
}

function light(was: DiodeSpec, offered: DiodeSpec): readonly FitnessRemark[] {
  return [
    sameWord('kind', 'kind', was.type, offered.type),
    ...whereSaid(was.colour, () =>
      sameWord('drop', 'colour (each has volts of its own)', was.colour, offered.colour),
    ),
    atLeast({ code: 'current', what: 'current', unit: 'A' }, was.ampere, offered.ampere),
  ];
}

function type(was: DiodeSpec, offered: DiodeSpec): FitnessRemark {
  if (was.type === 'bridge' || offered.type === 'bridge')
    return sameWord('kind', 'kind', was.type, offered.type, 'four diodes or one');
  if (was.type === 'schottky' && offered.type !== 'schottky')
    return offered.type === undefined && offered.isFast === undefined
      ? warn('drop', 'a schottky came off: the kind of the new one is not written')
      : stop('drop', 'a schottky came off: another diode drops twice as much and is hotter');
  if (offered.type === 'schottky' && was.type !== 'schottky')
    return warn(
      'drop',
      'a schottky drops less and leaks more, above all when hot: not where leakage counts',
    );
  return was.type === offered.type && was.type !== undefined
    ? ok('kind', `${was.type} diode as before`)
    : warn('kind', 'silicon by silicon as far as it is written: compare the two data sheets');
}

function speed(was: DiodeSpec, offered: DiodeSpec): FitnessRemark {
  const [before, now] = [was.isFast ?? was.type === 'schottky', offered.isFast];
  if (was.isFast === undefined && was.type !== 'schottky')
    return now
      ? ok('speed', 'fast: it does in any place')
      : warn('speed', 'speed not judged: of what came off it is not known');
  if (!before) return ok('speed', 'no fast one is needed');
  if (now === undefined) return warn('speed', 'no speed written: a fast one came off');
  return now
    ? ok('speed', 'fast, as it must be')
    : stop('speed', 'a rectifier for the mains is too slow where a fast diode was: it gets hot');
}

/** Gain may be lower by this, and higher by that, before it has to be thought of. Common practice. */
const GAIN_SHARE = { least: 0.7, most: 3 } as const;

/** Judges a transistor: polarity, volts, amperes, gain, watts, speed and the order of its legs. */
export function judgeTransistor(
  was: TransistorSpec,
  offered: TransistorSpec,
  place: Place,
): readonly FitnessRemark[] {
  return [
    sameWord(
      'polarity',
      'polarity',
      was.polarity,
      offered.polarity,
      'it conducts the other way or is switched another way',
    ),
    ...(was.darlington === offered.darlington
      ? []
      : [darlington(was.darlington, offered.darlington)]),
    atLeast({ code: 'volts', what: 'volts', unit: 'V' }, was.volt, offered.volt, place.workingVolt),
    atLeast({ code: 'current', what: 'current', unit: 'A' }, was.ampere, offered.ampere),
    gain(was.gain, offered.gain),
    ...whereSaid(was.watt, () =>
      atLeast({ code: 'watts', what: 'watts', unit: 'W' }, was.watt, offered.watt),
    ),
    ...whereSaid(was.hertz, () =>
      atLeast(
        { code: 'speed', what: 'transition frequency', unit: 'Hz' },
        was.hertz,
        offered.hertz,
      ),
    ),
    legs(was.order, offered.order),
  ];
}

function darlington(was: boolean | undefined, offered: boolean | undefined): FitnessRemark {
  if (offered)
    return was === undefined
      ? warn('gain', 'a darlington: of what came off it is not known')
      : stop('gain', 'a darlington needs 1.3 V at its base and holds 0.8 V when on');
  return was
    ? stop('gain', 'a darlington came off: a single transistor has not the gain')
    : warn('gain', 'whether a darlington belongs here is not judged');
}

function gain(was: number | undefined, offered: number | undefined): FitnessRemark {
  if (was === undefined) return warn('gain', 'gain not judged: of what came off it is not known');
  if (offered === undefined) return warn('gain', `no gain written: ${was} came off`);
  if (offered < was * GAIN_SHARE.least) return stop('gain', `a gain of ${offered} is below ${was}`);
  return offered > was * GAIN_SHARE.most
    ? warn(
        'gain',
        `a gain of ${offered} for ${was}: in an amplifier stage it moves the working point`,
      )
    : ok('gain', `a gain of ${offered} for ${was}`);
}

/** Legs in another order can be crossed, but not without a thought. */
function legs(was: string | undefined, offered: string | undefined): FitnessRemark {
  if (offered === undefined)
    return warn(
      'pin-order',
      'order of the legs not judged: it differs between makes, look it up and measure it',
    );
  if (was === undefined)
    return warn('pin-order', `legs ${offered}: in which order they came off is not known`);
  if (was === offered) return ok('pin-order', `legs ${offered} as before`);
  return [...was].reverse().join('') === offered
    ? warn('pin-order', `legs ${offered} for ${was}: it goes in turned by half a turn`)
    : warn(
        'pin-order',
        `legs ${offered} for ${was}: they have to be crossed, with a sleeve over them`,
      );
}

/** Judges a light barrier. Its polarity is measured in any case: prints and makes differ. */
export function judgeOpto(was: OptoSpec, offered: OptoSpec): readonly FitnessRemark[] {
  return [
    ...whereSaid(was.type, () => sameWord('kind', 'kind', was.type, offered.type)),
    was.order === undefined || offered.order === undefined
      ? warn(
          'pin-order',
          'order of the pins not judged: emitter and detector sides are exchanged between makes',
        )
      : was.order === offered.order
        ? ok('pin-order', `pins ${offered.order} as before`)
        : stop(
            'pin-order',
            `pins ${offered.order} are not ${was.order}: light and detector come to lie on each other's holes`,
          ),
    ...whereSaid(was.slotMm, () =>
      nearly({ code: 'size', what: 'slot', unit: 'mm' }, was.slotMm, offered.slotMm, 0.1),
    ),
    warn(
      'measure-first',
      'before it is soldered: the emitter by a diode test, the detector by ohms both ways with light and without',
    ),
  ];
}

/** Volts by which a fixed regulator's output may differ. */
const REGULATOR_SHARE = 0.02;

/** Judges a regulator: volts, polarity, amperes, drop-out, pins, and what stands behind it. */
export function judgeRegulator(
  was: RegulatorSpec,
  offered: RegulatorSpec,
  place: Place,
): readonly FitnessRemark[] {
  const draws = place.workingAmpere;
  return [
    polarity(was, offered),
    ...(was.adjustable || offered.adjustable
      ? [sameWord('kind', 'kind', kindOf(was), kindOf(offered))]
      : [
          nearly(
            { code: 'volts', what: 'output', unit: 'V' },
            was.volt,
            offered.volt,
            REGULATOR_SHARE,
          ),
        ]),
    draws !== undefined && offered.ampere !== undefined && offered.ampere < draws
      ? stop(
          'current',
          `${offered.ampere} A is below the ${Number(draws.toPrecision(2))} A that the board draws`,
        )
      : atLeast({ code: 'current', what: 'current', unit: 'A' }, was.ampere, offered.ampere),
    dropOut(was, offered, place.inputVolt),
    was.order !== undefined && was.order === offered.order
      ? ok('pin-order', `pins ${offered.order} (in, ground, out) as before`)
      : offered.order === undefined || was.order === undefined
        ? warn('pin-order', 'order of the pins not judged: it differs between packages and signs')
        : stop(
            'pin-order',
            `pins ${offered.order} are not ${was.order}: input and ground are exchanged`,
          ),
    offered.lowDrop && !was.lowDrop
      ? warn(
          'output-capacitor',
          'a low-drop type swings unless the ESR of the capacitor behind it lies in the window of its data sheet',
        )
      : ok('output-capacitor', 'no more is asked of the capacitor behind it than before'),
  ];
}

const kindOf = ({ adjustable }: RegulatorSpec): 'adjustable' | 'fixed' =>
  adjustable ? 'adjustable' : 'fixed';

function polarity(was: RegulatorSpec, offered: RegulatorSpec): FitnessRemark {
  if (was.negative === undefined || offered.negative === undefined)
    return warn('polarity', 'sign of its volts not judged');
  return was.negative === offered.negative
    ? ok('polarity', `${was.negative ? 'negative' : 'positive'} as before`)
    : danger('polarity', 'a regulator of the other sign: it and what hangs on it burn');
}

function dropOut(
  was: RegulatorSpec,
  offered: RegulatorSpec,
  inputVolt: number | undefined,
): FitnessRemark {
  const [own, before] = [offered.dropoutVolt, was.dropoutVolt];
  if (own === undefined)
    return offered.lowDrop
      ? ok('drop-out', 'a low-drop type needs no more across it than before')
      : warn('drop-out', 'volts that it needs across it not judged');
  if (inputVolt !== undefined && offered.volt !== undefined && !offered.adjustable)
    return Math.abs(inputVolt) < offered.volt + own
      ? stop(
          'drop-out',
          `it needs ${own} V across it, and ${Number((Math.abs(inputVolt) - offered.volt).toPrecision(2))} V are there`,
        )
      : ok('drop-out', `${own} V across it are there`);
  if (before === undefined) return warn('drop-out', 'volts that it needs across it not judged');
  return own > before
    ? warn('drop-out', `it needs ${own} V across it, the old one ${before} V`)
    : ok('drop-out', `it needs no more across it than before (${own} V)`);
}
