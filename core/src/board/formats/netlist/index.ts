import type { ReadResult } from '../../issue';
import type { DeviceLibrary } from '../../library';
import type { Board } from '../../schema';
import { boardFromNetlist } from './board-from-netlist';
import { readBracketed } from './read-bracketed';
import { readExport } from './read-export';
import { readPinList } from './read-pin-list';
import { readTedax } from './read-tedax';

export { isPinList } from './read-pin-list';

/** Reads a netlist of an open schematic editor: parenthesised or bracketed, told by how it begins. */
export function readNetlist(source: string, library: DeviceLibrary): ReadResult<Board> {
  const text = source.replace(/^\uFEFF/, '');
  if (/^\s*\(\s*export\b/.test(text)) return boardFromNetlist(readExport(text), library);
  if (/^\s*[[(]\s*$/m.test(text)) return boardFromNetlist(readBracketed(text), library);
  return {
    ok: false,
    issues: [
      {
        line: 1,
        what: 'no form of netlist that is known',
        expected: '(export (version …) …, or parts in [ ] and nets in ( )',
      },
    ],
  };
}

export const readTedaxNetlist = (source: string, library: DeviceLibrary): ReadResult<Board> =>
  boardFromNetlist(readTedax(source.replace(/^\uFEFF/, '')), library);

export const readPinListBoard = (source: string, library: DeviceLibrary): ReadResult<Board> =>
  boardFromNetlist(readPinList(source), library);
