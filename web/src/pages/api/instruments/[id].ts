import { archiveInstrument } from '../../../server/instrument/profiles';
import { setAsideDoor } from '../../../server/set-aside';

/** PATCH: sets an instrument aside, or takes it back. Cases keep what they were read with. */
export const PATCH = setAsideDoor('instrument', archiveInstrument);
