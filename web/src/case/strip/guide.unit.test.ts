import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { indexBoard, scratchBoard } from '@hanzai/core/board';
import { ARCHETYPES, LIBRARY } from '@hanzai/data';
import { parseStrip, type StripContext } from './grammar';

// What the guide says can be typed can be typed.

const text = readFileSync(new URL('../../../../docs/guide.md', import.meta.url), 'utf8');
const context = (line: string): StripContext => ({
  index: indexBoard(scratchBoard(`p5 1; vm 1; p12 1; ${line}`, LIBRARY)),
  hasSheet: false,
  list: ['P5', 'VM', 'P12'].map((at) => ({ setup: 'on', kind: 'voltage', at, to: '' })),
  model: ARCHETYPES.find(({ name }) => name === 'optical-disc-reader'),
  chance: () => 0.5,
});
const inTable = [...text.matchAll(/^\| (`.*`)\s+\|/gm)].flatMap(([, cell]) =>
  [...cell!.matchAll(/`([^`]+)`/g)].map(([, line]) => line!),
);
const inBlocks = [...text.matchAll(/^ {4}(.+)$/gm)].map(([, line]) => line!);

describe('the guide', () => {
  it('has lines of every kind', () => {
    expect(inTable.length).toBeGreaterThan(18);
    expect(inBlocks.length).toBeGreaterThan(4);
  });
  it.each([...inTable, ...inBlocks].filter((line) => !line.startsWith('npx')))('%s', (line) => {
    const read = parseStrip(context(line), line);
    if (!read.ok) throw new Error(`${read.understood}; expected ${read.expected}`);
    expect(read.items.length).toBeGreaterThan(0);
  });
});
