import type { Part } from '../board';
import { readSpec } from './read-spec';
import type { PartSpec, SpecKind } from './spec';

/** What a part of a board is as a part that is bought; a kind that has no own judgement is unknown. */
const KIND_OF_PART: Readonly<Record<Part['kind'], SpecKind>> = {
  resistor: 'resistor',
  capacitor: 'capacitor',
  inductor: 'inductor',
  winding: 'motor',
  voltageSource: 'unknown',
  currentSource: 'unknown',
  diode: 'diode',
  transistor: 'transistor',
  fuse: 'fuse',
  switch: 'switch',
  connectorPin: 'connector',
  link: 'wire',
  chip: 'logic',
  regulator: 'regulator',
  amplifier: 'amplifier',
  opto: 'opto',
  relay: 'unknown',
  transformer: 'unknown',
  unspecified: 'unknown',
};

/**
 * What is known of a part of a board, in the same form as what is offered for it. parts: the
 * elements of one part as it is replaced, in deck order; the elements of an array come together.
 */
export function specOfParts(parts: readonly Part[]): PartSpec {
  const [part] = parts as readonly [Part, ...Part[]];
  const text = [...new Set([part.rating, part.package].filter(Boolean))].join(' ');
  // What a role or a note says of safety and of fusible resistors counts too; figures in them do not.
  const words = [part.role, part.note].join(' ');
  if (part.kind === 'resistor' && part.ref.includes('.')) return arrayOf(parts, text);
  const read = readSpec(text, undefined, KIND_OF_PART[part.kind]);
  const common = {
    text,
    size: read.size,
    ...(read.celsius === undefined ? {} : { celsius: read.celsius }),
    ...(read.lifeHours === undefined ? {} : { lifeHours: read.lifeHours }),
  };
  switch (part.kind) {
    case 'capacitor': {
      const said = read.kind === 'capacitor' ? read : { kind: 'capacitor' as const, ...common };
      const more = without(said, 'farad');
      const safety = readSpec(words, undefined, 'capacitor');
      return {
        ...more,
        ...(part.unknown ? {} : { farad: part.capacitanceFarad }),
        ...(part.ratedVolt === undefined ? {} : { volt: part.ratedVolt }),
        ...(part.dielectric === undefined ? {} : { dielectric: part.dielectric }),
        ...(part.esrOhm === undefined ? {} : { esrOhm: part.esrOhm }),
        ...(part.tolerance === undefined ? {} : { tolerance: part.tolerance }),
        ...(said.safety || safety.kind !== 'capacitor' || !safety.safety
          ? {}
          : { safety: safety.safety }),
      };
    }
    case 'resistor': {
      const said = read.kind === 'resistor' ? read : { kind: 'resistor' as const, ...common };
      const more = without(said, 'ohm');
      const told = readSpec(words, undefined, 'resistor');
      return {
        ...more,
        ...(part.unknown ? {} : { ohm: part.resistanceOhm }),
        ...(part.tolerance === undefined ? {} : { tolerance: part.tolerance }),
        ...(/\b(fus(ible|ing)|safety)\b/i.test(`${words} ${text}`)
          ? { fusible: true as const }
          : {}),
        ...(told.kind === 'resistor' && told.flameproof ? { flameproof: true as const } : {}),
      };
    }
    case 'inductor': {
      const said = read.kind === 'inductor' ? read : { kind: 'inductor' as const, ...common };
      return {
        ...said,
        ...(part.unknown ? {} : { henry: part.inductanceHenry }),
        ...(part.dcResistanceOhm === undefined ? {} : { copperOhm: part.dcResistanceOhm }),
        ...(part.tolerance === undefined ? {} : { tolerance: part.tolerance }),
      };
    }
    case 'winding':
      return read.kind === 'motor'
        ? { ...read, ohm: part.dcResistanceOhm }
        : { kind: 'motor', ...common, ohm: part.dcResistanceOhm };
    case 'diode': {
      const named = readSpec(`${part.model.name} ${text}`, undefined, 'diode');
      if (named.kind !== 'diode') return { kind: 'diode', ...common };
      const { breakdownVolt } = part.model;
      const isZener =
        named.type === 'zener' ||
        (named.type === undefined && breakdownVolt !== undefined && breakdownVolt < 50);
      return {
        ...named,
        ...(isZener
          ? {
              type: 'zener' as const,
              ...(breakdownVolt === undefined ? {} : { volt: breakdownVolt }),
            }
          : {}),
      };
    }
    case 'transistor': {
      const named = readSpec(`${part.model.name} ${text}`, undefined, 'transistor');
      return named.kind === 'transistor'
        ? { ...named, polarity: part.model.polarity }
        : { kind: 'transistor', ...common, polarity: part.model.polarity };
    }
    case 'regulator': {
      const { model } = part;
      const adjustable = /^3[13]7/.test(model.name);
      const said = read.kind === 'regulator' ? read : { kind: 'regulator' as const, ...common };
      return {
        ...said,
        model,
        volt: model.volt,
        negative: model.polarity === 'negative',
        adjustable,
        dropoutVolt: model.dropoutVolt,
        order: model.roles.map((role) => role[0]!.toUpperCase()).join(''),
      };
    }
    case 'chip': {
      const named = readSpec(part.model.name);
      return named.kind === 'logic'
        ? { ...named, ...common, model: part.model }
        : { kind: 'logic', ...common, name: part.model.name, model: part.model };
    }
    case 'amplifier':
      return {
        kind: 'amplifier',
        ...common,
        name: part.model.name,
        pins: part.pins.length,
        model: part.model,
      };
    case 'switch':
      return {
        ...(read.kind === 'switch' ? read : { kind: 'switch' as const, ...common }),
        contact: part.rest === 'closed' ? 'NC' : 'NO',
      };
    case 'link':
      return { kind: 'wire', ...common };
    case 'fuse':
    case 'opto':
    case 'connectorPin':
      return read;
    default:
      return { kind: 'unknown', ...common };
  }
}

/** Without a figure that the sheet itself states. */
function without<T extends object, K extends keyof T>(object: T, key: K): Omit<T, K> {
  return Object.fromEntries(Object.entries(object).filter(([name]) => name !== key)) as Omit<T, K>;
}

function arrayOf(parts: readonly Part[], text: string): PartSpec {
  const elements = parts.filter((part) => part.kind === 'resistor');
  const [first] = elements as unknown as readonly [Extract<Part, { kind: 'resistor' }>];
  const nets = elements.map(({ pins }) => pins);
  const shared = nets[0]!.find((net) => nets.every((pins) => pins.includes(net)));
  const said = readSpec(text, undefined, 'array');
  const even = elements.every((part) => part.resistanceOhm === first.resistanceOhm);
  return {
    ...(said.kind === 'array' ? said : { kind: 'array' as const, text, size: {} }),
    ...(first.unknown || !even ? {} : { ohm: first.resistanceOhm }),
    ...(first.tolerance === undefined ? {} : { tolerance: first.tolerance }),
    elements: elements.length,
    // Elements that share a net are only surely bussed in a package that says so; two pins each are safe to ask for.
    ...(said.kind === 'array' && said.joined
      ? {}
      : elements.length > 1 && shared === undefined
        ? { joined: 'isolated' as const }
        : {}),
  };
}

/**
 * What the sheet says of a part, and where it is silent what stood on the part that came off.
 * Where the two are of different kinds the sheet counts alone.
 */
export function saidMore(sheet: PartSpec, cameOff: PartSpec): PartSpec {
  if (sheet.kind !== cameOff.kind) return sheet;
  const stated = Object.entries(sheet).filter(([, value]) => value !== undefined);
  return {
    ...cameOff,
    ...Object.fromEntries(stated),
    size: { ...cameOff.size, ...sheet.size },
  } as PartSpec;
}
