import { z } from 'zod';

/**
 * What a connector pin is. identity: a line whose level tells the other side what is plugged in.
 */
export const PinUse = z.enum([
  'supply',
  'ground',
  'output',
  'input',
  'both',
  'open-collector',
  'identity',
  'empty',
]);
export type PinUse = z.infer<typeof PinUse>;

export const ConnectorPin = z.object({
  pin: z.string().min(1).max(8),
  name: z.string().min(1).max(40),
  use: PinUse,
  volt: z.number().min(-100).max(400).optional(),
  /** A pull-up on this side of the line. */
  pullUp: z.boolean().optional(),
});
export type ConnectorPin = z.infer<typeof ConnectorPin>;

/** One side of a connection. */
export const PinOut = z.object({
  title: z.string().min(1).max(120),
  pins: z.array(ConnectorPin).min(1).max(200),
});
export type PinOut = z.infer<typeof PinOut>;

/** Something wrong with one pin of a straight cable. harm: it can destroy something. */
export interface PinClash {
  readonly pin: string;
  readonly level: 'harm' | 'fault' | 'note';
  readonly words: string;
}

/** One wire of the cable that would work. from and to: pins of the two sides; to undefined: cut. */
export interface WireAdvice {
  readonly from: string;
  readonly to: string | undefined;
  readonly words: string;
}

export interface PinOutComparison {
  readonly clashes: readonly PinClash[];
  readonly wiring: readonly WireAdvice[];
  /** What to measure before the unit is attached. */
  readonly measureFirst: readonly string[];
}

/**
 * Two supplies that differ by more than this share are different ones. Common practice, no
 * published source.
 */
const SAME_SUPPLY = 0.05;

const isSupply = (pin: ConnectorPin): boolean => pin.use === 'supply';
const drives = ({ use }: ConnectorPin): boolean => use === 'output' || use === 'supply';

/**
 * Compares two sides of a connection, as a straight cable would join them, pin by pin; and works
 * out the wiring that joins like-named lines instead.
 */
export function comparePinOuts(one: PinOut, other: PinOut): PinOutComparison {
  const there = new Map(other.pins.map((pin) => [pin.pin, pin]));
  const clashes = one.pins.flatMap((pin) =>
    clashOf(pin, there.get(pin.pin), one.title, other.title),
  );
  return {
    clashes: [...clashes].sort((a, b) => RANK[a.level] - RANK[b.level]),
    wiring: wiringOf(one, other),
    measureFirst: measuresOf(one, other, clashes),
  };
}

const RANK = { harm: 0, fault: 1, note: 2 } as const;

function clashOf(
  a: ConnectorPin,
  b: ConnectorPin | undefined,
  mine: string,
  theirs: string,
): PinClash[] {
  const clash = (level: PinClash['level'], words: string): PinClash[] => [
    { pin: a.pin, level, words },
  ];
  if (!b || b.use === 'empty')
    return a.use === 'identity'
      ? clash(
          'fault',
          `identity line ${a.name} of ${mine} is left open: it reads as the other kind`,
        )
      : [];
  if (a.use === 'empty')
    return b.use === 'identity'
      ? clash(
          'fault',
          `identity line ${b.name} of ${theirs} is left open: it reads as the other kind`,
        )
      : [];
  const [supply, rest, owner] = isSupply(a)
    ? [a, b, theirs]
    : isSupply(b)
      ? [b, a, mine]
      : [undefined, undefined, ''];
  if (supply && rest) {
    if (rest.use === 'ground')
      return clash('harm', `${supply.name} meets ground of ${owner}: a short across the supply`);
    if (!isSupply(rest))
      return clash(
        'harm',
        `${supply.name} meets ${rest.name} of ${owner}: a signal pin gets the supply`,
      );
    const [p, q] = [supply.volt, rest.volt];
    return p !== undefined &&
      q !== undefined &&
      Math.abs(p - q) > SAME_SUPPLY * Math.max(Math.abs(p), Math.abs(q))
      ? clash('harm', `${p} V meets ${q} V`)
      : [];
  }
  if ((a.use === 'ground') !== (b.use === 'ground')) {
    const signal = a.use === 'ground' ? b : a;
    return signal.use === 'output'
      ? clash('harm', `output ${signal.name} is held at ground`)
      : clash('fault', `${signal.name} is held at ground`);
  }
  if (a.use === 'output' && b.use === 'output')
    return clash('harm', `two outputs against each other: ${a.name} and ${b.name}`);
  if (a.use === 'input' && b.use === 'input')
    return clash('fault', `two inputs and nobody drives: ${a.name} and ${b.name}`);
  if ((a.use === 'open-collector' || b.use === 'open-collector') && !a.pullUp && !b.pullUp)
    return clash(
      'fault',
      `open-collector line ${a.name} has no pull-up on either side: it never shows a 1`,
    );
  if (normal(a.name) !== normal(b.name) && a.use !== 'ground')
    return clash('note', `${a.name} here, ${b.name} there: the same line?`);
  return [];
}

const normal = (name: string): string => name.toLowerCase().replace(/[^a-z0-9+]/g, '');

/**
 * Joins lines of the same name; grounds with grounds; cuts what would do harm or has no partner.
 */
function wiringOf(one: PinOut, other: PinOut): WireAdvice[] {
  const left = other.pins.filter(({ use }) => use !== 'empty');
  const take = (test: (pin: ConnectorPin) => boolean): ConnectorPin | undefined => {
    const at = left.findIndex(test);
    return at < 0 ? undefined : left.splice(at, 1)[0];
  };
  return one.pins.flatMap((pin): WireAdvice[] => {
    if (pin.use === 'empty') return [];
    const partner =
      pin.use === 'ground'
        ? (take((b) => b.use === 'ground' && b.pin === pin.pin) ?? take((b) => b.use === 'ground'))
        : take(
            (b) =>
              normal(b.name) === normal(pin.name) &&
              b.use !== 'ground' &&
              (b.use === 'supply') === (pin.use === 'supply') &&
              !(drives(b) && drives(pin) && pin.use === 'output'),
          );
    if (!partner)
      return [
        { from: pin.pin, to: undefined, words: `cut ${pin.pin} (${pin.name}): it has no partner` },
      ];
    return [
      {
        from: pin.pin,
        to: partner.pin,
        words:
          pin.pin === partner.pin
            ? `${pin.name} straight through`
            : `link ${pin.pin} to ${partner.pin} (${pin.name})`,
      },
    ];
  });
}

function measuresOf(one: PinOut, other: PinOut, clashes: readonly PinClash[]): string[] {
  const supplies = [
    ...one.pins.map((pin) => ({ pin, of: one.title })),
    ...other.pins.map((pin) => ({ pin, of: other.title })),
  ].filter(({ pin }) => isSupply(pin));
  return [
    ...supplies.map(
      ({ pin, of }) =>
        `ohms from pin ${pin.pin} (${pin.name}) of ${of} to its ground, nothing attached`,
    ),
    ...supplies
      .filter(({ pin }) => pin.volt !== undefined)
      .map(
        ({ pin, of }) =>
          `volts on pin ${pin.pin} of ${of} where it is the one that feeds: ${pin.volt} V`,
      ),
    ...clashes
      .filter(({ level }) => level === 'harm')
      .map(({ pin }) => `that pin ${pin} is really cut: no continuity through the cable`),
  ];
}
