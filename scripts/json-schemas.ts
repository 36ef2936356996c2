// Writes the schemas of docs/formats from the Zod schemas of the code; with --check only says which
// of them are not up to date.
import { readFileSync, writeFileSync } from 'node:fs';
import { Board } from '@hanzai/core/board';
import { PatternPack } from '@hanzai/core/learn';
import { z } from 'zod';
import { EvidenceFile } from '../web/src/case/evidence';
import { CaseFile } from '../web/src/server/open-files/head';
import { TraceFile } from '../web/src/case/trail';

const SCHEMAS = {
  'board.schema.json': Board,
  'trace.schema.json': TraceFile,
  'evidence.schema.json': EvidenceFile,
  'patterns.schema.json': PatternPack,
  'case.schema.json': CaseFile,
};

for (const [name, schema] of Object.entries(SCHEMAS)) {
  const file = new URL(`../docs/formats/${name}`, import.meta.url);
  const text = `${JSON.stringify(z.toJSONSchema(schema), null, 2)}\n`;
  if (!process.argv.includes('--check')) writeFileSync(file, text);
  else if (readFileSync(file, 'utf8') !== text) {
    process.stderr.write(`docs/formats/${name} is not that of the code: run npm run schemas\n`);
    process.exitCode = 1;
  }
}
