import type { FileIssue } from '../../issue';
import type { DeviceLibrary } from '../../library';
import { makePart, type PartMade, type PartSaid } from '../../part-words';
import type { DeckModel } from '../deck-models';

/** What is wrong with a line, without its number. */
export type Wrong = Omit<FileIssue, 'line'>;

/** What lines before this one, and the library, have told. */
export interface Context {
  readonly library: DeviceLibrary;
  readonly models: ReadonlyMap<string, DeckModel>;
}

export const makeSaid = (said: Omit<PartSaid, 'models'>, { library, models }: Context): PartMade =>
  makePart({ ...said, models }, library);
