import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  describeIssue,
  indexBoard,
  MAX_ISSUES,
  readBoardFile,
  writeBoardJson,
  writeDeck,
  writePartsList,
  writeTestNetlist,
  type Board,
  type ReadResult,
} from '@hanzai/core/board';
import {
  BenchState,
  readReadingsFile,
  writeReadingsFile,
  type Reading,
} from '@hanzai/core/instrument';
import { candidateMeasurements } from '@hanzai/core/plan';
import { LIBRARY } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { damage } from './damage';

const RUNS = { seed: 20261125, numRuns: 150 };
const deckSource = readFileSync(
  new URL('../../../data/demo/boards/yc2-drv-rail12.cir', import.meta.url),
  'utf8',
);
const board = demoBoard('yc2');
const SOURCES: readonly (readonly [file: string, text: string])[] = [
  ['board.cir', deckSource],
  ['board.json', writeBoardJson(board)],
  ['board.csv', writePartsList(board)],
  ['board.ipc', writeTestNetlist(board)],
];

/** What holds for every file that was read, whatever was in it. */
function judge(result: ReadResult<unknown>, text: string): void {
  if (result.ok) return;
  expect(result.issues.length).toBeGreaterThan(0);
  expect(result.issues.length).toBeLessThanOrEqual(MAX_ISSUES + 1);
  for (const issue of result.issues) {
    expect(issue.what.trim()).not.toBe('');
    expect(issue.expected.trim()).not.toBe('');
    expect(describeIssue(issue)).not.toMatch(/undefined|\[object/);
    if (issue.line === undefined) continue;
    expect(issue.line).toBeGreaterThan(0);
    expect(issue.line).toBeLessThanOrEqual(text.split(/\r\n?|\n/).length);
  }
}

describe('spoilt board files', () => {
  it.each(SOURCES)(
    '%s: every damage is read or named with its remedy, and nothing throws',
    (file, source) => {
      fc.assert(
        fc.property(fc.array(damage, { minLength: 1, maxLength: 3 }), (damages) => {
          const text = damages.reduce((now, spoil) => spoil(now), source);
          const result = readBoardFile(file, text, LIBRARY);
          judge(result, text);
          // What was read can be worked with: numbered, and solved or refused with a reason.
          if (!result.ok) return;
          const solved = new BenchState(indexBoard(result.value), {
            setup: 'on',
            faults: [],
            absent: [],
          }).solve();
          expect(solved.ok || solved.why.length > 0).toBe(true);
        }),
        RUNS,
      );
    },
  );

  it.each(SOURCES)('%s: rubbish is never a board with parts', (file) => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200, unit: 'binary' }), (text) => {
        const result = readBoardFile(file, text, LIBRARY);
        judge(result, text);
        if (result.ok)
          expect(result.value.parts.length).toBeLessThanOrEqual(text.split(/\r\n?|\n/).length);
      }),
      RUNS,
    );
  });
});

describe('boards there and back', () => {
  const whole = (name: Parameters<typeof demoBoard>[0]): Board => demoBoard(name);
  it.each(['pd3If', 'pd3Rw', 'cr40Whole', 'yc2Whole', 'tl9'] as const)(
    '%s is itself again after Board JSON',
    (name) => {
      const before = whole(name);
      const result = readBoardFile('board.json', writeBoardJson(before), LIBRARY);
      expect(result.ok && result.value).toEqual(before);
    },
  );

  it.each(['cr40Whole', 'yc2Whole', 'tl9'] as const)(
    '%s has the same volts after a deck',
    (name) => {
      const before = whole(name);
      const result = readBoardFile('board.cir', writeDeck(before), LIBRARY);
      if (!result.ok) throw new Error(JSON.stringify(result.issues));
      const [own, again] = [before, result.value].map(
        (one) =>
          new BenchState(indexBoard(one), {
            setup: 'on',
            faults: [],
            absent: [],
          }).netVolts() as Record<string, number | null>,
      );
      for (const [net, volt] of Object.entries(own!)) {
        const there = Object.entries(again!).find(
          ([other]) => other.toLowerCase() === net.toLowerCase(),
        )?.[1];
        if (volt === null) expect(there ?? null, net).toBeNull();
        else expect(there, net).toBeCloseTo(volt, 4);
      }
    },
  );
});

describe('readings files', () => {
  const index = indexBoard(board);
  const sound = new BenchState(index, { setup: 'on', faults: [], absent: [] });
  const off = new BenchState(index, { setup: 'off', faults: [], absent: [] });
  const readings: Reading[] = candidateMeasurements(index)
    .filter(({ kind }) => kind === 'voltage' || kind === 'resistance')
    .flatMap((measurement) => {
      const response = (measurement.setup === 'off' ? off : sound).respond(measurement);
      return 'ok' in response
        ? []
        : [
            {
              measurement,
              value: Number.isFinite(response.value)
                ? Number(response.value.toPrecision(4))
                : ('OL' as const),
            },
          ];
    });
  const source = writeReadingsFile(readings);

  it('come back as they were written', () => {
    const result = readReadingsFile(index, source);
    if (!result.ok) throw new Error(JSON.stringify(result.issues));
    expect(result.value.map(({ value }) => value)).toEqual(readings.map(({ value }) => value));
    expect(
      result.value.map(({ measurement }) => [
        measurement.kind,
        measurement.at.net,
        measurement.to.net,
      ]),
    ).toEqual(
      readings.map(({ measurement }) => [measurement.kind, measurement.at.net, measurement.to.net]),
    );
  });

  it('spoilt ones are read or named line by line, and nothing throws', () => {
    fc.assert(
      fc.property(fc.array(damage, { minLength: 1, maxLength: 3 }), (damages) => {
        const text = damages.reduce((now, spoil) => spoil(now), source);
        judge(readReadingsFile(index, text), text);
      }),
      RUNS,
    );
  });
});
