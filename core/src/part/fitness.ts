import { judgeCapacitor } from './fit/capacitor';
import { judgeCrystal, judgeInductor } from './fit/coil';
import { judgeFuse, WIRE_IS_NO_FUSE } from './fit/fuse';
import { judgeAmplifier, judgeLogic } from './fit/logic';
import { judgeBelt, judgeConnector, judgeMotor, judgeSwitch } from './fit/mechanics';
import { judgeArray, judgeResistor } from './fit/resistor';
import { judgeDiode, judgeOpto, judgeRegulator, judgeTransistor } from './fit/semiconductor';
import { UNKNOWN_PLACE, type Place } from './place';
import { danger, ok, stop, warn, type FitnessRemark } from './remark';
import type { PartSpec, SpecKind, SpecOf } from './spec';

type Judged = Exclude<SpecKind, 'wire' | 'unknown'>;

/** How each kind is judged against one of its own kind. */
const JUDGES: {
  readonly [K in Judged]: (
    was: SpecOf<K>,
    offered: SpecOf<K>,
    place: Place,
  ) => readonly FitnessRemark[];
} = {
  capacitor: judgeCapacitor,
  fuse: judgeFuse,
  resistor: judgeResistor,
  array: judgeArray,
  inductor: judgeInductor,
  crystal: judgeCrystal,
  diode: judgeDiode,
  transistor: judgeTransistor,
  opto: judgeOpto,
  regulator: judgeRegulator,
  switch: judgeSwitch,
  connector: judgeConnector,
  motor: judgeMotor,
  belt: judgeBelt,
  logic: judgeLogic,
  amplifier: judgeAmplifier,
};

const NAMES: Readonly<Record<SpecKind, string>> = {
  capacitor: 'a capacitor',
  fuse: 'a fuse',
  resistor: 'a resistor',
  array: 'a resistor array',
  inductor: 'an inductor',
  crystal: 'a crystal or resonator',
  diode: 'a diode',
  transistor: 'a transistor',
  opto: 'a light barrier',
  regulator: 'a regulator',
  switch: 'a switch',
  connector: 'a connector',
  motor: 'a motor',
  belt: 'a belt',
  logic: 'a logic chip',
  amplifier: 'an amplifier',
  wire: 'a piece of wire',
  unknown: 'something',
};

const NOT_JUDGED = warn(
  'not-judged',
  'not judged: compare type, pin-out and ratings with the one that came off',
);

/**
 * Judges what is offered against what came off, for its place. Every reason has its figure and
 * rule; what was not judged is said so and is never green. Common practice, no published source,
 * where none is named.
 */
export function judgeFit(
  was: PartSpec,
  offered: PartSpec,
  place: Place = UNKNOWN_PLACE,
): readonly FitnessRemark[] {
  if (was.kind === 'unknown') return [NOT_JUDGED];
  if (was.kind !== offered.kind) return otherKind(was, offered, place);
  if (was.kind === 'wire' || offered.kind === 'wire')
    return [
      ok('kind', 'a link as before'),
      warn('watts', 'its section not judged: no thinner than what came off'),
    ];
  const judge = JUDGES[was.kind] as (
    a: PartSpec,
    b: PartSpec,
    p: Place,
  ) => readonly FitnessRemark[];
  return judge(was, offered, place);
}

function otherKind(was: PartSpec, offered: PartSpec, place: Place): readonly FitnessRemark[] {
  const onMains = place.onMains || place.role === 'safety' || isSafetyPart(was);
  if (offered.kind === 'unknown') return [notTold(was, onMains)];
  if (was.kind === 'fuse') {
    if (offered.kind === 'wire') return [WIRE_IS_NO_FUSE];
    return [danger('another-kind', `${NAMES[offered.kind]} is no fuse`)];
  }
  if (was.kind === 'wire' && offered.kind === 'resistor' && (offered.ohm ?? 1) < 0.05)
    return [ok('kind', 'a link of 0 Ω'), warn('current', 'what current it carries is not judged')];
  if (was.kind === 'wire' && offered.kind === 'fuse')
    return [
      warn(
        'another-kind',
        'a fuse where a link was: safe, but its ohms and its blowing are new here',
      ),
    ];
  const words = `${NAMES[offered.kind]} does not replace ${NAMES[was.kind]}`;
  const opens = was.kind === 'resistor' && was.fusible;
  return [
    onMains || opens || offered.kind === 'wire'
      ? danger('another-kind', words)
      : stop('another-kind', words),
  ];
}

const isSafetyPart = (was: PartSpec): boolean =>
  was.kind === 'capacitor' && was.safety !== undefined;

/** Words that do not tell what is offered: what is asked of it is still said where it can hurt. */
function notTold(was: PartSpec, onMains: boolean): FitnessRemark {
  if (was.kind === 'capacitor' && onMains)
    return danger(
      'safety-class',
      `this one lies on the mains: only a capacitor marked ${was.safety?.[0] ?? 'X1 or X2 (line to line) or Y1 or Y2 (line to chassis)'} goes here (IEC 60384-14)`,
    );
  return NOT_JUDGED;
}
