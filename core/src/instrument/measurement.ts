import {
  findPoint,
  GROUND,
  nameKey,
  pinName,
  pinPoint,
  powerOf,
  setupNames,
  type BoardIndex,
  type Observable,
  type Point,
  type Setup,
} from '../board';
import { defaultSetup, ReadingKind, type MeterProfile } from './meter';
import { oncePer } from '../once-per';

/** One thing to measure: which instrument, where the probes go, in which state of the board. */
export interface Measurement {
  readonly setup: Setup;
  readonly kind: ReadingKind;
  readonly at: Point;
  readonly to: Point;
  /** Of a symptom: what is looked at. `at` then only carries its name. */
  readonly observable?: Observable;
  /** What it is read with; the standard meter where it is left out. */
  readonly meter?: MeterProfile;
}

export type MeasurementResult =
  | { readonly ok: true; readonly measurement: Measurement }
  | { readonly ok: false; readonly what: string; readonly expected: string };

/** The text of a probe point: the pin where one was named, else the net; empty for ground. */
export function pointText(point: Point): string {
  if (point.pin) return `${point.pin.part.ref}.${pinName(point.pin.part, point.pin.index)}`;
  return point.net === GROUND ? '' : point.net;
}

/**
 * A key under which equal measurements are equal, whatever case or order they were written in, and
 * whatever they are read with.
 */
export const measurementKey = oncePer((m: Measurement): string => {
  const place = (p: Point): string =>
    p.pin ? `${nameKey(p.pin.part.ref)}.${p.pin.index}` : `=${nameKey(p.net)}`;
  return `${m.setup}|${m.kind}|${place(m.at)}|${place(m.to)}`;
});

/**
 * The same, and by which instrument: what is answered differs, though the place does not. For
 * whatever keeps answers.
 */
export const answerKey = oncePer((m: Measurement): string =>
  m.meter ? `${measurementKey(m)}|${JSON.stringify(m.meter)}` : measurementKey(m),
);

/** Resolves what was written against the board. `at` of a current reading is a two-pin part. */
export function resolveMeasurement(
  index: BoardIndex,
  setup: string,
  kind: string,
  at: string,
  to: string,
): MeasurementResult {
  const parsedKind = ReadingKind.safeParse(kind.trim().toLowerCase());
  if (!parsedKind.success)
    return {
      ok: false,
      what: `unknown kind of reading "${kind}"`,
      expected: ReadingKind.options.join(', '),
    };
  if (parsedKind.data === 'symptom')
    return symptomMeasurement(index, setup.trim().toLowerCase(), at);
  const wanted = setup.trim().toLowerCase() || defaultSetup(parsedKind.data);
  if (!setupNames(index.board).includes(wanted))
    return {
      ok: false,
      what: `unknown setup "${setup}"`,
      expected: setupNames(index.board).join(', '),
    };
  const power = powerOf(wanted);
  if (power !== defaultSetup(parsedKind.data)) {
    return {
      ok: false,
      what: `${parsedKind.data} cannot be read with the board ${power}`,
      expected: `setup ${defaultSetup(parsedKind.data)}`,
    };
  }
  if (parsedKind.data === 'current') return currentMeasurement(index, wanted, at);
  const [from, back] = [findPoint(index, at), findPoint(index, to)];
  if (at.trim() === '' || !from)
    return {
      ok: false,
      what: `the board has no net or pin "${at}"`,
      expected: 'a net name, or a pin such as C3.1',
    };
  if (!back)
    return {
      ok: false,
      what: `the board has no net or pin "${to}"`,
      expected: 'a net name, a pin such as C3.1, or nothing for ground',
    };
  return { ok: true, measurement: { setup: wanted, kind: parsedKind.data, at: from, to: back } };
}

function currentMeasurement(index: BoardIndex, setup: Setup, at: string): MeasurementResult {
  const part = index.partByKey.get(nameKey(at.trim()));
  if (!part || part.pins.length !== 2)
    return {
      ok: false,
      what: `"${at}" is not a two-pin part of this board`,
      expected: 'the designator of a two-pin part',
    };
  return {
    ok: true,
    measurement: {
      setup,
      kind: 'current',
      at: pinPoint(index, part, 0),
      to: pinPoint(index, part, 1),
    },
  };
}

/**
 * What a person sees or hears, as a thing to look at. setup: as written, empty for the observable's
 * own.
 */
function symptomMeasurement(index: BoardIndex, setup: string, at: string): MeasurementResult {
  const observables = index.board.observables ?? [];
  const observable = observables.find(({ name }) => nameKey(name) === nameKey(at.trim()));
  const some = observables
    .slice(0, 8)
    .map(({ name }) => name)
    .join(', ');
  if (!observable)
    return {
      ok: false,
      what: `the board has no observable "${at}"`,
      expected: some === '' ? 'a board that names observables' : `one of ${some}`,
    };
  const wanted = setup === '' ? (observable.setup ?? 'on') : setup;
  if (!setupNames(index.board).includes(wanted) || powerOf(wanted) === 'off') {
    return {
      ok: false,
      what: `a symptom cannot be seen in setup "${wanted}"`,
      expected: 'a setup in which the board is powered',
    };
  }
  const place: Point = { net: observable.name };
  return {
    ok: true,
    measurement: { setup: wanted, kind: 'symptom', at: place, to: { net: GROUND }, observable },
  };
}

/** Everything that this board names as observable, as things to look at. */
export function observableMeasurements(index: BoardIndex): readonly Measurement[] {
  return (index.board.observables ?? []).flatMap(({ name }) => {
    const result = symptomMeasurement(index, '', name);
    return result.ok ? [result.measurement] : [];
  });
}
