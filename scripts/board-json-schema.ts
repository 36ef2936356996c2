// Writes docs/formats/board.schema.json from the core's Zod schema; with --check only says whether
// it is up to date.
import { readFileSync, writeFileSync } from 'node:fs';
import { Board } from '@hanzai/core/board';
import { z } from 'zod';

const file = new URL('../docs/formats/board.schema.json', import.meta.url);
const text = `${JSON.stringify(z.toJSONSchema(Board), null, 2)}\n`;

if (process.argv.includes('--check')) {
  if (readFileSync(file, 'utf8') !== text) {
    process.stderr.write(
      'docs/formats/board.schema.json is not that of the code: run npm run schemas\n',
    );
    process.exitCode = 1;
  }
} else writeFileSync(file, text);
