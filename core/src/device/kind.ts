import type { Part, PartKind } from '../board';
import type { Element } from './element';
import type { SeverityRange } from './severity';

/** One way in which a part of a kind fails. */
export interface FaultMode {
  readonly name: string;
  /**
   * What it does to a current: it lets one through that should not be, or none. Absent where it does
   * neither.
   */
  readonly effect?: 'short' | 'open';
  /** Where the mode is one of a pin: the pin, from 0. */
  readonly pin?: number;
  readonly severity: SeverityRange;
  /**
   * The elements of the faulty part. severity: a value of the range above. healthy: the part's
   * elements without the fault.
   */
  readonly change: (healthy: readonly Element[], severity: number) => readonly Element[];
  /** False where the fault cannot be seen at DC, so that DC work may skip it. */
  readonly changesDc: boolean;
}

/**
 * What the engine knows of one kind of part. Adding a kind is one file that exports one of these
 * and one line in the registry.
 */
export interface DeviceKind<K extends PartKind = PartKind> {
  readonly kind: K;
  /** The healthy part as circuit elements between its nets. */
  readonly elements: (part: Extract<Part, { kind: K }>) => readonly Element[];
  readonly modes: (part: Extract<Part, { kind: K }>) => readonly FaultMode[];
  /**
   * Name of the mode that a dry joint at a pin (from 0) comes to, seen from anywhere but the joint
   * itself; undefined where none of the modes is that. Not given for parts with two pins, of which
   * either opens the whole part.
   */
  readonly openPin?: (pin: number) => string | undefined;
}
