import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DISK_GEOMETRIES } from '@hanzai/data';
import {
  filesWithin,
  MOST_IMAGE_BYTES,
  readDiskImage,
  readDiskListing,
  type DiskContents,
  type DiskRead,
} from '../src/block';

// What a disk that is read with a wrong setting loses, file by file.

const high = DISK_GEOMETRIES.find(({ name }) => name === '3.5 inch high density')!;
const contents = (read: DiskRead): DiskContents => {
  if (!read.ok) throw new Error(read.what);
  return read.contents;
};

/**
 * An image as ECMA-107 has it, put together here by hand: 1 reserved sector, two tables of 9, 224
 * entries in the root, clusters of one sector; so the data begins at sector 33.
 */
function image(
  files: readonly {
    name: string;
    bytes: number;
    clusters: readonly number[];
    attributes?: number;
  }[],
): Uint8Array {
  const disk = new Uint8Array(2880 * 512);
  const view = new DataView(disk.buffer);
  view.setUint16(11, 512, true);
  disk[13] = 1;
  view.setUint16(14, 1, true);
  disk[16] = 2;
  view.setUint16(17, 224, true);
  view.setUint16(19, 2880, true);
  disk[21] = 0xf0;
  view.setUint16(22, 9, true);
  view.setUint16(24, 18, true);
  view.setUint16(26, 2, true);
  const put = (cluster: number, value: number): void => {
    // Twelve bits each, the lower eight first: ECMA-107, section 10.
    const at = 512 + Math.floor(cluster * 1.5);
    if (cluster % 2 === 0) {
      disk[at] = value & 0xff;
      disk[at + 1] = (disk[at + 1]! & 0xf0) | (value >> 8);
    } else {
      disk[at] = (disk[at]! & 0x0f) | ((value & 0x0f) << 4);
      disk[at + 1] = value >> 4;
    }
  };
  files.forEach(({ name, bytes, clusters, attributes = 0 }, i) => {
    const at = 19 * 512 + 32 * i;
    disk.set(new TextEncoder().encode(name), at);
    disk[at + 11] = attributes;
    view.setUint16(at + 26, clusters[0] ?? 0, true);
    view.setUint32(at + 28, bytes, true);
    clusters.forEach((cluster, k) => put(cluster, clusters[k + 1] ?? 0xfff));
  });
  return disk;
}
const LETTER = { name: 'LETTER  TXT', bytes: 1200, clusters: [2, 3, 9] };

describe('an image of a disk', () => {
  it('gives its layout, its files and the sectors that they lie on', () => {
    const read = contents(readDiskImage(image([LETTER])));
    expect(read.layout).toEqual({
      sectorsPerTrack: 18,
      sides: 2,
      bytesPerSector: 512,
      tracksPerSide: 80,
    });
    // Cluster 2 is the first of the data area, here sector 33.
    expect(read.files).toEqual([{ name: 'LETTER.TXT', bytes: 1200, sectors: [33, 34, 40] }]);
    expect(read.directory).toEqual(Array.from({ length: 14 }, (_, i) => 19 + i));
    expect(read.notes).toEqual([]);
  });
  it('leaves out what was deleted and the name of the disk, and goes into directories', () => {
    const disk = image([
      { name: 'WORKSHOP   ', bytes: 0, clusters: [], attributes: 0x08 },
      { name: '\u0005ONE    TXT', bytes: 10, clusters: [] },
      { name: 'NOTES      ', bytes: 0, clusters: [20], attributes: 0x10 },
    ]);
    disk[19 * 512 + 32] = 0xe5;
    // The directory's own sector: itself, the one above, and a file of two sectors.
    const at = (33 + 18) * 512;
    disk.set(new TextEncoder().encode('.          '), at);
    disk[at + 11] = 0x10;
    disk.set(new TextEncoder().encode('DRIVE   DOC'), at + 32);
    disk[at + 32 + 26] = 30;
    disk[at + 32 + 28] = 100;
    const { files, directory } = contents(readDiskImage(disk));
    expect(files).toEqual([{ name: 'NOTES/DRIVE.DOC', bytes: 100, sectors: [61] }]);
    expect(directory).toContain(51);
  });
  it('a chain that ends early or runs in a ring is told, and ends', () => {
    const early = image([{ ...LETTER, bytes: 5000 }]);
    expect(contents(readDiskImage(early)).notes[0]).toContain('ends early');
    const ring = image([{ name: 'RING    TXT', bytes: 400_000, clusters: [2, 3, 4, 2] }]);
    const { files, notes } = contents(readDiskImage(ring));
    expect(files[0]!.sectors.length).toBeLessThan(5);
    expect(notes[0]).toContain('damaged');
  });
  it('a directory that holds itself is gone into once', () => {
    const disk = image([{ name: 'LOOP       ', bytes: 0, clusters: [5], attributes: 0x10 }]);
    const at = (33 + 3) * 512;
    disk.set(new TextEncoder().encode('AGAIN      '), at);
    disk[at + 11] = 0x10;
    disk[at + 26] = 5;
    expect(contents(readDiskImage(disk)).files).toEqual([]);
  });
  it('of another system, empty, cut off or too large is refused or told, never more', () => {
    for (const other of [new Uint8Array(0), new Uint8Array(5), new Uint8Array(737280)])
      expect(readDiskImage(other).ok).toBe(false);
    expect(readDiskImage(new Uint8Array(MOST_IMAGE_BYTES + 1)).ok).toBe(false);
    const cut = contents(readDiskImage(image([LETTER]).subarray(0, 15 * 1024)));
    expect(cut.notes[0]).toContain('the image ends after 15360');
  });
  it('any bytes behind a sound first sector end in an answer, and soon', () => {
    const sound = image([LETTER]).subarray(0, 30);
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 20_000, maxLength: 40_000 }), (noise) => {
        const disk = new Uint8Array(noise);
        disk.set(sound);
        const read = readDiskImage(disk);
        if (read.ok) {
          expect(read.contents.files.length).toBeLessThanOrEqual(2000);
          for (const { bytes, within, upTo } of filesWithin(high, high, read.contents).files) {
            expect(within).toBeLessThanOrEqual(bytes);
            expect(upTo).toBeLessThanOrEqual(bytes);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
  it('that common tools made is read as they wrote it', () => {
    // Made by dosfstools 4.2 and mtools, 720 KiB; what mshowfat says: BOARD.DOC on clusters 2 to 4,
    // NOTES/DRIVE.BIN on 7 to 26, of two sectors each; a third file was deleted. minfo: 9 sectors, 2
    // heads, 3 sectors a table, so that cluster 2 is sector 14.
    const packed = readFileSync(new URL('./reference/disks/720k.img.gz', import.meta.url));
    const { files, layout, notes } = contents(readDiskImage(new Uint8Array(gunzipSync(packed))));
    const from = (first: number, count: number): number[] =>
      Array.from({ length: count }, (_, i) => first + i);
    expect(files).toEqual([
      { name: 'BOARD.DOC', bytes: 3000, sectors: from(14, 6) },
      { name: 'NOTES/DRIVE.BIN', bytes: 20000, sectors: from(24, 40) },
    ]);
    expect(layout).toMatchObject({ sectorsPerTrack: 9, sides: 2, tracksPerSide: 80 });
    expect(notes).toEqual([]);
  });
});

describe('a listing of a directory', () => {
  it.each([
    ['LETTER.TXT 12345', 'LETTER.TXT', 12345],
    ['LETTER   TXT    12,345  10-05-91  9:14a', 'LETTER.TXT', 12345],
    ["letter.txt 12'345", 'letter.txt', 12345],
    ['GAME DSK 12K', 'GAME.DSK', 12288],
    ['EMPTY.TXT 0', 'EMPTY.TXT', 0],
  ])('%s', (line, name, bytes) => {
    expect(contents(readDiskListing(line, high)).files[0]).toMatchObject({ name, bytes });
  });
  it('lays files one behind the other, or where they are said to begin', () => {
    const { files, notes } = contents(readDiskListing('A.TXT 1000\nB.TXT 600', high));
    expect(files.map(({ sectors }) => sectors)).toEqual([
      [72, 73],
      [74, 75],
    ]);
    expect(notes[0]).toContain('one behind the other');
    const said = contents(readDiskListing('A.TXT 600 @ 100', high));
    expect(said.files[0]!.sectors).toEqual([100, 101]);
    expect(said.notes).toEqual([]);
  });
  it('leaves out what is no file, and says how many lines', () => {
    const read = contents(
      readDiskListing(' Directory of A:\\\n\nA.TXT 10\n   1 file(s)  10 bytes\n', high),
    );
    expect(read.files).toHaveLength(1);
    expect(read.notes.join()).toContain('2 lines are no file');
    expect(readDiskListing('nothing here\n', high)).toMatchObject({ ok: false });
    expect(readDiskListing('', high)).toMatchObject({ ok: false });
  });
  it('takes any text', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        const read = readDiskListing(text, high);
        if (read.ok)
          for (const { bytes } of read.contents.files) expect(bytes).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 300 },
    );
  });
});

describe('what is within reach of a wrong setting', () => {
  const disk = contents(
    readDiskImage(
      image([
        LETTER,
        {
          name: 'LONG    BIN',
          bytes: 30 * 512,
          clusters: Array.from({ length: 30 }, (_, i) => 50 + i),
        },
      ]),
    ),
  );

  it('with the right one everything is whole', () => {
    const { files, directory } = filesWithin(high, high, disk);
    expect(directory).toBe(true);
    expect(files.map(({ state }) => state)).toEqual(['whole', 'whole']);
  });
  it('with fifteen of eighteen sectors a file is cut at the first that is out of reach', () => {
    // Counted by hand: sectors 33, 34 are 15 and 16 of the second side of track 0, 40 is 4 of the
    // first side of track 1; so of 1200 bytes the last 176 are read, and none before them.
    const set = { ...high, sectorsPerTrack: 15 };
    const { files, directory } = filesWithin(set, high, disk);
    expect(files[0]).toEqual({
      name: 'LETTER.TXT',
      bytes: 1200,
      within: 176,
      upTo: 0,
      state: 'lost',
    });
    // The root lies on sectors 19 to 32: 1 to 14 of the second side.
    expect(directory).toBe(true);
    const long = files[1]!;
    // Sectors 81 to 110: 9 to 17, then 0 to 17, then 0 to 2 of their sides; 15, 16, 17 are lost twice.
    expect(long.within).toBe(24 * 512);
    expect(long.upTo).toBe(6 * 512);
    expect(long.state).toBe('cut');
  });
  it('with one side, half of the sectors', () => {
    const { files } = filesWithin({ ...high, sides: 1 }, high, disk);
    expect(files[0]).toMatchObject({ within: 176, state: 'lost' });
  });
  it('with another rate or sector size nothing', () => {
    for (const set of [
      { ...high, bitsPerSecond: 250_000 },
      { ...high, bytesPerSector: 1024 },
    ])
      expect(filesWithin(set, high, disk).files.every(({ within }) => within === 0)).toBe(true);
  });
  it('what the image says of its layout goes before what was chosen', () => {
    const chosen = { ...high, sectorsPerTrack: 9, bitsPerSecond: high.bitsPerSecond };
    expect(filesWithin(high, chosen, disk).files.map(({ state }) => state)).toEqual([
      'whole',
      'whole',
    ]);
  });
});
