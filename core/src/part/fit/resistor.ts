import { formatCompact } from '../../quantity';
import { nearly, preferred, sameWord, shown, whereSaid } from '../compare';
import type { Place } from '../place';
import { danger, ok, stop, warn, type FitnessRemark } from '../remark';
import type { ArraySpec, ResistorSpec } from '../spec';

/** What a resistor without a word on it may differ by. Source: as the engine takes it. */
const USUAL_TOLERANCE = 0.05;
/** A resistor is used up to this share of its watts. Common practice, no published source. */
const WATT_SHARE = 0.5;

/** Judges a resistor: value, tolerance, watts by the circuit, and whether it must open safely. */
export function judgeResistor(
  was: ResistorSpec,
  offered: ResistorSpec,
  place: Place,
): readonly FitnessRemark[] {
  return [
    resistance(was, offered),
    ...preferred('ohm', was.ohm, offered.ohm),
    ...tolerance(was, offered),
    watts(was, offered, place.workingWatt),
    ...fusible(was, offered),
    ...(offered.wound && !was.wound
      ? [warn('kind', 'wire-wound: it is a coil too, not where signals are fast')]
      : []),
  ];
}

function resistance(was: ResistorSpec, offered: ResistorSpec): FitnessRemark {
  if (was.ohm === undefined)
    return warn('value', 'value not judged: what came off does not say it');
  const wanted = formatCompact(was.ohm, 'ohm');
  if (offered.ohm === undefined)
    return warn('value', `no value written: the board wants ${wanted}`);
  const margin = was.tolerance ?? USUAL_TOLERANCE;
  const written = formatCompact(offered.ohm, 'ohm');
  return Math.abs(offered.ohm / was.ohm - 1) <= margin + 1e-9
    ? ok('value', `${written} fits ${wanted}`)
    : stop('value', `${written} is not ${wanted}`);
}

function tolerance(
  was: ResistorSpec | ArraySpec,
  offered: ResistorSpec | ArraySpec,
): FitnessRemark[] {
  if (was.tolerance === undefined) return [];
  const wanted = 100 * was.tolerance;
  if (offered.tolerance === undefined)
    return [
      warn('tolerance', `no tolerance written: ±${Number(wanted.toPrecision(3))} % came off`),
    ];
  return [
    offered.tolerance > was.tolerance + 1e-9
      ? stop(
          'tolerance',
          `±${100 * offered.tolerance} % is wider than the ±${wanted} % that came off`,
        )
      : ok('tolerance', `±${100 * offered.tolerance} % is no wider than before`),
  ];
}

/** By what came off, and by what the good board makes of it where the circuit tells. */
function watts(
  was: ResistorSpec,
  { watt }: ResistorSpec,
  working: number | undefined,
): FitnessRemark {
  if (working !== undefined && watt !== undefined && watt < working)
    return danger(
      'watts',
      `${watt} W is below the ${shown(working, 'W')} that it turns into heat here`,
    );
  if (was.watt === undefined)
    return warn(
      'watts',
      `watts not judged: of what came off they are not known; no smaller body than the one that came off${working === undefined ? '' : `; the good board puts ${shown(working, 'W')} into it`}`,
    );
  if (watt === undefined) return warn('watts', `no watts written: at least ${was.watt} W`);
  if (watt < was.watt) return stop('watts', `${watt} W is below ${was.watt} W`);
  return working !== undefined && working > WATT_SHARE * watt
    ? warn(
        'watts',
        `${watt} W as before, and ${shown(working, 'W')} in it: it runs hot, think of the next size`,
      )
    : ok('watts', `${watt} W is enough (${was.watt} W came off)`);
}

function fusible(was: ResistorSpec, offered: ResistorSpec): FitnessRemark[] {
  const remarks: FitnessRemark[] = [];
  if (was.fusible)
    remarks.push(
      offered.fusible
        ? ok('fusible', 'fusible, as it must be')
        : danger(
            'fusible',
            'a fusible resistor belongs here: another one burns where this one opens',
          ),
    );
  if (was.flameproof && !was.fusible)
    remarks.push(
      offered.flameproof || offered.fusible
        ? ok('fusible', 'flameproof, as it must be')
        : danger('fusible', 'a flameproof resistor belongs here'),
    );
  if (offered.fusible && !was.fusible)
    remarks.push(warn('fusible', 'fusible: it may open where the old one would only warm up'));
  return remarks;
}

/** Judges an array of resistors: value, how many, how they are joined, and its pins. */
export function judgeArray(was: ArraySpec, offered: ArraySpec): readonly FitnessRemark[] {
  return [
    nearly(
      { code: 'value', what: 'ohms of an element', unit: 'ohm' },
      was.ohm,
      offered.ohm,
      was.tolerance ?? USUAL_TOLERANCE,
    ),
    ...tolerance(was, offered),
    count(was, offered),
    sameWord(
      'joined',
      'how the elements are joined',
      was.joined,
      offered.joined,
      'other pins are joined inside',
    ),
    ...whereSaid(was.pins, () =>
      sameWord(
        'pins',
        'number of pins',
        String(was.pins),
        offered.pins === undefined ? undefined : String(offered.pins),
      ),
    ),
  ];
}

function count(was: ArraySpec, offered: ArraySpec): FitnessRemark {
  if (was.elements === undefined)
    return warn('elements', 'number of elements not judged: of what came off it is not known');
  if (offered.elements === undefined)
    return warn('elements', `no number of elements written: ${was.elements} came off`);
  return offered.elements === was.elements
    ? ok('elements', `${offered.elements} elements as before`)
    : stop('elements', `${offered.elements} elements are not ${was.elements}`);
}
