import { danger, ok, warn, type FitnessRemark } from '../remark';
import type { CapacitorSpec, SafetyClass } from '../spec';

/** Least volts of a part on the mains. Source: IEC 60384-14, rated voltages for 230 V supplies. */
const LEAST_MAINS_VOLT = 250;

/**
 * On the mains only X or Y class of at least the same kind: a Y may take the place of an X, an X
 * never of a Y; a lower number stands more. Source: IEC 60384-14.
 */
export function judgeSafetyClass(was: CapacitorSpec, offered: CapacitorSpec): FitnessRemark[] {
  const wanted = was.safety?.[0];
  if (!offered.safety)
    return [
      danger(
        'safety-class',
        `this one lies on the mains: only a capacitor marked ${wanted ?? 'X1 or X2 (line to line) or Y1 or Y2 (line to chassis)'} goes here (IEC 60384-14)`,
      ),
    ];
  const stands = (own: SafetyClass): boolean =>
    (own[0] === 'Y' || (wanted ?? 'X2').startsWith('X')) &&
    Number(own[1]) <= Number((wanted ?? 'X2')[1]);
  const good = offered.safety.find(stands);
  if (!good)
    return [
      danger(
        'safety-class',
        `${offered.safety.join('/')} does not stand in for ${wanted ?? 'X2'} (IEC 60384-14)`,
      ),
    ];
  const place =
    wanted === undefined
      ? warn(
          'safety-class',
          `${good}: right from line to line; from line to chassis only Y1 or Y2 goes`,
        )
      : ok('safety-class', `${good} goes where ${wanted} was`);
  const least = Math.max(LEAST_MAINS_VOLT, was.volt ?? 0);
  if (offered.volt === undefined)
    return [place, warn('volts', `no rated voltage written: at least ${least} V alternating`)];
  return [
    place,
    offered.volt < least
      ? danger('volts', `${offered.volt} V is below ${least} V`)
      : ok('volts', `${offered.volt} V is enough`),
  ];
}

/**
 * From line to chassis a larger value passes more current into whoever touches the chassis: no
 * reason overrules that. remark: what was said of the value.
 */
export function leakageToChassis(
  was: CapacitorSpec,
  offered: CapacitorSpec,
  remark: FitnessRemark,
): FitnessRemark {
  const isToChassis = was.safety?.[0]?.[0] !== 'X';
  if (remark.level !== 'stop' || !isToChassis || (offered.farad ?? 0) < (was.farad ?? 0))
    return remark;
  return danger(
    'value',
    `${remark.text}: from line to chassis more of it is more current through whoever touches the chassis`,
  );
}
