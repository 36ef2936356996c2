// Writes data/demo/boards/*.json and *.cir from their descriptions in data/demo/make; with --check
// only says whether they are up to date.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { writeBoardJson, writeDeck } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { DEMO_SHEETS } from '@hanzai/data/demo-make';

let stale = 0;
for (const [name, make] of Object.entries(DEMO_SHEETS)) {
  const board = make();
  for (const [ending, text] of [
    ['json', writeBoardJson(board)],
    ['cir', writeDeck(board, LIBRARY)],
  ] as const) {
    const file = new URL(`../data/demo/boards/${name}.${ending}`, import.meta.url);
    if (existsSync(file) && readFileSync(file, 'utf8') === text) continue;
    stale += 1;
    if (!process.argv.includes('--check')) writeFileSync(file, text);
  }
}
if (stale > 0 && process.argv.includes('--check')) {
  process.stderr.write(
    'data/demo/boards is not what data/demo/make says: run npm run demo-boards\n',
  );
  process.exitCode = 1;
}
