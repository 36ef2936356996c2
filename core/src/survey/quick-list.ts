import { indexBoard, readSheetLines, type BoardIndex, type DeviceLibrary } from '../board';

/** A quick list as a board to be surveyed, and the lines of it that say nothing. */
export interface QuickList {
  readonly index: BoardIndex;
  readonly unread: readonly { readonly line: number; readonly text: string }[];
}

const DESIGNATOR = /^C\d{1,4}[A-Z]?$/i;

/**
 * Capacitors from a list without nets, one a line: `C7 47u 16V`. Nothing is known of what stands
 * beside them, so they are judged by their size and their like alone. Of two lines with one name
 * the first counts.
 */
export function readQuickList(text: string, library: DeviceLibrary): QuickList {
  const lines = text.split(/\r\n|\n|\r/).map((line) => line.trim());
  const seen = new Set<string>();
  const unread: { line: number; text: string }[] = [];
  const sheet = lines.flatMap((line, i) => {
    if (line === '') return [];
    const [ref = '', ...words] = line.split(/[\s,;]+/);
    const key = ref.toUpperCase();
    const own = `${key} ${key}_A ${key}_B ${words.join(' ')}`;
    const read =
      DESIGNATOR.test(ref) && words.length > 0 ? readSheetLines(own, library) : undefined;
    const [part, more] = read?.board.parts ?? [];
    const isWhole = part?.kind === 'capacitor' && !more && read!.issues.length === 0;
    if (!isWhole || seen.has(key)) {
      unread.push({ line: i + 1, text: line });
      return [];
    }
    seen.add(key);
    return [own];
  });
  return { index: indexBoard(readSheetLines(sheet.join('\n'), library).board), unread };
}
