import type { Dielectric } from '../../board';
import { typicalEsrOhm } from '../../device';
import { formatCompact, formatQuantity } from '../../quantity';
import { lifeHours } from '../life';
import { atLeast, preferred, whereSaid } from '../compare';
import { POLAR } from '../polar';
import type { PartRole, Place } from '../place';
import { danger, ok, stop, warn, type FitnessRemark } from '../remark';
import type { CapacitorSpec } from '../spec';
import { judgeSafetyClass, leakageToChassis } from './capacitor-safety';
import { valueKept } from './ceramic';
import { judgeSize } from './size';

/** Shares of the value within which a replacement is right, and within which it may do. */
interface ValueLimits {
  readonly near: readonly [least: number, most: number];
  readonly far: readonly [least: number, most: number];
  readonly why: string;
}

/**
 * How near the value must be by what the part does. Common practice, no published source: equal
 * within 20 % in general, decoupling takes more, loops and timing are built on the value.
 */
const VALUE_BY_ROLE: Readonly<Record<PartRole | 'general', ValueLimits>> = {
  general: { near: [0.8, 1.2], far: [0.8, 1.2], why: 'within 20 %' },
  decoupling: { near: [0.8, 2.2], far: [0.5, 4.7], why: 'decoupling takes more of it' },
  filter: { near: [0.8, 1.5], far: [0.8, 2.2], why: 'more of it draws more at switch-on' },
  coupling: {
    near: [0.8, 1.5],
    far: [0.8, 2.2],
    why: 'more of it settles later, less of it loses the lows',
  },
  servo: { near: [0.9, 1.1], far: [0.8, 1.2], why: 'the loop is set by it' },
  timing: { near: [0.95, 1.05], far: [0.9, 1.1], why: 'the time is set by it' },
  safety: { near: [0.8, 1.2], far: [0.8, 1.2], why: 'within 20 %' },
};
/** Roles in which a value that moves with the signal is a fault. */
const LINEAR: readonly (PartRole | undefined)[] = ['servo', 'timing', 'coupling'];
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
/** What a can is at in a warm drive, °C, where nobody measured. Common practice. */
const WARM_DRIVE_CELSIUS = 45;

/**
 * Judges a capacitor for its place. Rules: value by role, rated volts equal or higher, kind, ESR,
 * ripple, temperature, life and room; common practice, no published source. On the mains: IEC
 * 60384-14. Classes of ceramics: EIA-198.
 */
export function judgeCapacitor(
  was: CapacitorSpec,
  written: CapacitorSpec,
  place: Place,
): readonly FitnessRemark[] {
  const offered = joined(written);
  const onMains = place.onMains || place.role === 'safety' || was.safety !== undefined;
  const remark = value(was, offered, place.role);
  if (onMains)
    return [
      ...judgeSafetyClass(was, offered),
      leakageToChassis(was, offered, remark),
      ...(offered.celsius === undefined && was.celsius === undefined
        ? []
        : [temperature(was, offered)]),
      ...judgeSize(was.size, offered.size, place.room, 'where known'),
    ];
  return [
    remark,
    // As written: two in series make half of one that is in the series.
    ...preferred('F', was.farad, written.farad),
    volts(was, offered, place.workingVolt),
    ...kind(was, offered, place),
    ...esr(was, offered),
    ...whereSaid(was.rippleAmpere, () =>
      atLeast(
        { code: 'ripple', what: 'ripple current', unit: 'A' },
        was.rippleAmpere,
        offered.rippleAmpere,
      ),
    ),
    temperature(was, offered),
    ...life(was, offered),
    ...judgeSize(was.size, offered.size, place.room, 'always'),
  ];
}

/** Two polar ones back to back are one without polarity and half of the value. */
function joined(offered: CapacitorSpec): CapacitorSpec {
  if (!offered.backToBack || offered.farad === undefined) return offered;
  return { ...offered, farad: offered.farad / 2, dielectric: 'bipolar' };
}

function value(
  was: CapacitorSpec,
  offered: CapacitorSpec,
  role: PartRole | undefined,
): FitnessRemark {
  if (was.farad === undefined)
    return warn('value', 'value not judged: what came off does not say it');
  const wanted = formatCompact(was.farad, 'F');
  if (offered.farad === undefined)
    return warn('value', `no value written: the board wants ${wanted}`);
  const { near, far, why } = VALUE_BY_ROLE[role ?? 'general'];
  const ratio = offered.farad / was.farad;
  const within = ([least, most]: readonly [number, number]): boolean =>
    ratio >= least - 1e-9 && ratio <= most + 1e-9;
  const written = formatCompact(offered.farad, 'F');
  if (within(near)) {
    const loose =
      (role === 'servo' || role === 'timing') && (offered.tolerance ?? 0) > (was.tolerance ?? 0.1);
    return loose
      ? warn(
          'tolerance',
          `${written}, but ±${100 * offered.tolerance!} % is too loose where ${why}`,
        )
      : ok('value', `${written} for ${wanted}${role === undefined ? ' (within 20 %)' : ''}`);
  }
  const words = `${written} is not ${wanted}: ${why}`;
  return within(far) ? warn('value', words) : stop('value', words);
}

function volts(
  was: CapacitorSpec,
  offered: CapacitorSpec,
  working: number | undefined,
): FitnessRemark {
  if (offered.volt !== undefined && working !== undefined && offered.volt < working)
    return danger(
      'volts',
      `${offered.volt} V is below the ${formatQuantity(working, 'V', 2)} that stand on it: it bursts`,
    );
  if (was.volt === undefined)
    return warn('volts', 'volts not judged: what came off does not say them');
  if (offered.volt === undefined)
    return warn('volts', `no rated voltage written: at least ${was.volt} V`);
  return offered.volt < was.volt
    ? stop('volts', `${offered.volt} V is below the ${was.volt} V of the one that came off`)
    : ok('volts', `${offered.volt} V is enough (${was.volt} V came off)`);
}

/** Electrolytics of two kinds that are not the same, and what to think of. */
const OTHER_KIND: Partial<Record<`${Dielectric}>${Dielectric}`, string>> = {
  'electrolytic>polymer':
    'its ESR is far lower, which an old regulator may not stand, and it leaks more: not in timing',
  'tantalum>electrolytic': 'higher ESR, larger, and it dries out: think of room and regulators',
  'tantalum>polymer': 'lower ESR: an old regulator may not stand it; it leaks more',
  'polymer>tantalum': 'higher ESR, and it burns where a polymer only opens',
  'electrolytic>bipolar': 'right where the room is there: it is larger',
  'electrolytic>film': 'right where the room is there; its ESR is far lower',
  'tantalum>bipolar': 'right where the room is there: it is larger, its ESR higher',
  'tantalum>film': 'right where the room is there',
  'polymer>bipolar': 'a far higher ESR',
  'bipolar>film': 'a film part does all that a bipolar one does; think of its size',
  'film>bipolar': 'more loss and a wider tolerance',
};

function kind(was: CapacitorSpec, offered: CapacitorSpec, place: Place): FitnessRemark[] {
  const before = was.dielectric;
  const now = offered.dielectric;
  const { role, workingVolt } = place;
  if (now === 'ceramic' && offered.ceramic !== 1 && LINEAR.includes(role))
    return [
      stop(
        'varactor',
        `a ceramic of class 2 changes its value with the volts on it: not in ${role} (class 1, film or what was there)`,
      ),
    ];
  if (before === undefined || now === undefined) {
    if (before === 'bipolar')
      return [
        stop(
          'kind',
          'a bipolar one came off: write that the new one is bipolar or film, or it may sit the wrong way half of the time',
        ),
      ];
    return [
      warn(
        'kind',
        before === undefined
          ? 'kind not judged: of what came off it is not known'
          : `no kind written: ${before} came off`,
      ),
      ...(now === 'tantalum' ? [tantalum(offered, workingVolt)] : []),
    ];
  }
  if (before === 'bipolar' && POLAR.includes(now))
    return [
      stop(
        'kind',
        `a ${now} works one way round only, a bipolar one came off: bipolar, film, or two polar ones of twice the value back to back`,
      ),
    ];
  if (before === 'bipolar' && now === 'ceramic')
    return [
      stop(
        'varactor',
        'a ceramic loses value with its volts and changes it with the signal: bipolar or film here',
      ),
    ];
  if ((before === 'film' || before === 'ceramic') && POLAR.includes(now))
    return before === 'film' || role === 'timing' || role === 'servo'
      ? [
          stop(
            'kind',
            `a ${before} capacitor has no polarity and hardly leaks, a ${now} has and does`,
          ),
        ]
      : [
          warn(
            'kind',
            `a ${now} where a ceramic was decouples less at high frequency, and has a polarity`,
          ),
        ];
  if (now === 'tantalum')
    return [
      ...(before === 'tantalum' ? [ok('kind', 'tantalum as before')] : []),
      tantalum(offered, workingVolt),
    ];
  if (now === 'ceramic') return ceramic(was, offered, place);
  if (
    role === 'timing' &&
    (now === 'polymer' || (now === 'electrolytic' && before !== 'electrolytic'))
  )
    return [stop('leakage', `a ${now} leaks: the time is set by what it leaks`)];
  if (now === before) return [ok('kind', `${now} as before`)];
  if (before === 'ceramic' && now === 'bipolar')
    return [warn('kind', 'a bipolar where a ceramic was decouples less at high frequency')];
  const words = OTHER_KIND[`${before}>${now}`];
  return [
    warn(
      'kind',
      `${now} where ${before} came off: ${words ?? 'think of its ESR and its polarity'}`,
    ),
  ];
}

function tantalum(offered: CapacitorSpec, working: number | undefined): FitnessRemark {
  const words =
    'a tantalum on a rail that can push current burns: at most half its rated volts on it';
  if (offered.volt === undefined || working === undefined) return warn('tantalum-derating', words);
  const share = working / offered.volt;
  return share > TANTALUM_SHARE + 1e-9
    ? stop('tantalum-derating', `${words}; here ${Math.round(100 * share)} %`)
    : warn(
        'tantalum-derating',
        `tantalum at ${Math.round(100 * share)} % of its volts: allowed up to half; its stripe is plus`,
      );
}

/** A ceramic where another kind or another class was: what is left of its value, and its low ESR. */
function ceramic(was: CapacitorSpec, offered: CapacitorSpec, place: Place): FitnessRemark[] {
  const remarks: FitnessRemark[] = [];
  if (was.dielectric === 'ceramic') {
    if (was.ceramic === 1 && offered.ceramic !== 1)
      return [
        stop('kind', 'a ceramic of class 1 (C0G) came off: class 2 moves with volts and heat'),
      ];
    if (offered.ceramic === undefined || was.ceramic === undefined)
      return [warn('kind', 'ceramic as before; its class (C0G, X7R) not judged')];
    remarks.push(ok('kind', 'ceramic of its class as before'));
    if (offered.ceramic === 1) return remarks;
  } else
    remarks.push(
      warn(
        'kind',
        'a ceramic loses value with the volts on it, and its ESR may be too low for an old regulator: not in timing or coupling',
      ),
    );
  if (offered.ceramic === 1) return remarks;
  const { workingVolt: volt } = place;
  if (volt === undefined || offered.volt === undefined || offered.farad === undefined) {
    if (was.dielectric !== 'ceramic')
      remarks.push(
        warn(
          'ceramic-bias',
          'what is left of it under its volts is not judged: say the volts on it',
        ),
      );
    return remarks;
  }
  const kept = valueKept(volt / offered.volt);
  const words = `at ${formatQuantity(volt, 'V', 2)} some ${Math.round(100 * kept)} % of a class 2 ceramic of ${offered.volt} V is left (typical, from memory)`;
  const enough =
    was.dielectric === 'ceramic' ||
    was.farad === undefined ||
    kept * offered.farad >= 0.5 * was.farad;
  return [...remarks, enough ? warn('ceramic-bias', words) : stop('ceramic-bias', words)];
}

function esr(was: CapacitorSpec, offered: CapacitorSpec): FitnessRemark[] {
  if (offered.esrOhm === undefined)
    return POLAR.includes(was.dielectric ?? 'ceramic') || was.dielectric === 'bipolar'
      ? [
          warn(
            'esr',
            'ESR and ripple current not judged: write it, or measure it before it goes on',
          ),
        ]
      : [];
  if (was.farad === undefined && was.esrOhm === undefined)
    return [warn('esr', 'ESR not judged: the value of what came off is not known')];
  const wanted =
    was.esrOhm ??
    typicalEsrOhm({
      capacitanceFarad: was.farad!,
      dielectric: was.dielectric,
      ratedVolt: was.volt,
    });
  const written = formatCompact(offered.esrOhm, 'ohm');
  const against = `${formatCompact(wanted, 'ohm')} ${was.esrOhm === undefined ? 'that is usual for its size (from memory)' : 'that belongs here'}`;
  if (offered.esrOhm > ESR_MARGIN * wanted)
    return [stop('esr', `an ESR of ${written} is above ${against}`)];
  return [
    was.esrOhm === undefined
      ? warn('esr', `an ESR of ${written} against ${against}: good as far as that goes`)
      : ok('esr', `an ESR of ${written} is no higher than ${against}`),
  ];
}

function temperature(was: CapacitorSpec, offered: CapacitorSpec): FitnessRemark {
  if (offered.celsius === undefined)
    return warn(
      'temperature',
      `no temperature class written${was.celsius === undefined ? '' : `: ${was.celsius} °C came off`}`,
    );
  if (was.celsius === undefined)
    return warn('temperature', `${offered.celsius} °C: of what came off it is not known`);
  return offered.celsius < was.celsius
    ? stop('temperature', `${offered.celsius} °C is below the ${was.celsius} °C that came off`)
    : ok('temperature', `${offered.celsius} °C is enough`);
}

/** Hours in a warm drive by the rule of ten degrees, where both say how long they last. */
function life(was: CapacitorSpec, offered: CapacitorSpec): FitnessRemark[] {
  if (was.lifeHours === undefined) return [];
  if (offered.lifeHours === undefined || offered.celsius === undefined)
    return [warn('life', `no life written: ${was.lifeHours} h came off`)];
  const here = lifeHours(offered.lifeHours, offered.celsius, WARM_DRIVE_CELSIUS);
  const before = lifeHours(was.lifeHours, was.celsius ?? offered.celsius, WARM_DRIVE_CELSIUS);
  const words = `${Math.round(here / 1000)},000 h at ${WARM_DRIVE_CELSIUS} °C by the rule of ten degrees, ${Math.round(before / 1000)},000 h came off`;
  return [here < before * 0.999 ? warn('life', words) : ok('life', words)];
}
