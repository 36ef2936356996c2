import { atLeast, nearly, sameWord, whereSaid } from '../compare';
import { warn, type FitnessRemark } from '../remark';
import type { BeltSpec, ConnectorSpec, MotorSpec, SwitchSpec } from '../spec';
import { judgeSize } from './size';
import type { Place } from '../place';

/** Judges a switch: its contact, what it carries, how it goes. */
export function judgeSwitch(
  was: SwitchSpec,
  offered: SwitchSpec,
  place: Place,
): readonly FitnessRemark[] {
  return [
    contact(was, offered),
    ...whereSaid(was.latching, () =>
      sameWord('kind', 'whether it stays where it is put', was.latching, offered.latching),
    ),
    atLeast(
      { code: 'current', what: 'current', unit: 'A' },
      was.ampere ?? place.workingAmpere,
      offered.ampere,
    ),
    ...whereSaid(was.volt, () =>
      atLeast({ code: 'volts', what: 'volts', unit: 'V' }, was.volt, offered.volt),
    ),
    ...judgeSize(was.size, offered.size, place.room, 'always'),
  ];
}

/** A change-over contact can do what either of the two does, if it is wired so. */
function contact(was: SwitchSpec, offered: SwitchSpec): FitnessRemark {
  if (offered.contact === 'CO' && was.contact !== undefined && was.contact !== 'CO')
    return warn('contact', `a change-over contact: wire it as ${was.contact}`);
  return sameWord(
    'contact',
    'contact',
    was.contact,
    offered.contact,
    'the unit takes pressed for released',
  );
}

/** Judges a connector: ways, distance of the contacts, which half it is. */
export function judgeConnector(
  was: ConnectorSpec,
  offered: ConnectorSpec,
): readonly FitnessRemark[] {
  const ways = (count: number | undefined): string | undefined =>
    count === undefined ? undefined : String(count);
  return [
    sameWord('ways', 'number of ways', ways(was.ways), ways(offered.ways)),
    nearly(
      { code: 'pitch', what: 'distance of the contacts', unit: 'mm' },
      was.size.pitch,
      offered.size.pitch,
      0.001,
    ),
    sameWord('kind', 'pins or sockets', was.side, offered.side),
    ...whereSaid(was.ampere, () =>
      atLeast(
        { code: 'current', what: 'current a contact', unit: 'A' },
        was.ampere,
        offered.ampere,
      ),
    ),
  ];
}

/** Volts and ohms by which a motor may differ. Common practice, no published source. */
const MOTOR_SHARE = [0.1, 0.25] as const;

/** Judges a motor: kind, volts, ohms, shaft, and which way it turns. */
export function judgeMotor(
  was: MotorSpec,
  offered: MotorSpec,
  place: Place,
): readonly FitnessRemark[] {
  return [
    sameWord('kind', 'kind', was.type, offered.type),
    nearly({ code: 'volts', what: 'volts', unit: 'V' }, was.volt, offered.volt, ...MOTOR_SHARE),
    nearly(
      { code: 'copper', what: 'ohms of a winding', unit: 'ohm' },
      was.ohm,
      offered.ohm,
      ...MOTOR_SHARE,
    ),
    nearly({ code: 'shaft', what: 'shaft', unit: 'mm' }, was.shaftMm, offered.shaftMm, 0.005),
    ...whereSaid(was.turns, () =>
      sameWord('kind', 'direction', was.turns, offered.turns, 'its brushes are set for one way'),
    ),
    ...judgeSize(was.size, offered.size, place.room, 'always'),
  ];
}

/**
 * A belt's length: within 2 % it runs at the same pull, up to 5 % it may do. Its section: within a
 * tenth, up to a fifth. Common practice, no published source.
 */
const BELT_LENGTH = [0.02, 0.05] as const;
const BELT_SECTION = [0.1, 0.2] as const;

/** Judges a belt: length lying loose, section, shape. A stretched old one tells too long a length. */
export function judgeBelt(was: BeltSpec, offered: BeltSpec): readonly FitnessRemark[] {
  return [
    nearly(
      { code: 'length', what: 'length all the way round', unit: 'mm' },
      was.lengthMm,
      offered.lengthMm,
      ...BELT_LENGTH,
    ),
    nearly(
      { code: 'section', what: 'section', unit: 'mm' },
      was.sectionMm,
      offered.sectionMm,
      ...BELT_SECTION,
    ),
    sameWord('shape', 'shape', was.shape, offered.shape, 'it does not sit in the groove'),
    ...whereSaid(was.teeth, () =>
      sameWord(
        'shape',
        'teeth',
        String(was.teeth),
        offered.teeth === undefined ? undefined : String(offered.teeth),
      ),
    ),
    warn(
      'length',
      'an old belt is stretched: measure the way round the pulleys, a new one is some 5 to 10 % shorter than that',
    ),
  ];
}
