import { readDeck } from './deck-reader';
import { writeDeck } from './deck-writer';
import { readBoardJson, writeBoardJson } from './board-json';
import { isPinList, readNetlist, readPinListBoard, readTedaxNetlist } from './netlist';
import { readPartsList, writePartsList } from './parts-list';
import { readSheet, writeSheet } from './sheet';
import { readTestNetlist, writeTestNetlist } from './test-netlist';
import type { ReadResult } from '../issue';
import { NO_LIBRARY, type DeviceLibrary } from '../library';
import type { Board } from '../schema';

export { isPinList };

interface BoardFormat {
  readonly read: (source: string, library: DeviceLibrary) => ReadResult<Board>;
  /** Undefined where the form is read only. */
  readonly write?: (board: Board, library?: DeviceLibrary) => string;
}

/** Board file formats by file ending. */
export const BOARD_FORMATS: Readonly<Record<string, BoardFormat>> = {
  '.json': { read: readBoardJson, write: writeBoardJson },
  '.cir': { read: readDeck, write: writeDeck },
  '.ipc': { read: readTestNetlist, write: writeTestNetlist },
  '.csv': {
    read: (source, library) =>
      isPinList(source) ? readPinListBoard(source, library) : readPartsList(source),
    write: writePartsList,
  },
  '.sheet': { read: readSheet, write: writeSheet },
  '.net': { read: readNetlist },
  '.tdx': { read: readTedaxNetlist },
};

/** A file larger than this is refused before it is read. */
export const MAX_FILE_BYTES = 20_000_000;

/** The format that goes with a file name, or undefined. */
export function formatOf(fileName: string): BoardFormat | undefined {
  const ending = /\.[a-z]+$/i.exec(fileName)?.[0].toLowerCase();
  return ending === undefined ? undefined : BOARD_FORMATS[ending];
}

/** Reads a board file by its ending. library: the packages that a deck may name. */
export function readBoardFile(
  fileName: string,
  source: string,
  library: DeviceLibrary = NO_LIBRARY,
): ReadResult<Board> {
  const format = formatOf(fileName);
  if (!format)
    return {
      ok: false,
      issues: [
        {
          what: `${fileName}: unknown kind of file`,
          expected: `a file ending in ${Object.keys(BOARD_FORMATS).join(', ')}`,
        },
      ],
    };
  if (source.length > MAX_FILE_BYTES)
    return { ok: false, issues: [{ what: 'the file is too large', expected: 'at most 20 MB' }] };
  return format.read(source, library);
}
