import { GROUND, nameKey, type Dielectric, type Part } from '../board';
import { POLAR } from './polar';
import type { PartSpec } from './spec';

/** How the mark of a part looks. */
export type MarkSign = 'stripe-minus' | 'stripe-plus' | 'band' | 'notch' | 'flat' | 'type-print';

/**
 * How a part shows which way round it goes. at: the net that the mark lies at, undefined where the
 * sheet does not tell.
 */
export interface Marking {
  readonly sign: MarkSign;
  readonly at: string | undefined;
  /** For people: what is marked, and where it goes. */
  readonly words: string;
}

/** What goes on: the kind that was written, else the one that came off. */
function kindOf(part: Part, offered: PartSpec | undefined): Dielectric | undefined {
  if (part.kind !== 'capacitor') return undefined;
  if (offered?.kind !== 'capacitor') return part.dielectric;
  return offered.backToBack ? 'bipolar' : (offered.dielectric ?? part.dielectric);
}

/** True for parts that only work one way round. offered: what goes on, where it is another kind. */
export function isPolarised(part: Part, offered?: PartSpec): boolean {
  if (part.kind === 'capacitor') return POLAR.includes(kindOf(part, offered) ?? 'ceramic');
  return ['diode', 'transistor', 'chip', 'regulator', 'amplifier', 'opto'].includes(part.kind);
}

/**
 * How what goes on is turned, by its own marking and the nets of the board; undefined where it does
 * not matter. The stripe of an aluminium capacitor marks minus, that of a tantalum or a moulded
 * polymer chip plus. Common practice, no published source.
 */
export function marking(part: Part, offered?: PartSpec): Marking | undefined {
  if (!isPolarised(part, offered)) return undefined;
  const nets = part.pins.map((net) => (nameKey(net) === GROUND ? 'ground' : net));
  switch (part.kind) {
    case 'capacitor':
      return capacitorMarking(part, nets, kindOf(part, offered)!);
    case 'diode':
      return { sign: 'band', at: nets[1], words: `band (cathode) to ${nets[1]}` };
    case 'transistor':
      return {
        sign: 'flat',
        at: undefined,
        words: `collector ${nets[0]}, base ${nets[1]}, emitter ${nets[2]}: check the pin order of the new one on its data sheet`,
      };
    case 'regulator':
      return {
        sign: 'type-print',
        at: undefined,
        words: `${part.model.roles.map((role, i) => `pin ${i + 1} (${role}) to ${nets[i]}`).join(', ')}: pin order differs between makes and signs`,
      };
    case 'opto':
      return {
        sign: 'notch',
        at: undefined,
        words: `anode ${nets[0]}, cathode ${nets[1]}, collector ${nets[2]}, emitter ${nets[3]}: find the light side with a diode test first`,
      };
    default:
      return {
        sign: 'notch',
        at: undefined,
        words: 'notch or dot at pin 1, as on the print and in the picture of the old one',
      };
  }
}

function capacitorMarking(
  part: Extract<Part, { kind: 'capacitor' }>,
  [first, second]: readonly string[],
  kind: Dielectric,
): Marking {
  // The sheet says which leg is plus only where what came off had one.
  if (!POLAR.includes(part.dielectric ?? 'ceramic'))
    return {
      sign: kind === 'electrolytic' ? 'stripe-minus' : 'stripe-plus',
      at: undefined,
      words: `a ${kind} has a plus, what came off had none: read the volts between ${first} and ${second} first`,
    };
  if (kind === 'electrolytic')
    return {
      sign: 'stripe-minus',
      at: second,
      words: `plus to ${first}, stripe (minus) to ${second}`,
    };
  const shape =
    kind === 'polymer'
      ? 'stripe of a moulded chip is plus, of a can minus'
      : 'its stripe is PLUS, not minus as on an aluminium one';
  return { sign: 'stripe-plus', at: first, words: `plus to ${first} (${shape})` };
}

/** The same in words only. */
export function orientation(part: Part, offered?: PartSpec): string | undefined {
  return marking(part, offered)?.words;
}

const SIGN_WORDS: Readonly<Record<MarkSign, string>> = {
  'stripe-minus': 'its stripe is minus',
  'stripe-plus': 'its stripe is PLUS',
  band: 'its band is the cathode',
  notch: 'its notch or dot is at pin 1',
  flat: 'flat side towards you, legs down',
  'type-print': 'print towards you, legs down',
};

/**
 * How a part as it is bought shows which way round it goes; undefined where it has no way or does
 * not say what it is. Common practice, no published source.
 */
export function markingOf(
  spec: PartSpec,
): { readonly sign: MarkSign; readonly words: string } | undefined {
  const sign = signOf(spec);
  if (!sign) return undefined;
  const order = 'order' in spec && spec.order ? `, legs ${spec.order}` : '';
  return { sign, words: `${SIGN_WORDS[sign]}${order}` };
}

function signOf(spec: PartSpec): MarkSign | undefined {
  switch (spec.kind) {
    case 'capacitor': {
      const { dielectric, backToBack } = spec;
      if (dielectric === undefined || backToBack || !POLAR.includes(dielectric)) return undefined;
      return dielectric === 'electrolytic' ? 'stripe-minus' : 'stripe-plus';
    }
    case 'diode':
      return spec.type === 'bridge' || spec.type === 'led' ? 'type-print' : 'band';
    case 'transistor':
      return 'flat';
    case 'regulator':
      return 'type-print';
    case 'logic':
    case 'amplifier':
    case 'opto':
      return 'notch';
    case 'array':
      return spec.joined === 'bussed' ? 'notch' : undefined;
    default:
      return undefined;
  }
}
