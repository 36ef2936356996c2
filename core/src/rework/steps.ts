import type { BoardIndex, Part } from '../board';
import { isWet } from '../survey';
import { isOnPlane, keepOut, landings } from './jumper';

/** A check after a step, as a reading that can be proposed. */
export interface StepCheck {
  readonly words: string;
  readonly kind: 'continuity' | 'resistance';
  readonly at: string;
  readonly to: string;
}

export interface ReworkStep {
  readonly words: string;
  readonly caution?: string;
  readonly check?: StepCheck;
}

/** How a shop takes parts off. */
export type LiftSchool = 'iron' | 'hot-air';

export interface ReworkPlan {
  readonly off: readonly ReworkStep[];
  readonly on: readonly ReworkStep[];
  readonly keepOut: readonly { readonly ref: string; readonly mm: number; readonly why: string }[];
  /** What the other school would do, and its price. */
  readonly otherSchool: string;
}

/** How far heat of hot air and of an iron reaches, mm. Common practice, no published source. */
const REACH_MM = { 'hot-air': 12, iron: 5 } as const;
/** Heat at the tip and in the air, °C; with small parts near no more than the second. Common practice. */
export const HEAT_CELSIUS = { iron: 350, air: 330, airNever: 450 } as const;

/** What lies flat on the board, by the words of its package. */
const FLAT = /\b(smd|smt|so|soic|sop|chip|0[468]0[2-5]|1206|v-?chip|can, surface|melf)\b/i;

/** What was found at a part by the eye, as far as the work depends on it. */
export interface Seen {
  readonly leaked?: boolean;
  readonly corroded?: boolean;
}

/**
 * How a part comes off and how one goes on, step by step, each with its caution and a check. Common
 * practice, no published source; heat in °C.
 */
export function reworkPlan(
  index: BoardIndex,
  part: Part,
  school: LiftSchool,
  seen: Seen = {},
): ReworkPlan {
  const isFlat = FLAT.test([part.package, part.rating].join(' '));
  const pins = part.pins.length;
  const onPlane = part.pins.some((_, pin) => isOnPlane(index, part, pin));
  const isCan = part.kind === 'capacitor' && isWet(part);
  const byAir = school === 'hot-air' && isFlat;
  return {
    off: [
      {
        words: 'Photograph it from above with its mark, and note which leg is which.',
        ...(isCan
          ? { caution: 'The printed plus may be hidden under the part: look before it is off.' }
          : {}),
      },
      ...cleaning(seen),
      ...(isCan && part.kind === 'capacitor' && part.capacitanceFarad >= 100e-6
        ? [
            {
              words: 'Read its volts: it may keep a charge.',
              caution: 'Below 2 V before a tool touches both legs.',
            },
          ]
        : []),
      byAir
        ? {
            words: `Shield what is within ${REACH_MM['hot-air']} mm with tape, then hot air at ${HEAT_CELSIUS.air} °C, moving, until it floats; lift it straight.`,
            caution: `Not ${HEAT_CELSIUS.airNever} °C: small parts blow away and the board browns. A can of electrolyte bursts in hot air: cut it off its legs first.`,
          }
        : {
            words: 'Fresh solder on every joint first; low-melting solder where a pad is to live.',
            caution: 'No cold pulling: what comes off with the part is the pad.',
          },
      ...(byAir ? [] : [lifting(part, pins, isFlat, onPlane)]),
      {
        words: 'Clean the pads with wick and flux, at once, while they are tinned.',
        caution: 'Light hand: a pad without its part lifts easily.',
      },
      ...padChecks(index, part),
    ],
    on: [
      { words: 'Hold the new one beside the picture: mark, height, pitch.' },
      {
        words: isFlat
          ? 'Tin one pad, place it, hold it down, solder the other end, then the first again.'
          : 'Legs through to the stop, bend them a little outwards, solder one, look at it from above, solder the rest.',
      },
      ...(onPlane
        ? [
            {
              words:
                'The leg on the plane needs heat: larger tip, board warmed from below, not more seconds.',
              caution: 'A dull ring there is a dry joint.',
            },
          ]
        : []),
      {
        words: 'Wash the flux off, and look at every joint from the side.',
        caution: 'Alcohol: no iron, no flame near it.',
      },
      ...jointChecks(index, part),
      ...shortCheck(part),
    ],
    keepOut: keepOut(index, part, REACH_MM[byAir ? 'hot-air' : 'iron']),
    otherSchool: isFlat
      ? byAir
        ? 'Others cut the can and take the rest with the iron: no neighbour gets hot; the price is a pull on the pads.'
        : 'Others use hot air: even heat, no pull on the pads; the price is warm neighbours.'
      : 'Others cut the part away and take leg by leg: kind to the pads; the price is that it can not be tested any more.',
  };
}

/** What was spilt is washed before heat drives it in. */
function cleaning({ leaked, corroded }: Seen): ReworkStep[] {
  return [
    ...(leaked
      ? [
          {
            words:
              'Wash what leaked with alcohol and water, before any heat; once more after the part is off.',
            caution: 'Electrolyte: gloves, and wash the skin at once.',
          },
        ]
      : []),
    ...(corroded
      ? [
          {
            words:
              'A crust: from an alkaline battery weak vinegar first, from an electrolytic water and alcohol; rinse, dry.',
            caution: 'Gloves and eyes. The green dust is not to be breathed.',
          },
        ]
      : []),
  ];
}

function lifting(part: Part, pins: number, isFlat: boolean, onPlane: boolean): ReworkStep {
  const heat = `iron at ${HEAT_CELSIUS.iron} °C${onPlane ? ', the board warmed from below: a leg lies on a plane' : ''}`;
  if (pins > 4)
    return {
      words: isFlat
        ? `Low-melting solder along both rows, ${heat}, and slide it off.`
        : `Cut the body from its legs and take them one by one, ${heat}; suction only where it has to be used again.`,
      caution: 'Prying lifts tracks under the body: nothing under it but a finger’s pressure.',
    };
  if (isFlat)
    return {
      words: `Both ends in turn, ${heat}, until it slides; never lever it.`,
      caution: 'One end fixed and a lever is a lost pad.',
    };
  return {
    words: `Leg by leg, ${heat}, rocking it a little with each.`,
    caution:
      part.kind === 'capacitor'
        ? 'Eyes covered: an old can may open.'
        : 'Legs under tension fling solder.',
  };
}

/** Ohms from each leg's hole to the nearest place on its net: the pad and its track live. */
function padChecks(index: BoardIndex, part: Part): ReworkStep[] {
  return part.pins.slice(0, 4).flatMap((net, pin): ReworkStep[] => {
    const [near] = landings(index, part, pin);
    return near
      ? [
          {
            words: `Pad ${pin + 1} still joins ${net}.`,
            check: {
              words: `beep from the pad to ${near.pin}`,
              kind: 'continuity',
              at: `${part.ref}.${pin + 1}`,
              to: near.pin,
            },
          },
        ]
      : [];
  });
}

function jointChecks(index: BoardIndex, part: Part): ReworkStep[] {
  const [near] = landings(index, part, 0);
  return near
    ? [
        {
          words: 'The joint itself, on the leg above the solder, not on the pad.',
          check: {
            words: `beep from its first leg to ${near.pin}`,
            kind: 'continuity',
            at: `${part.ref}.1`,
            to: near.pin,
          },
        },
      ]
    : [];
}

/** No short under the part, before any power. */
function shortCheck(part: Part): ReworkStep[] {
  const [a, b] = part.pins;
  return a !== undefined && b !== undefined && a !== b
    ? [
        {
          words: 'No bridge under it.',
          caution: 'Before any power.',
          check: {
            words: `ohms across it, as the good board has them`,
            kind: 'resistance',
            at: `${part.ref}.1`,
            to: `${part.ref}.2`,
          },
        },
      ]
    : [];
}

/** How a torn connector is anchored again. Common practice, no published source. */
export const TORN_CONNECTOR: readonly ReworkStep[] = [
  {
    words: 'Draw what is left: which hole went to which track, on both sides.',
    caution:
      'A hole that joined both sides is gone with its lining: both sides need the wire then.',
  },
  {
    words: 'Scrape the mask off each track for 3 mm, tin the bare copper.',
    caution: 'Glass dust: damp, and do not breathe it.',
  },
  {
    words:
      'Set the connector where its legs reach the tracks; accept a shift if the plug still goes in.',
    caution: 'Mind vias under it: tape over them.',
  },
  { words: 'Solder the anchors first, then leg by leg; a wire where a leg does not reach.' },
  {
    words:
      'Every way from the plug’s side to the next part on its net, and every pair of neighbours open.',
    caution: 'A supply pin beside a ground pin first.',
  },
];
