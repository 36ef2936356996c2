import type { Part } from '../board';
import { typicalEsrOhm } from '../device';
import { formatCompact, formatQuantity } from '../quantity';
import { POLAR } from './marking';
import type { OfferedPart, SafetyClass } from './offered';
import { danger, ok, stop, warn, type FitnessRemark } from './remark';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/**
 * Share by which a replacement capacitor's value may differ. Common practice, no published source.
 */
const CAPACITANCE_MARGIN = 0.2;
/**
 * Share of its rating that a tantalum may see on a rail that can push current. Common practice, no
 * published source.
 */
const TANTALUM_SHARE = 0.5;
/**
 * An ESR up to this factor above what belongs there is taken as equal. Common practice, no
 * published source.
 */
const ESR_MARGIN = 1.5;

/**
 * Judges a capacitor. onMains: one leg lies on the mains. working: volts on it with the power on,
 * where they are known.
 * Rules: equal value within 20 %, rated volts equal or higher, kind as before; common practice, no
 * published source. On the mains: IEC 60384-14.
 */
export function judgeCapacitor(
  original: Capacitor,
  offered: OfferedPart,
  onMains: boolean,
  working: number | undefined,
): readonly FitnessRemark[] {
  if (onMains || safetyOf(original))
    return [...safety(original, offered), leakage(original, offered)];
  return [
    value(original, offered),
    volts(original, offered, working),
    ...kind(original, offered, working),
    ...esr(original, offered),
    temperature(original, offered),
  ];
}

/** The X or Y class that a capacitor's own words name. */
function safetyOf({ rating, note, role }: Capacitor): SafetyClass | undefined {
  return /\b([XY][1-4])\b/.exec([rating, note, role].join(' '))?.[1] as SafetyClass | undefined;
}

/**
 * Only X or Y class of at least the same kind: a Y may take the place of an X, an X never of a Y; a
 * lower number stands more.
 */
function safety(original: Capacitor, offered: OfferedPart): FitnessRemark[] {
  const wanted = safetyOf(original) ?? 'X2';
  const known = safetyOf(original) !== undefined;
  if (!offered.safety)
    return [
      danger(
        'safety-class',
        `this one lies on the mains: only a capacitor marked ${known ? wanted : 'X1 or X2 (line to line) or Y1 or Y2 (line to chassis)'} goes here (IEC 60384-14)`,
      ),
    ];
  const stands = (own: SafetyClass): boolean =>
    (own[0] === 'Y' || wanted[0] === 'X') && Number(own[1]) <= Number(wanted[1]);
  const good = offered.safety.find(stands);
  if (!good)
    return [
      danger(
        'safety-class',
        `${offered.safety.join('/')} does not stand in for ${wanted} (IEC 60384-14)`,
      ),
    ];
  const place = known
    ? ok('safety-class', `${good} goes where ${wanted} was`)
    : warn(
        'safety-class',
        `${good}: right from line to line; from line to chassis only Y1 or Y2 goes`,
      );
  const { ratedVolt } = offered;
  const least = Math.max(250, original.ratedVolt ?? 0);
  if (ratedVolt === undefined)
    return [place, warn('volts', `no rated voltage written: at least ${least} V alternating`)];
  return [
    place,
    ratedVolt < least
      ? danger('volts', `${ratedVolt} V is below ${least} V`)
      : ok('volts', `${ratedVolt} V is enough`),
  ];
}

/**
 * From line to chassis a larger value passes more current into whoever touches the chassis: no
 * reason overrules that.
 */
function leakage(original: Capacitor, offered: OfferedPart): FitnessRemark {
  const remark = value(original, offered);
  const isToChassis = safetyOf(original)?.[0] !== 'X';
  if (remark.level !== 'stop' || !isToChassis || offered.value! < original.capacitanceFarad)
    return remark;
  return danger(
    'value',
    `${remark.text}: from line to chassis more of it is more current through whoever touches the chassis`,
  );
}

function value(original: Capacitor, offered: OfferedPart): FitnessRemark {
  if (original.unknown)
    return warn('value', 'value not judged: the sheet does not say what came off');
  const wanted = formatCompact(original.capacitanceFarad, 'F');
  if (offered.value === undefined)
    return warn('value', `no value written: the board wants ${wanted}`);
  const ratio = offered.value / original.capacitanceFarad;
  const fits = ratio >= 1 - CAPACITANCE_MARGIN - 1e-9 && ratio <= 1 + CAPACITANCE_MARGIN + 1e-9;
  const written = formatCompact(offered.value, 'F');
  return fits
    ? ok('value', `${written} is within 20 % of ${wanted}`)
    : stop('value', `${written} is not within 20 % of ${wanted}`);
}

function volts(
  { ratedVolt }: Capacitor,
  offered: OfferedPart,
  working: number | undefined,
): FitnessRemark {
  if (offered.ratedVolt !== undefined && working !== undefined && offered.ratedVolt < working)
    return danger(
      'volts',
      `${offered.ratedVolt} V is below the ${formatQuantity(working, 'V', 2)} that stand on it: it bursts`,
    );
  if (ratedVolt === undefined)
    return warn('volts', 'volts not judged: the sheet does not say what came off');
  if (offered.ratedVolt === undefined)
    return warn('volts', `no rated voltage written: at least ${ratedVolt} V`);
  if (offered.ratedVolt < ratedVolt)
    return stop(
      'volts',
      `${offered.ratedVolt} V is below the ${ratedVolt} V of the one that came off`,
    );
  return ok('volts', `${offered.ratedVolt} V is enough (${ratedVolt} V came off)`);
}

function kind(
  original: Capacitor,
  offered: OfferedPart,
  working: number | undefined,
): FitnessRemark[] {
  const was = original.dielectric;
  const now = offered.dielectric;
  if (was === undefined || now === undefined) {
    const tell =
      was === undefined ? 'the sheet does not say the kind' : `no kind written: ${was} came off`;
    return [
      was === 'bipolar'
        ? stop(
            'kind',
            'a bipolar one came off: write that the new one is bipolar or film, or it may sit the wrong way half of the time',
          )
        : warn('kind', tell),
    ];
  }
  if (was === 'bipolar' && POLAR.includes(now))
    return [
      stop(
        'kind',
        `a ${now} works one way round only, a bipolar one came off: bipolar, film, or two polar ones of twice the value back to back`,
      ),
    ];
  if (was === 'bipolar' && now === 'ceramic')
    return [
      stop(
        'kind',
        'a ceramic loses value with its volts and changes it with the signal: bipolar or film here',
      ),
    ];
  if (was === 'film' && POLAR.includes(now))
    return [stop('kind', `a film capacitor has no polarity, a ${now} has`)];
  if (now === 'tantalum' && was !== 'tantalum') return tantalum(offered, working);
  if (now === 'ceramic' && was !== 'ceramic')
    return [
      warn(
        'kind',
        'a ceramic loses value with the volts on it, and its ESR may be too low for an old regulator: not in timing or coupling',
      ),
    ];
  if (was === 'ceramic' && now !== 'ceramic')
    return [warn('kind', `a ${now} where a ceramic was decouples less at high frequency`)];
  if (now === was) return [ok('kind', `${now} as before`)];
  return [warn('kind', `${now} where ${was} came off: think of its ESR and its polarity`)];
}

function tantalum({ ratedVolt }: OfferedPart, working: number | undefined): FitnessRemark[] {
  const words =
    'a tantalum on a rail that can push current burns: at most half its rated volts on it';
  if (ratedVolt === undefined || working === undefined) return [warn('tantalum-derating', words)];
  const share = working / ratedVolt;
  return [
    share > TANTALUM_SHARE
      ? stop('tantalum-derating', `${words}; here ${Math.round(100 * share)} %`)
      : warn(
          'tantalum-derating',
          `tantalum at ${Math.round(100 * share)} % of its volts: allowed up to half; its stripe is plus`,
        ),
  ];
}

function esr(original: Capacitor, offered: OfferedPart): FitnessRemark[] {
  if (offered.esrOhm === undefined)
    return POLAR.includes(original.dielectric ?? 'ceramic') || original.dielectric === 'bipolar'
      ? [
          warn(
            'esr',
            'ESR and ripple current not judged: write it, or measure it before it goes on',
          ),
        ]
      : [];
  if (original.unknown && original.esrOhm === undefined)
    return [warn('esr', 'ESR not judged: the sheet does not say the value of what came off')];
  const stated = original.esrOhm;
  const wanted = stated ?? typicalEsrOhm(original);
  const limit = ESR_MARGIN * wanted;
  const written = formatCompact(offered.esrOhm, 'ohm');
  const against = `${formatCompact(wanted, 'ohm')} ${stated === undefined ? 'that is usual for its size (from memory)' : 'on the sheet'}`;
  if (offered.esrOhm > limit) return [stop('esr', `an ESR of ${written} is above ${against}`)];
  return [
    stated === undefined
      ? warn('esr', `an ESR of ${written} against ${against}: good as far as that goes`)
      : ok('esr', `an ESR of ${written} is no higher than ${against}`),
  ];
}

function temperature({ rating }: Capacitor, offered: OfferedPart): FitnessRemark {
  const was = /(\d{2,3})\s*°?C\b/.exec(rating ?? '')?.[1];
  if (offered.celsius === undefined)
    return warn('temperature', 'temperature class, height and pitch not judged');
  if (was === undefined)
    return warn(
      'temperature',
      `${offered.celsius} °C: the sheet does not say what came off; height and pitch not judged`,
    );
  return offered.celsius < Number(was)
    ? stop('temperature', `${offered.celsius} °C is below the ${was} °C that came off`)
    : warn('temperature', `${offered.celsius} °C is enough; height and pitch not judged`);
}
