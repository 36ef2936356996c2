import { archiveOwnPattern } from '../../../../server/learn/own-patterns';
import { setAsideDoor } from '../../../../server/set-aside';

/** PATCH: sets a pattern of the workshop’s own aside, or takes it back. */
export const PATCH = setAsideDoor('pattern', archiveOwnPattern);
