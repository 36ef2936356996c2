import type { Part } from '../schema';

/** How a value that is not known is written in every file. */
export const NOT_KNOWN = '?';

/**
 * What takes the place of a value that is not known, in the middle of what is sold. From memory of
 * common parts lists.
 */
const STAND_IN = {
  resistor: { resistanceOhm: 4700 },
  capacitor: { capacitanceFarad: 1e-6 },
  inductor: { inductanceHenry: 1e-4 },
} as const;

type Valued = keyof typeof STAND_IN;
type Named = Omit<
  Extract<Part, { kind: Valued }>,
  'kind' | 'resistanceOhm' | 'capacitanceFarad' | 'inductanceHenry'
>;

const isValued = (kind: unknown): kind is Valued => typeof kind === 'string' && kind in STAND_IN;
const fieldOf = (kind: Valued): string => Object.keys(STAND_IN[kind])[0]!;

/** A part of which only the place is known. */
export function unknownPart(kind: Valued, base: Named): Part {
  return { kind, ...base, ...STAND_IN[kind], unknown: true } as Part;
}

/**
 * Values of a board's file that are not known, with their stand-ins; `?` for an ESR, a dcr or rated
 * volts is as if nothing were there. Anything else is left as it is.
 */
export function withStandIns(raw: unknown): unknown {
  if (typeof raw !== 'object' || raw === null || !Array.isArray((raw as { parts?: unknown }).parts))
    return raw;
  const { parts } = raw as { parts: unknown[] };
  return {
    ...raw,
    parts: parts.map((part) =>
      typeof part === 'object' && part !== null
        ? withStandIn(part as Record<string, unknown>)
        : part,
    ),
  };
}

function withStandIn(part: Record<string, unknown>): unknown {
  const { kind } = part;
  if (!isValued(kind) || !Object.values(part).includes(NOT_KNOWN)) return part;
  const known = Object.entries(part).filter(([key, value]) => key === 'ref' || value !== NOT_KNOWN);
  return {
    ...Object.fromEntries(known),
    ...(part[fieldOf(kind)] === NOT_KNOWN ? { ...STAND_IN[kind], unknown: true } : {}),
  };
}

/** A part as a file has it: `?` where the value is not known. */
export function asWritten(part: Part): unknown {
  if (!('unknown' in part) || !part.unknown) return part;
  const rest = Object.entries(part).filter(([key]) => key !== 'unknown');
  return { ...Object.fromEntries(rest), [fieldOf(part.kind)]: NOT_KNOWN };
}
