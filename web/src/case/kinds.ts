import type { Entry, EntryBody } from './entry';
import type { Definition, Kind, KindsOf } from './kind/definition';
import { ADJUSTING_KINDS } from './kind/adjusting';
import { KEEPING_KINDS } from './kind/keeping';
import { OPENING_KINDS } from './kind/opening';
import { PROVING_KINDS } from './kind/proving';
import { REPAIRING_KINDS } from './kind/repairing';
import { SAFETY_KINDS } from './kind/safety';
import { SURVEYING_KINDS } from './kind/surveying';
import { TRACING_KINDS } from './kind/tracing';
import { TRYING_KINDS } from './kind/trying';
import { UNIT_KINDS } from './kind/unit';

/**
 * Everything that a person can do to a case. A kind of the schema without its definition does not
 * compile.
 */
export const KINDS: KindsOf<Kind> = {
  ...UNIT_KINDS,
  ...TRYING_KINDS,
  ...SAFETY_KINDS,
  ...OPENING_KINDS,
  ...TRACING_KINDS,
  ...SURVEYING_KINDS,
  ...REPAIRING_KINDS,
  ...ADJUSTING_KINDS,
  ...PROVING_KINDS,
  ...KEEPING_KINDS,
};

/**
 * The definition of a kind that is known only at run time. It may be asked only of bodies and
 * entries of that kind.
 */
export function kindOf(kind: Kind): Definition<EntryBody, Entry> {
  return KINDS[kind] as unknown as Definition<EntryBody, Entry>;
}
