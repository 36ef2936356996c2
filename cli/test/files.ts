import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const folder = mkdtempSync(join(tmpdir(), 'hanzai-cli-'));
let files = 0;

/** Writes a file of its own for a test; returns its path. */
export function file(ending: string, text: string): string {
  const name = join(folder, `${++files}.${ending}`);
  writeFileSync(name, text);
  return name;
}

/** A circuit deck of these lines; returns its path. */
export const deck = (...lines: string[]): string =>
  file('cir', ['a board', ...lines, '.end', ''].join('\n'));
