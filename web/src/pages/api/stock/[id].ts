import { setAsideDoor } from '../../../server/set-aside';
import { archiveLot } from '../../../server/stock/lots';

/** PATCH: sets a lot aside, or takes it back; not while some of it is kept for a case. */
export const PATCH = setAsideDoor('lot', archiveLot);
