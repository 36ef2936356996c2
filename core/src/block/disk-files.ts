import { forecast, type DiskGeometry } from './medium';

/** A file on a disk, by the sectors that it lies on: counted from 0 by track, side and sector. */
export interface FileOnDisk {
  readonly name: string;
  readonly bytes: number;
  readonly sectors: readonly number[];
}

/** What a disk holds, as its image or a listing of its directory says. */
export interface DiskContents {
  /** How its image says that it is laid out; undefined where nothing says so. */
  readonly layout:
    | Pick<DiskGeometry, 'sectorsPerTrack' | 'sides' | 'bytesPerSector' | 'tracksPerSide'>
    | undefined;
  readonly directory: readonly number[];
  readonly files: readonly FileOnDisk[];
  /** What could not be read, or was taken for granted, in words. */
  readonly notes: readonly string[];
}

export type DiskRead =
  | { readonly ok: true; readonly contents: DiskContents }
  | { readonly ok: false; readonly what: string; readonly expected: string };

/** What of a file is within reach. upTo: bytes from its beginning before the first that is not. */
export interface FileWithin {
  readonly name: string;
  readonly bytes: number;
  readonly within: number;
  readonly upTo: number;
  readonly state: 'whole' | 'cut' | 'lost';
}

export interface FilesWithin {
  readonly files: readonly FileWithin[];
  /** Whether the directory itself is within reach; undefined where nobody knows where it lies. */
  readonly directory: boolean | undefined;
}

/** No flexible disk holds more. */
export const MOST_IMAGE_BYTES = 4 * 1024 * 1024;
const MOST_FILES = 2000;
const MOST_LINES = 4000;
/** An entry of a directory, bytes. Source: ECMA-107, second edition, section 11. */
const ENTRY_BYTES = 32;
const DELETED = 0xe5;
const ATTRIBUTE = { volume: 0x08, directory: 0x10 } as const;

/**
 * Reads the directory out of a sector image of a disk with file allocation tables of 12 or 16 bits.
 * Source: ECMA-107 (ISO/IEC 9293), Volume and File Structure of Disk Cartridges for Information
 * Interchange. Other systems' images are refused: type their directory as a list.
 */
export function readDiskImage(image: Uint8Array): DiskRead {
  const no = (what: string): DiskRead => ({
    ok: false,
    what,
    expected: 'an image by sectors of a disk as ECMA-107 has it; else type its directory',
  });
  if (image.length > MOST_IMAGE_BYTES) return no('larger than any flexible disk');
  const view = new DataView(image.buffer, image.byteOffset, image.byteLength);
  const half = (at: number): number => (at + 2 <= view.byteLength ? view.getUint16(at, true) : 0);
  const byte = (at: number): number => image[at] ?? 0;
  const bytesPerSector = half(11);
  const [perCluster, reserved, tables, rootEntries] = [byte(13), half(14), byte(16), half(17)];
  const [total, perTable, sectorsPerTrack, sides] = [half(19), half(22), half(24), half(26)];
  const isPower = (n: number): boolean => n > 0 && (n & (n - 1)) === 0;
  if (
    !isPower(bytesPerSector) ||
    bytesPerSector < 128 ||
    bytesPerSector > 4096 ||
    !isPower(perCluster) ||
    reserved === 0 ||
    tables === 0 ||
    tables > 4 ||
    rootEntries === 0 ||
    perTable === 0 ||
    total === 0 ||
    sectorsPerTrack === 0 ||
    sectorsPerTrack > 60 ||
    sides === 0 ||
    sides > 2
  )
    return no('its first sector does not say how it is laid out');
  const root = reserved + tables * perTable;
  const rootSectors = Math.ceil((rootEntries * ENTRY_BYTES) / bytesPerSector);
  const data = root + rootSectors;
  if (data >= total) return no('its first sector leaves no room for files');
  const clusters = Math.floor((total - data) / perCluster);
  const table = reserved * bytesPerSector;
  // 4085 and more clusters are counted in 16 bits: ECMA-107, section 10.
  const is12 = clusters < 4085;
  const next = (cluster: number): number => {
    if (!is12) return half(table + 2 * cluster);
    const pair = half(table + Math.floor(1.5 * cluster));
    return cluster % 2 === 0 ? pair & 0xfff : pair >> 4;
  };
  const isCluster = (n: number): boolean => n >= 2 && n < clusters + 2;
  const notes: string[] = [];
  if (image.length < total * bytesPerSector)
    notes.push(
      `the image ends after ${image.length} of ${total * bytesPerSector} bytes: what lies behind is as the tables have it`,
    );
  /** The sectors of a chain, no more than so many bytes need. */
  const chain = (first: number, bytes: number): number[] => {
    const sectors: number[] = [];
    const seen = new Set<number>();
    const wanted = Math.ceil(bytes / bytesPerSector);
    for (let at = first; isCluster(at) && !seen.has(at) && sectors.length < wanted; at = next(at)) {
      seen.add(at);
      for (let i = 0; i < perCluster && sectors.length < wanted; i += 1)
        sectors.push(data + (at - 2) * perCluster + i);
    }
    return sectors;
  };
  const files: FileOnDisk[] = [];
  const visited = new Set<number>();
  const directory = Array.from({ length: rootSectors }, (_, i) => root + i);
  const read = (sectors: readonly number[], path: string): void => {
    for (const sector of sectors)
      for (let i = 0; i < bytesPerSector / ENTRY_BYTES; i += 1) {
        const at = sector * bytesPerSector + i * ENTRY_BYTES;
        if (at + ENTRY_BYTES > image.length || byte(at) === 0) return;
        if (files.length >= MOST_FILES) return;
        const attributes = byte(at + 11);
        if (byte(at) === DELETED || byte(at) === 0x2e || attributes & ATTRIBUTE.volume) continue;
        const name = `${path}${nameAt(image, at)}`;
        const first = half(at + 26);
        if (attributes & ATTRIBUTE.directory) {
          if (visited.has(first) || visited.size > MOST_FILES) continue;
          visited.add(first);
          const own = chain(first, MOST_IMAGE_BYTES);
          directory.push(...own);
          read(own, `${name}/`);
          continue;
        }
        const bytes = half(at + 28) + 65536 * half(at + 30);
        const own = chain(first, bytes);
        if (own.length < Math.ceil(bytes / bytesPerSector))
          notes.push(`${name}: its chain of sectors ends early, the tables are damaged`);
        files.push({ name, bytes: Math.min(bytes, total * bytesPerSector), sectors: own });
      }
  };
  read(directory.slice(), '');
  return {
    ok: true,
    contents: {
      layout: {
        sectorsPerTrack,
        sides,
        bytesPerSector,
        tracksPerSide: Math.ceil(total / (sectorsPerTrack * sides)),
      },
      directory,
      files,
      notes: notes.slice(0, 20),
    },
  };
}

function nameAt(image: Uint8Array, at: number): string {
  const text = (from: number, to: number): string =>
    [...image.subarray(at + from, at + to)]
      .map((code) => (code >= 0x20 && code < 0x7f ? String.fromCharCode(code) : '?'))
      .join('')
      .trimEnd();
  const [name, extension] = [text(0, 8), text(8, 11)];
  return extension ? `${name}.${extension}` : name;
}

/**
 * Reads a listing of a directory: a file a line, its name and its bytes (`LETTER.TXT 12,345`,
 * `LETTER TXT 12K`), and the sector where it begins where somebody knows it (`@ 120`). Without one,
 * files are taken to lie one behind the other from where they can begin, as on a disk that was
 * written once. What is no such line is left out and counted.
 */
export function readDiskListing(text: string, medium: DiskGeometry): DiskRead {
  const files: FileOnDisk[] = [];
  let [skipped, from] = [0, firstSectorFor(medium)];
  for (const line of text.split(/\r?\n/).slice(0, MOST_LINES)) {
    const said = line.trim();
    if (said === '') continue;
    const [, name, size, kilo, at] =
      /^([^\s\d][^\s]*(?:\s+[^\s\d][^\s]{0,2})?)\s+(\d[\d.,']*)\s*(k)?\b(?:.*@\s*(\d{1,5}))?/i.exec(
        said,
      ) ?? [];
    const bytes = Number((size ?? '').replace(/[.,']/g, '')) * (kilo ? 1024 : 1);
    if (!name || !Number.isSafeInteger(bytes) || files.length >= MOST_FILES) {
      skipped += 1;
      continue;
    }
    const sectors = Math.ceil(Math.min(bytes, MOST_IMAGE_BYTES) / medium.bytesPerSector);
    const first = at === undefined ? from : Number(at);
    files.push({
      name: name.replace(/\s+/, '.'),
      bytes: Math.min(bytes, MOST_IMAGE_BYTES),
      sectors: Array.from({ length: sectors }, (_, i) => first + i),
    });
    from = first + sectors;
  }
  if (files.length === 0)
    return {
      ok: false,
      what: 'no line of it is a file',
      expected: 'a name and its bytes on a line, for example LETTER.TXT 12345',
    };
  return {
    ok: true,
    contents: {
      layout: undefined,
      directory: [],
      files,
      notes: [
        ...(files.some(({ sectors }) => sectors.length > 0) && !/@\s*\d/.test(text)
          ? [
              'taken to lie one behind the other: a disk that was written often is not laid like that',
            ]
          : []),
        ...(skipped > 0 ? [`${skipped} ${skipped === 1 ? 'line is' : 'lines are'} no file`] : []),
      ],
    },
  };
}

/** The first sector that a file can have: behind the directory where the usual format says where. */
function firstSectorFor({ directoryAt, sides, sectorsPerTrack }: DiskGeometry): number {
  return directoryAt === 0 ? 2 * sides * sectorsPerTrack : 0;
}

/**
 * What of each file is within reach where a drive or host that is set one way reads it. medium: how
 * the disk is laid out; an image that says so itself goes before.
 */
export function filesWithin(
  set: DiskGeometry,
  medium: DiskGeometry,
  { files, directory, layout }: DiskContents,
): FilesWithin {
  const own = { ...medium, ...layout };
  const isBlocked = forecast(set, own).outOfReach >= 1;
  const isReached = (sector: number): boolean => {
    const track = Math.floor(sector / (own.sectorsPerTrack * own.sides));
    const side = Math.floor(sector / own.sectorsPerTrack) % own.sides;
    return (
      !isBlocked &&
      track < set.tracksPerSide &&
      side < set.sides &&
      sector % own.sectorsPerTrack < set.sectorsPerTrack
    );
  };
  return {
    directory: directory.length === 0 ? undefined : directory.every(isReached),
    files: files.map(({ name, bytes, sectors }) => {
      const share = (i: number): number =>
        Math.max(0, Math.min(own.bytesPerSector, bytes - i * own.bytesPerSector));
      const reached = sectors.map(isReached);
      const within = reached.reduce((sum, is, i) => sum + (is ? share(i) : 0), 0);
      const firstLost = reached.indexOf(false);
      // Sectors that no table names are out of reach, too.
      const upTo =
        firstLost < 0
          ? Math.min(bytes, sectors.length * own.bytesPerSector)
          : firstLost * own.bytesPerSector;
      const state = within === bytes ? 'whole' : upTo > 0 ? 'cut' : 'lost';
      return { name, bytes, within, upTo, state };
    }),
  };
}
