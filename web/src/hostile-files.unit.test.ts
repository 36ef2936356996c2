import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import { readDiskImage, readDiskListing } from '@hanzai/core/block';
import {
  indexBoard,
  readBoardFile,
  writeBoardJson,
  writePartsList,
  writeSheet,
  writeTestNetlist,
} from '@hanzai/core/board';
import { parseFaults } from '@hanzai/core/fault';
import { readReadingsFile, readStepsFile } from '@hanzai/core/instrument';
import { makePack, readPack } from '@hanzai/core/learn';
import { readMessage, ScpiError } from '@hanzai/core/scpi';
import { readQuickList } from '@hanzai/core/survey';
import { LIBRARY } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { damage } from '../../core/test/properties/damage';
import { readCourse } from './practice/course-file';
import { develop } from './server/picture/service';
import { readStockCsv, stockCsv } from './stock/stock-file';

// Every reader of a file that somebody may bring, under spoilt ones: it answers soon, and takes the file
// or refuses it in words. FUZZ_RUNS: files of each reader (npm run hostile-files: ten thousand).
// Board files, readings, archives and backups have tests of their own beside these
// (core/test/properties/broken-files.test.ts, web/test/open-files.test.ts, web/test/backup.test.ts).

const RUNS = Number(process.env.FUZZ_RUNS ?? 40);
/** Beyond this a reader hangs, milliseconds; not a goal of how fast it is. */
const HANGS = 10_000;

const file = (path: string): string =>
  readFileSync(new URL(`../../${path}`, import.meta.url), 'utf8');
const board = demoBoard('yc2');
const index = indexBoard(board);
const pack = await makePack(
  '01890000-0000-7000-8000-00000000000a',
  '2026-11-28T10:00:00.000Z',
  [],
  new Map(),
);
const picture = readFileSync(new URL('../../data/demo/pictures/yc2-board.jpg', import.meta.url));

interface Reader {
  /** Page of docs/formats. */
  readonly page?: string;
  readonly sample: string;
  /** What it says where it refuses; undefined where it takes the file. Throws nothing. */
  readonly read: (text: string) => unknown;
}
const asBoard = (name: string) => (text: string) => {
  const read = readBoardFile(name, text, LIBRARY);
  return read.ok ? undefined : read.issues.map(({ what }) => what).join('; ');
};
const why = (read: { ok: boolean; why?: string; what?: string }): string | undefined =>
  read.ok ? undefined : (read.why ?? read.what);

const READERS: Readonly<Record<string, Reader>> = {
  deck: { page: 'deck', sample: file('data/demo/boards/yc2-drv.cir'), read: asBoard('b.cir') },
  'board JSON': { page: 'board', sample: writeBoardJson(board), read: asBoard('b.json') },
  'parts list': { page: 'parts', sample: writePartsList(board), read: asBoard('b.csv') },
  'test netlist': { sample: writeTestNetlist(board), read: asBoard('b.ipc') },
  'bench sheet': { page: 'sheet', sample: writeSheet(board), read: asBoard('b.sheet') },
  ...Object.fromEntries(
    readdirSync(new URL('../../core/test/netlists', import.meta.url))
      .filter((name) => !name.endsWith('.md'))
      .map((name) => [
        `netlist ${name}`,
        { sample: file(`core/test/netlists/${name}`), read: asBoard(name) },
      ]),
  ),
  readings: {
    page: 'readings',
    sample: 'setup,kind,at,to,value\noff,resistance,RAW,0,1.2k\non,voltage,RAW,0,12.1\n',
    read: (text) => {
      const read = readReadingsFile(index, text);
      return read.ok ? undefined : read.issues.map(({ what }) => what).join('; ');
    },
  },
  steps: {
    sample: 'step,net,volts\n1,RAW,12\n2,RAW,0\n',
    read: (text) => {
      const read = readStepsFile(index, text);
      return read.ok ? undefined : read.issues.map(({ what }) => what).join('; ');
    },
  },
  'names of faults': {
    page: 'faults',
    sample: 'C1:short + F1:open',
    read: (text) => why(parseFaults(index, text)),
  },
  'pattern pack': {
    page: 'patterns',
    sample: JSON.stringify(pack),
    read: (text) => readPack(text).then(why),
  },
  course: {
    page: 'course',
    sample: JSON.stringify({ format: 'hanzai course', version: 1, title: 'x', exercises: [] }),
    read: (text) => why(readCourse('x.json', text)),
  },
  stock: {
    sample: stockCsv([]) + '1k 0.25W,20,A3,,0.1,,5,,\r\n',
    read: (text) =>
      readStockCsv(text)
        .wrong.map((one) => one.why)
        .join('; ') || undefined,
  },
  'quick list': {
    sample: 'C7 47u 16V\nC8 100u 25V\n',
    read: (text) =>
      readQuickList(text, LIBRARY)
        .unread.map((one) => one.text)
        .join('; ') || undefined,
  },
  'disk listing': {
    sample: 'LETTER.TXT 12,345\nNOTES TXT 12K @ 120\n',
    read: (text) =>
      why(
        readDiskListing(text, {
          sectors: 720,
          sectorsPerTrack: 9,
          sides: 2,
          bytesPerSector: 512,
        } as never),
      ),
  },
  'program message': {
    page: 'bench',
    sample: 'ROUT:PROB "C3.1","0";:MEAS:VOLT? 10,0.001;*OPC?',
    read: (text) => {
      try {
        return void [...readMessage(text)];
      } catch (error) {
        if (error instanceof ScpiError) return error.message;
        throw error;
      }
    },
  },
};

/** Pages of formats that are only written, or whose readers are tried elsewhere. */
const ELSEWHERE: Readonly<Record<string, string>> = {
  backup: 'web/test/backup.test.ts',
  workshop: 'web/test/open-files.test.ts',
  service: 'web/test/hostile.test.ts',
  strip: 'web/src/case/strip/strip.unit.test.ts',
  context: 'cli/test/command-line.test.ts',
  trace: 'only written',
};

let longest = { name: '', milliseconds: 0 };
async function timed<T>(name: string, work: () => T | Promise<T>): Promise<T> {
  const begun = performance.now();
  try {
    return await work();
  } finally {
    const milliseconds = performance.now() - begun;
    if (milliseconds > longest.milliseconds) longest = { name, milliseconds };
    expect(milliseconds, `${name} hangs`).toBeLessThan(HANGS);
  }
}
afterAll(() => {
  if (process.env.FUZZ_RUNS)
    process.stdout.write(
      `\n${RUNS} files of each of ${Object.keys(READERS).length + 2} readers; the longest took ${longest.milliseconds.toFixed(0)} ms (${longest.name}); ${Math.round(process.memoryUsage().rss / 1e6)} MB\n`,
    );
});

/** Bytes that are spoilt: cut off, changed, put in, all of them others. */
const spoiltBytes = (whole: Uint8Array): fc.Arbitrary<Uint8Array> => {
  const at = fc.nat({ max: whole.length - 1 });
  return fc.oneof(
    at.map((end) => whole.slice(0, end)),
    fc.tuple(at, fc.uint8Array({ maxLength: 40 })).map(([from, bytes]) => {
      const other = whole.slice();
      other.set(bytes.subarray(0, other.length - from), from);
      return other;
    }),
    fc.uint8Array({ maxLength: 2000 }),
  );
};
const said = (words: unknown): void => {
  if (words === undefined) return;
  expect(String(words).trim()).not.toBe('');
  expect(String(words)).not.toMatch(/\[object|Cannot read|is not a function|at .+:\d+:\d+/);
};

describe('every reader of texts', () => {
  it.each(Object.entries(READERS))(
    '%s takes a spoilt one or says what is wrong',
    async (name, { sample, read }) => {
      await fc.assert(
        fc.asyncProperty(
          fc.oneof(
            { weight: 4, arbitrary: fc.array(damage, { minLength: 1, maxLength: 4 }) },
            { weight: 1, arbitrary: fc.string({ maxLength: 400, unit: 'binary' }) },
          ),
          async (how) => {
            const text =
              typeof how === 'string' ? how : how.reduce((now, spoil) => spoil(now), sample);
            said(await timed(name, () => read(text)));
          },
        ),
        { numRuns: RUNS, seed: 20261129 },
      );
    },
    60_000 + 400 * RUNS,
  );
  it('each also takes nothing at all, and one enormous line, without an exception', async () => {
    for (const [name, { read }] of Object.entries(READERS))
      for (const text of [
        '',
        '\0',
        '\uFEFF',
        'x'.repeat(300_000),
        '[['.repeat(20_000),
        '{"a":'.repeat(20_000),
      ])
        said(await timed(name, () => read(text)));
  });
  it('every page of formats has one, or says where it is tried', () => {
    const pages = readdirSync(new URL('../../docs/formats', import.meta.url))
      .filter((name) => name.endsWith('.md'))
      .map((name) => name.slice(0, -3));
    const tried = Object.values(READERS).flatMap(({ page }) => (page ? [page] : []));
    expect([...tried, ...Object.keys(ELSEWHERE)].toSorted()).toEqual(pages.toSorted());
  });
});

describe('every reader of bytes', () => {
  const image = new Uint8Array(9 * 512);
  image.set([0xeb, 0x3c, 0x90], 0);
  // A disk of 720 sectors: 512 bytes a sector, 2 a cluster, 1 reserved, 2 tables of 3, 112 entries.
  new DataView(image.buffer).setUint16(11, 512, true);
  image.set([2, 1, 0, 2, 112, 0, 0xd0, 0x02, 0xfd, 3, 0, 9, 0, 2, 0], 13);
  it(
    'an image of a disk',
    async () => {
      await fc.assert(
        fc.asyncProperty(spoiltBytes(image), async (bytes) =>
          said(await timed('disk image', () => why(readDiskImage(bytes)))),
        ),
        { numRuns: RUNS, seed: 20261129 },
      );
    },
    60_000 + 400 * RUNS,
  );
  it(
    'a picture',
    async () => {
      await fc.assert(
        fc.asyncProperty(spoiltBytes(picture), async (bytes) => {
          await timed('picture', () => develop(bytes));
        }),
        { numRuns: Math.ceil(RUNS / 4), seed: 20261129 },
      );
    },
    60_000 + 400 * RUNS,
  );
});
