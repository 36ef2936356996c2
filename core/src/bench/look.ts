import { z } from 'zod';
import {
  GROUND,
  nameKey,
  pinName,
  replaceableRef,
  type BoardIndex,
  type Part,
  type PinPlace,
} from '../board';

/** What the eye finds on a board. */
export const FindingKind = z.enum([
  'leak',
  'crust',
  'burn',
  'cracked-joint',
  'lifted-pad',
  'cut-track',
  'raised-socket',
  'brown-glue',
  'foreign-body',
  'earlier-work',
  'missing-part',
  'battery-leak',
  'bulged-capacitor',
  'cracked-line-filter',
]);
export type FindingKind = z.infer<typeof FindingKind>;

/**
 * The edge of a board that was down in the unit: what runs, runs there. `flat`: it lay, and nothing
 * ran.
 */
export const DownEdge = z.enum(['bottom', 'top', 'left', 'right', 'flat']);
export type DownEdge = z.infer<typeof DownEdge>;
const DOWN: Readonly<Record<DownEdge, readonly [number, number]>> = {
  bottom: [0, 1],
  top: [0, -1],
  left: [-1, 0],
  right: [1, 0],
  flat: [0, 0],
};

/** What a kind of finding does to what lies near it. */
export interface FindingRule {
  readonly title: string;
  /** How far it works beyond its own size, mm. */
  readonly reachMm: number;
  /** What it multiplies the odds of the parts and joints in its middle by. */
  readonly factor: number;
  /** Whether it runs down where the board stands upright. */
  readonly runsDown: boolean;
  /** Whether it counts for parts on the same net beyond its reach. */
  readonly followsNet: boolean;
  /** How to take a part off there. */
  readonly removal: string;
  readonly caution?: string;
  /** Whether it also bites when power comes on. */
  readonly withPower?: true;
}

/** Common practice, no published source; reaches and factors from memory of bench practice. */
// prettier-ignore
export const FINDING_RULES: Readonly<Record<FindingKind, FindingRule>> = {
  leak: { title: 'leaked electrolyte', reachMm: 8, factor: 8, runsDown: true, followsNet: true, removal: 'hot air or iron with fresh solder, never a cold pull: the pad comes with it', caution: 'gloves; wash skin at once; it conducts and eats copper' },
  crust: { title: 'crust or green', reachMm: 5, factor: 6, runsDown: true, followsNet: true, removal: 'clean first, then fresh solder; pads here are weak' },
  burn: { title: 'burn', reachMm: 6, factor: 8, runsDown: false, followsNet: true, removal: 'charred board conducts: scrape to clean laminate before anything is fitted', caution: 'char dust: damp, not dry; do not breathe it' },
  'cracked-joint': { title: 'cracked joint', reachMm: 1.5, factor: 20, runsDown: false, followsNet: false, removal: 'solder it again before the part is condemned' },
  'lifted-pad': { title: 'lifted pad', reachMm: 1.5, factor: 15, runsDown: false, followsNet: false, removal: 'wire from the leg to a proven point of the same net, short' },
  'cut-track': { title: 'cut or eaten track', reachMm: 2, factor: 15, runsDown: false, followsNet: true, removal: 'scrape the mask on both sides and bridge; mind what the track passes' },
  'raised-socket': { title: 'raised socket or chip', reachMm: 3, factor: 10, runsDown: false, followsNet: false, removal: 'press it home and look again before anything is measured' },
  'brown-glue': { title: 'glue gone brown', reachMm: 4, factor: 4, runsDown: false, followsNet: false, removal: 'take the glue off first: warm it, lift it with wood; it conducts when brown', caution: 'gloves; warm glue fumes: air out; no dry dust' },
  'foreign-body': { title: 'foreign body', reachMm: 3, factor: 6, runsDown: false, followsNet: false, removal: 'out with it, photograph it, then measure for what it bridged' },
  'earlier-work': { title: 'earlier work', reachMm: 4, factor: 5, runsDown: false, followsNet: false, removal: 'compare with a sister board before it is undone' },
  'battery-leak': { title: 'leaked battery', reachMm: 12, factor: 8, runsDown: true, followsNet: true, removal: 'battery out first, then wash it off (an alkaline one with weak vinegar, then water and alcohol); ring out every track near it', caution: 'gloves and goggles: lye or acid; wash skin at once' },
  'bulged-capacitor': { title: 'bulged capacitor', reachMm: 2, factor: 25, runsDown: false, followsNet: true, removal: 'discharge it first; hot air or iron with fresh solder', caution: 'eyes covered: it may vent; never powered with the face over it', withPower: true },
  'cracked-line-filter': { title: 'cracked line-filter capacitor', reachMm: 2, factor: 40, runsDown: false, followsNet: false, removal: 'unplugged and discharged; only X class (line to line) or Y class (line to chassis) goes back', caution: 'no power until it is replaced: it smokes and burns', withPower: true },
  'missing-part': { title: 'part missing', reachMm: 2, factor: 10, runsDown: false, followsNet: false, removal: 'find out what belongs there: schematic, sister board, silk screen' },
};

/** Something found, placed on the board outline. */
export interface PlacedFinding {
  readonly id: string;
  readonly what: FindingKind;
  readonly xMm: number;
  readonly yMm: number;
  /** Across, mm. */
  readonly sizeMm: number;
  /** How sure the eye is, 0 to 1. */
  readonly certainty: number;
  /** The edge of the board that was down in the unit. Default: the bottom. */
  readonly down?: DownEdge | undefined;
}

/** A part that a finding speaks of. */
export interface Touched {
  readonly ref: string;
  readonly finding: string;
  readonly factor: number;
  readonly distanceMm: number;
  readonly reason: string;
}

/** How much further down than sideways what runs down reaches. From memory of bench practice. */
const DOWN_STRETCH = 2;
/**
 * Ground is wide copper and rarely eaten through: its checks count for less. From memory of bench
 * practice.
 */
const GROUND_SHARE = 0.5;
/**
 * Share of the effect that parts on a net keep that passes through the finding but which lie beyond
 * its reach.
 */
const NET_SHARE = 0.15;
/** No look makes a part more than so many times as likely. */
const MOST_FACTOR = 40;

/** A part or pin of the board with a place. */
interface Placed {
  readonly part: Part;
  readonly pin: PinPlace;
  readonly x: number;
  readonly y: number;
}

/** Every pin with a place: its own where the board file gives it, else the middle of its part. */
function placedThings(index: BoardIndex): Placed[] {
  return index.board.parts.flatMap((part): Placed[] =>
    part.pins.flatMap((name, i): Placed[] => {
      const at = part.pinPositionsMm?.[i] ?? part.positionMm;
      return at
        ? [
            {
              part,
              pin: { part, index: i, net: index.netByKey.get(nameKey(name))! },
              x: at[0],
              y: at[1],
            },
          ]
        : [];
    }),
  );
}

/**
 * How strongly a finding works at a place: 1 within it, falling off over its reach, stretched
 * towards the edge that was down for what runs.
 */
function strength(finding: PlacedFinding, rule: FindingRule, x: number, y: number): number {
  const [dx, dy] = [x - finding.xMm, y - finding.yMm];
  const [ux, uy] = DOWN[finding.down ?? 'bottom'];
  const along = dx * ux + dy * uy;
  const shrink = rule.runsDown && along > 0 ? along * (1 - 1 / DOWN_STRETCH) : 0;
  const beyond = Math.max(0, Math.hypot(dx - shrink * ux, dy - shrink * uy) - finding.sizeMm / 2);
  return Math.exp(-((beyond / rule.reachMm) ** 2));
}

/** How far a finding reaches, as an ellipse on the outline, mm. */
export function reachShape({ what, xMm, yMm, sizeMm, down = 'bottom' }: PlacedFinding): {
  readonly cx: number;
  readonly cy: number;
  readonly rx: number;
  readonly ry: number;
} {
  const rule = FINDING_RULES[what];
  const r = sizeMm / 2 + rule.reachMm;
  const [ux, uy] = rule.runsDown ? DOWN[down] : DOWN.flat;
  const more = (r * (DOWN_STRETCH - 1)) / 2;
  return {
    cx: xMm + ux * more,
    cy: yMm + uy * more,
    rx: r + Math.abs(ux) * more,
    ry: r + Math.abs(uy) * more,
  };
}

/**
 * Parts within reach of the findings, strongest first. A part that several findings touch is listed
 * for each. y counts from the top edge.
 */
export function touchedParts(
  index: BoardIndex,
  findings: readonly PlacedFinding[],
): readonly Touched[] {
  const things = placedThings(index);
  return findings
    .flatMap((finding): Touched[] => {
      const rule = FINDING_RULES[finding.what];
      const best = new Map<string, { strength: number; distance: number; words: string }>();
      const nets = new Set<string>();
      for (const { part, pin, x, y } of things) {
        const s = strength(finding, rule, x, y);
        const ref = replaceableRef(part.ref);
        if (s > 0.5 && pin.net !== GROUND) nets.add(pin.net);
        if (s > 0.05 && s > (best.get(ref)?.strength ?? 0)) {
          const distance = Math.hypot(x - finding.xMm, y - finding.yMm);
          best.set(ref, {
            strength: s,
            distance,
            words: `${distance.toFixed(0)} mm from ${rule.title}`,
          });
        }
      }
      if (rule.followsNet) {
        for (const net of nets) {
          for (const { part } of index.pinsOfNet.get(net) ?? []) {
            const ref = replaceableRef(part.ref);
            if (!best.has(ref))
              best.set(ref, {
                strength: NET_SHARE,
                distance: Infinity,
                words: `on ${net}, which passes ${rule.title}`,
              });
          }
        }
      }
      return [...best].map(([ref, { strength: s, distance, words }]) => ({
        ref,
        finding: finding.id,
        factor: 1 + (rule.factor - 1) * s * finding.certainty,
        distanceMm: distance,
        reason: words,
      }));
    })
    .sort((a, b) => b.factor - a.factor);
}

/**
 * What the eye makes of each part: the product of what the findings do to it, held within reason.
 * Parts that nothing touches are left out.
 */
export function lookFactors(touched: readonly Touched[]): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  for (const { ref, factor } of touched)
    found.set(ref, Math.min(MOST_FACTOR, (found.get(ref) ?? 1) * factor));
  return found;
}

/**
 * A continuity check that a finding calls for: two pins of one net with the damage between or under
 * them.
 */
export interface CalledCheck {
  readonly at: string;
  readonly to: string;
  readonly net: string;
  /** How strongly the findings work on the way between, 0 to 1: what the list goes by. */
  readonly value: number;
}

/** Most checks that are worth listing, and how strong a finding has to be on the way. */
const MOST_CHECKS = 12;
const LEAST_VALUE = 0.15;

/**
 * Continuity checks for the tracks within reach: for each net the neighbouring pins whose straight
 * way passes a finding, by how near it passes. Tracks are taken as straight: the board file does
 * not hold their course.
 */
export function calledChecks(
  index: BoardIndex,
  findings: readonly PlacedFinding[],
): readonly CalledCheck[] {
  const byNet = new Map<string, Placed[]>();
  for (const thing of placedThings(index))
    byNet.set(thing.pin.net, [...(byNet.get(thing.pin.net) ?? []), thing]);
  const found: CalledCheck[] = [];
  for (const [net, pins] of byNet) {
    for (const [a, b] of nearestLinks(pins)) {
      if (a.part === b.part) continue;
      const near = findings.reduce(
        (most, finding) => Math.max(most, finding.certainty * strongestBetween(finding, a, b)),
        0,
      );
      const value = net === GROUND ? GROUND_SHARE * near : near;
      if (value >= LEAST_VALUE) found.push({ at: pinText(a), to: pinText(b), net, value });
    }
  }
  return found.sort((a, b) => b.value - a.value).slice(0, MOST_CHECKS);
}

function pinText({ part, pin }: Placed): string {
  return `${part.ref}.${pinName(part, pin.index)}`;
}

/** The shortest tree that joins the pins of a net. Source: Prim, Bell System Tech. J. 36, 1957. */
function nearestLinks(pins: readonly Placed[]): [Placed, Placed][] {
  const links: [Placed, Placed][] = [];
  const inside = pins.slice(0, 1);
  const outside = pins.slice(1);
  while (outside.length > 0) {
    let best = { a: inside[0]!, at: 0, length: Infinity };
    for (const a of inside) {
      outside.forEach((b, at) => {
        const length = Math.hypot(a.x - b.x, a.y - b.y);
        if (length < best.length) best = { a, at, length };
      });
    }
    const [b] = outside.splice(best.at, 1) as [Placed];
    links.push([best.a, b]);
    inside.push(b);
  }
  return links;
}

function strongestBetween(finding: PlacedFinding, a: Placed, b: Placed): number {
  const steps = Math.max(2, Math.ceil(Math.hypot(a.x - b.x, a.y - b.y)));
  let most = 0;
  for (let i = 0; i <= steps; i += 1)
    most = Math.max(
      most,
      strength(
        finding,
        FINDING_RULES[finding.what],
        a.x + ((b.x - a.x) * i) / steps,
        a.y + ((b.y - a.y) * i) / steps,
      ),
    );
  return most;
}
