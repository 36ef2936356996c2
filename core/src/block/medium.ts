import { z } from 'zod';

/** How a disk is laid out, or how a drive or host is set to lay it out. rate: bits per second. */
export const DiskGeometry = z.object({
  name: z.string().min(1).max(80),
  source: z.string().min(1).max(200),
  tracksPerSide: z.number().int().min(1).max(500),
  sides: z.number().int().min(1).max(2),
  sectorsPerTrack: z.number().int().min(1).max(60),
  bytesPerSector: z.number().int().min(64).max(8192),
  bitsPerSecond: z.number().int().min(10_000).max(10_000_000),
  revPerMinute: z.number().min(30).max(3000),
  tracksPerInch: z.number().min(10).max(1000),
  /** Field that turns the coating, oersted: what a drive writes with and the medium asks for. */
  coerciveOersted: z.number().min(100).max(3000).optional(),
  /**
   * Where the directory of the usual format lies, as a share of the way from the outermost track
   * (0) to the innermost (1); undefined where formats differ.
   */
  directoryAt: z.number().min(0).max(1).optional(),
});
export type DiskGeometry = z.infer<typeof DiskGeometry>;

/** Formatted capacity, bytes. */
export function capacityBytes({
  tracksPerSide,
  sides,
  sectorsPerTrack,
  bytesPerSector,
}: DiskGeometry): number {
  return tracksPerSide * sides * sectorsPerTrack * bytesPerSector;
}

/** Bits that pass the head in one turn, unformatted. */
export function bitsPerTurn({ bitsPerSecond, revPerMinute }: DiskGeometry): number {
  return (bitsPerSecond * 60) / revPerMinute;
}

/** One way in which drive or host and medium do not go together. */
export interface Mismatch {
  readonly quantity:
    'coating' | 'sectors' | 'tracks' | 'sides' | 'rate' | 'speed' | 'track width' | 'sector size';
  /** Share of the medium that cannot be reached, 0 to 1. */
  readonly outOfReach: number;
  readonly words: string;
}

export interface MediumForecast {
  readonly mismatches: readonly Mismatch[];
  /** Operations in the order of their demands: which work and which fail. */
  readonly operations: readonly {
    readonly name: string;
    readonly works: 'yes' | 'no' | 'in part';
    readonly because: string;
  }[];
  /** Share of the medium out of reach altogether. */
  readonly outOfReach: number;
}

/**
 * A data rate or speed that differs by more than this share is not followed. Common practice, no
 * published source: separators pull in some 5 to 10 %.
 */
const PULL_IN = 0.08;
const SPEED_SLACK = 0.03;

/**
 * Predicts which operations fail when a drive or host set one way meets a medium laid out another
 * way.
 */
export function forecast(set: DiskGeometry, medium: DiskGeometry): MediumForecast {
  const mismatches = [
    ...unreadable(set, medium),
    ...outOfReach(set, medium),
    ...coating(set, medium),
  ];
  const blocked = mismatches.filter((m) => m.outOfReach >= 1);
  const coatings = mismatches.filter(({ quantity }) => quantity === 'coating');
  const partial = mismatches.filter((m) => m.outOfReach > 0 && m.outOfReach < 1);
  const reach =
    blocked.length > 0 ? 0 : partial.reduce((product, m) => product * (1 - m.outOfReach), 1);
  const why = (list: readonly Mismatch[]): string => list.map(({ words }) => words).join('; ');
  const state = (affected: readonly Mismatch[]): 'yes' | 'no' | 'in part' =>
    blocked.length > 0 ? 'no' : affected.length > 0 ? 'in part' : 'yes';
  const fine = 'nothing stands against it';
  const operations: MediumForecast['operations'] = [
    { name: 'find track 0', works: 'yes', because: 'needs no data from the medium' },
    {
      name: 'read any sector',
      works: blocked.length > 0 ? 'no' : 'yes',
      because: why(blocked) || fine,
    },
    directory(set, medium, blocked, why),
    {
      name: 'read a short file',
      works: blocked.length > 0 ? 'no' : 'yes',
      because:
        why(blocked) ||
        (partial.length > 0 ? 'it passes while it stays on sectors within reach' : fine),
    },
    {
      name: 'read a long file',
      works: state(partial),
      because: why([...blocked, ...partial]) || fine,
    },
    {
      name: 'read the whole medium',
      works: blocked.length > 0 || partial.length > 0 ? 'no' : 'yes',
      because: why([...blocked, ...partial]) || fine,
    },
    {
      name: 'format',
      works:
        coatings.length > 0 || blocked.some(({ quantity }) => quantity === 'track width')
          ? 'no'
          : mismatches.length > 0
            ? 'in part'
            : 'yes',
      because:
        why(coatings) ||
        (mismatches.length > 0
          ? `the medium gets the layout that is set, and what is on it is lost: ${why(mismatches)}`
          : 'nothing stands against it, but what is on it is lost'),
    },
  ];
  return { mismatches, operations, outOfReach: 1 - reach };
}

/**
 * Whether the directory is reached depends on where the format puts it: on the outer tracks, or in
 * the middle.
 */
function directory(
  set: DiskGeometry,
  medium: DiskGeometry,
  blocked: readonly Mismatch[],
  why: (list: readonly Mismatch[]) => string,
): MediumForecast['operations'][number] {
  const name = 'list the directory';
  if (blocked.length > 0) return { name, works: 'no', because: why(blocked) };
  if (medium.directoryAt === undefined)
    return {
      name,
      works: set.sectorsPerTrack < medium.sectorsPerTrack ? 'in part' : 'yes',
      because: 'where it lies differs between formats',
    };
  const stepped = medium.directoryAt * medium.tracksPerSide < set.tracksPerSide;
  const place =
    medium.directoryAt < 0.1
      ? 'it lies on the outermost track'
      : medium.directoryAt < 0.6
        ? 'it lies on the middle tracks'
        : 'it lies on the inner tracks';
  return {
    name,
    works: stepped ? 'yes' : 'no',
    because: stepped ? place : `${place}, which are never stepped to`,
  };
}

/**
 * A coating that asks for another field than the drive writes with: from this ratio on, what is
 * written does not last or does not take. Common practice, no published source.
 */
const COATING_RATIO = 1.5;

/** Read it can be; writing on it fails or fades. */
function coating(set: DiskGeometry, medium: DiskGeometry): Mismatch[] {
  if (set.coerciveOersted === undefined || medium.coerciveOersted === undefined) return [];
  const ratio = medium.coerciveOersted / set.coerciveOersted;
  if (Math.max(ratio, 1 / ratio) < COATING_RATIO) return [];
  const words =
    ratio > 1
      ? 'the drive writes too weakly for this coating: formats badly, reads back today and not tomorrow'
      : 'the drive writes too strongly for this coating: neighbours blur, and the old drive no longer erases it';
  return [
    {
      quantity: 'coating',
      outOfReach: 0,
      words: `${medium.coerciveOersted} Oe against ${set.coerciveOersted} Oe: ${words}`,
    },
  ];
}

/** Differences that keep every sector from being read. */
function unreadable(set: DiskGeometry, medium: DiskGeometry): Mismatch[] {
  const found: Mismatch[] = [];
  // What counts is the rate at which bits come off the medium in this drive.
  const comes = (medium.bitsPerSecond / medium.revPerMinute) * set.revPerMinute;
  if (Math.abs(comes / set.bitsPerSecond - 1) > PULL_IN)
    found.push({
      quantity: 'rate',
      outOfReach: 1,
      words: `bits come at ${Math.round(comes / 1000)} kbit/s and ${set.bitsPerSecond / 1000} kbit/s are expected`,
    });
  else if (Math.abs(set.revPerMinute / medium.revPerMinute - 1) > SPEED_SLACK)
    found.push({
      quantity: 'speed',
      outOfReach: 0,
      words: `${set.revPerMinute} rev/min against ${medium.revPerMinute}: it reads, but what is written has another length`,
    });
  if (set.bytesPerSector !== medium.bytesPerSector)
    found.push({
      quantity: 'sector size',
      outOfReach: 1,
      words: `sectors of ${medium.bytesPerSector} bytes where ${set.bytesPerSector} are expected`,
    });
  return found;
}

/** Differences that leave part of the medium out of reach. */
function outOfReach(set: DiskGeometry, medium: DiskGeometry): Mismatch[] {
  const found: Mismatch[] = [];
  const less = (had: number, wanted: number): number => Math.max(0, 1 - had / wanted);
  const sectors = less(set.sectorsPerTrack, medium.sectorsPerTrack);
  if (set.sectorsPerTrack !== medium.sectorsPerTrack)
    found.push({
      quantity: 'sectors',
      outOfReach: sectors,
      words:
        sectors > 0
          ? `set for ${set.sectorsPerTrack} of ${medium.sectorsPerTrack} sectors: ${fraction(sectors)} of each track is out of reach`
          : `asks for ${set.sectorsPerTrack} sectors where ${medium.sectorsPerTrack} are: the last ones are never found`,
    });
  if (
    set.tracksPerSide < medium.tracksPerSide &&
    Math.abs(set.tracksPerInch / medium.tracksPerInch - 1) < 0.05
  )
    found.push({
      quantity: 'tracks',
      outOfReach: less(set.tracksPerSide, medium.tracksPerSide),
      words: `${medium.tracksPerSide - set.tracksPerSide} inner tracks are never stepped to`,
    });
  if (set.sides < medium.sides)
    found.push({ quantity: 'sides', outOfReach: 0.5, words: 'the second side is never read' });
  const ratio = set.tracksPerInch / medium.tracksPerInch;
  if (ratio < 0.95)
    found.push({
      quantity: 'track width',
      outOfReach: 1,
      words: `the head is ${(1 / ratio).toFixed(1)} times as wide as a track: it reads two at once`,
    });
  if (ratio > 1.05)
    found.push({
      quantity: 'track width',
      outOfReach: 0,
      words: `the head covers ${Math.round(100 / ratio)} % of a track: read with double steps; what it writes, a wide head no longer reads well`,
    });
  return found;
}

/** A share as a fraction where it is a plain one: `1/6`. */
function fraction(share: number): string {
  for (let d = 2; d <= 12; d += 1)
    if (Math.abs(share * d - Math.round(share * d)) < 1e-9) return `${Math.round(share * d)}/${d}`;
  return `${Math.round(100 * share)} %`;
}
