import { readSheetLines, renameInSheet } from './formats/sheet';
import type { DeviceLibrary } from './library';
import { nameKey } from './nets';
import { isUnsaid, lettersOf } from './part-words';
import type { Board } from './schema';

interface SectionText {
  readonly title: string;
  readonly ports: Readonly<Record<string, string>>;
  readonly sheet: string;
}

/**
 * A section as lines for a sheet: its parts by the next free designators of the board, its ports on the
 * nets that are given for them (else under their own names), its inner nets under names that the
 * board does not have. nets: by port.
 */
export function sectionLines(
  section: SectionText,
  board: Board,
  nets: Readonly<Record<string, string>>,
  library: DeviceLibrary,
): string {
  const own = readSheetLines(section.sheet, library).board;
  const taken = new Set(board.parts.flatMap(({ pins }) => pins.map(nameKey)));
  const ports = new Set(Object.keys(section.ports).map(nameKey));
  let text = section.sheet.trim();
  // By way of names that nothing has, so that one that is given away is not caught again.
  const steps: [from: string, to: string][] = [];
  const give = (from: string, to: string): void => {
    if (from === to) return;
    const between = `\u00a7${steps.length}\u00a7`;
    text = renameInSheet(text, from, between);
    steps.push([between, to]);
  };
  const refs = new Map<string, string>();
  const numbers = new Map<string, number>();
  for (const { ref } of own.parts) {
    const [package_ = ref] = ref.split('.');
    if (refs.has(package_)) continue;
    const letters = lettersOf(package_);
    const most =
      numbers.get(letters) ??
      Math.max(
        0,
        ...board.parts
          .filter((part) => lettersOf(part.ref) === letters)
          .map((part) => Number(/\d+/.exec(part.ref)?.[0] ?? 0)),
      );
    numbers.set(letters, most + 1);
    refs.set(package_, `${letters}${most + 1}`);
  }
  for (const [from, to] of refs) give(from, to);
  for (const port of Object.keys(section.ports)) give(port, nets[port]?.trim() || port);
  const inner = new Set(own.parts.flatMap(({ pins }) => pins));
  for (const net of inner) {
    if (net === '0' || ports.has(nameKey(net)) || isUnsaid(net)) continue;
    let name = net;
    for (let n = 2; taken.has(nameKey(name)); n += 1) name = `${net}_${n}`;
    give(net, name);
  }
  for (const [between, to] of steps) text = text.replaceAll(between, to);
  return `== ${section.title} ==\n${text}\n==\n`;
}
