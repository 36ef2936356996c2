import type { Size } from './spec';

/**
 * What a capacitor is there for: how near its value must be, and which kinds may do it. filter: a
 * reservoir behind a rectifier or regulator. servo: in a control loop. safety: on the mains.
 */
export const PART_ROLES = [
  'decoupling',
  'filter',
  'coupling',
  'servo',
  'timing',
  'safety',
] as const;
export type PartRole = (typeof PART_ROLES)[number];

/** A chip at the other end of a wire: what its pin gives or asks for. */
export interface LogicNeighbour {
  readonly ref: string;
  /** Letters of its family, '' for the standard one; undefined where that is not known. */
  readonly family: string | undefined;
}

/** What is known of the place that a part goes to. */
export interface Place {
  /** A leg lies on the mains. */
  readonly onMains: boolean;
  /** Volts across the part with the power on, where the circuit tells. */
  readonly workingVolt?: number | undefined;
  readonly workingAmpere?: number | undefined;
  readonly workingWatt?: number | undefined;
  /** Of a regulator: volts at its input, with what is drawn on. */
  readonly inputVolt?: number | undefined;
  readonly role?: PartRole | undefined;
  /** The room that there is. */
  readonly room?: Size | undefined;
  /** What drives a chip's inputs, and what its outputs drive. */
  readonly drivers?: readonly LogicNeighbour[] | undefined;
  readonly loads?: readonly (LogicNeighbour & { readonly output: string })[] | undefined;
  /** Highest volts that a pull-up lifts an open-collector output to. */
  readonly pullUpVolt?: number | undefined;
}

/** A place of which nothing is known. */
export const UNKNOWN_PLACE: Place = { onMains: false };
