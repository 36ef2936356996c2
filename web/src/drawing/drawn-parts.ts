import { GROUND, nameKey, partValue, type BoardIndex, type Part } from '@hanzai/core/board';
import { drawnRef, type Drawn, type DrawnPin, type Glyph, type TwoPin } from './drawn';
import { gatesOf } from './gates';
import { withoutIdleGates, withoutIdlePins } from './idle';
import { fedNets, railsOf } from './rails';

function twoPinSymbol(part: Part): TwoPin {
  switch (part.kind) {
    case 'resistor':
      // A filament is a resistor to the engine.
      return isSaid(part, /\b(lamp|bulb|filament)$/i) ? 'lamp' : 'resistor';
    case 'capacitor':
      return part.dielectric && ['electrolytic', 'tantalum', 'polymer'].includes(part.dielectric)
        ? 'polarised'
        : 'capacitor';
    case 'inductor':
      return 'coil';
    case 'winding':
      if (isSaid(part, /\bhead\b/i)) return 'head';
      return isSaid(part, /motor|spindle|sled/i) || /^M\d/.test(part.ref) ? 'motor' : 'coil';
    case 'diode':
      // What drops so much at so little current gives light.
      if (part.model.saturationCurrentAmpere < 1e-15 && part.model.emissionCoefficient > 1.4)
        return 'led';
      return part.model.breakdownVolt !== undefined && part.model.breakdownVolt < 40
        ? 'zener'
        : 'diode';
    case 'fuse':
      return 'fuse';
    case 'switch':
      return part.rest === 'open' ? 'switchOpen' : 'switchClosed';
    case 'connectorPin':
      return 'contact';
    case 'link':
      return 'link';
    case 'voltageSource':
      return 'supply';
    case 'currentSource':
      return 'current';
    case 'unspecified':
      return isSaid(part, /\b(crystal|resonator)\b/i) || /^[XY]\d/i.test(part.ref)
        ? 'crystal'
        : 'box';
    default:
      return 'box';
  }
}

/** Whether the sheet says of a part what it does in these words. */
const isSaid = ({ role }: Part, words: RegExp): boolean => words.test(role ?? '');

interface View {
  readonly index: BoardIndex;
  /** Gates are drawn as the package that they are in. */
  readonly packages: boolean;
  readonly fed: ReadonlySet<string>;
  readonly rails: ReadonlySet<string>;
  readonly netOf: (written: string) => string;
  /** Whether anything else is on the net. */
  readonly isJoined: (net: string) => boolean;
}

/**
 * The symbols of a board, in board order. refs: drawnRefs to draw; undefined draws all. marked: nets
 * that are drawn whatever else hangs on them. packages: gates are drawn by package and not one by one.
 */
export function drawnParts(
  index: BoardIndex,
  refs: ReadonlySet<string> | undefined,
  marked: ReadonlySet<string>,
  packages = false,
): readonly Drawn[] {
  const netOf = (written: string): string => index.netByKey.get(nameKey(written)) ?? written;
  const view: View = {
    index,
    packages,
    fed: fedNets(index, netOf),
    rails: railsOf(index),
    netOf,
    isJoined: (net) => net === GROUND || (index.pinsOfNet.get(net)?.length ?? 0) > 1,
  };
  const groups = new Map<string, Part[]>();
  for (const part of index.board.parts) {
    const key = drawnRef(part.ref);
    if (!refs || refs.has(key)) groups.set(key, [...(groups.get(key) ?? []), part]);
  }
  const drawn = [...groups].flatMap(([ref, parts]) => drawGroup(ref, parts, view));
  return refs
    ? withoutIdleGates(drawn, marked).map((one) => withoutIdlePins(one, drawn, marked))
    : drawn;
}

function drawGroup(ref: string, parts: readonly Part[], view: View): readonly Drawn[] {
  const [part] = parts;
  if (parts.length > 1 || !part) return [drawPackage(ref, parts, view)];
  if (part.pins.length === 2) return drawTwoPin(part, view);
  switch (part.kind) {
    case 'transistor':
      return [drawTransistor(part, view)];
    case 'chip':
      return drawChip(part, view);
    case 'amplifier':
      return drawAmplifier(part, view);
    default:
      return [drawBox(part, view)];
  }
}

function drawTwoPin(part: Part, { fed, rails, netOf, isJoined }: View): readonly Drawn[] {
  const { ref } = part;
  const nets = part.pins.map(netOf) as [string, string];
  const base = { key: ref, ref, symbol: twoPinSymbol(part), value: partValue(part) };
  const [a, b] = nets;
  if (a === b) return [];
  for (const [near, far, turned] of [
    [a, b, false],
    [b, a, true],
  ] as const) {
    if (near === GROUND) continue;
    if (far === GROUND) return [{ form: 'leg', ...base, net: near, end: GROUND, turned }];
    if (!isJoined(far)) return [{ form: 'leg', ...base, net: near, end: undefined, turned }];
  }
  for (const [near, far, turned] of [
    [a, b, false],
    [b, a, true],
  ] as const)
    // What feeds a supply is drawn before it and not under it.
    if (rails.has(far) && !fed.has(near))
      return [{ form: 'hat', ...base, net: near, end: far, turned }];
  return [{ form: 'across', ...base, nets, turned: false, labels: [undefined, undefined] }];
}

function pinOn(
  view: View,
  written: string,
  rest: Omit<DrawnPin, 'net' | 'by'>,
): DrawnPin | undefined {
  const net = view.netOf(written);
  if (!view.isJoined(net)) return undefined;
  const by = net === GROUND ? 'ground' : view.rails.has(net) ? 'rail' : 'wire';
  return { ...rest, net, by };
}

const isThere = <T>(value: T | undefined): value is T => value !== undefined;

function drawTransistor(part: Extract<Part, { kind: 'transistor' }>, view: View): Drawn {
  const [collector, base, emitter] = part.pins;
  const pins = [
    pinOn(view, base!, { pin: '2', name: 'b', side: 'west' }),
    pinOn(view, collector!, { pin: '1', name: 'c', side: 'east' }),
    pinOn(view, emitter!, { pin: '3', name: 'e', side: 'east' }),
  ].filter(isThere);
  const { polarity, name } = part.model;
  return {
    form: 'block',
    key: part.ref,
    ref: part.ref,
    symbol: polarity,
    value: name,
    pins,
    left: 0,
  };
}

function drawChip(part: Extract<Part, { kind: 'chip' }>, view: View): readonly Drawn[] {
  const gates = view.packages ? undefined : gatesOf(part.model);
  const { ref } = part;
  if (!gates) return [drawBox(part, view)];
  return gates.flatMap((gate) => {
    const pins = [
      ...gate.inputs.map((i) =>
        pinOn(view, part.pins[i]!, { pin: String(i + 1), name: '', side: 'west' }),
      ),
      pinOn(view, part.pins[gate.output]!, {
        pin: String(gate.output + 1),
        name: '',
        side: 'east',
      }),
    ].filter(isThere);
    // A gate that nothing looks at is not drawn: its inputs are tied away.
    if (!pins.some(({ side, by }) => side === 'east' && by === 'wire')) return [];
    return [
      {
        form: 'block' as const,
        key: `${ref}.${gate.output + 1}`,
        ref,
        symbol: 'gate' as const,
        value: part.model.name,
        pins,
        gate,
        left: 0,
      },
    ];
  });
}

function drawAmplifier(part: Extract<Part, { kind: 'amplifier' }>, view: View): readonly Drawn[] {
  return part.model.units.map((unit, i) => ({
    form: 'block',
    key: `${part.ref}.${i + 1}`,
    ref: part.ref,
    symbol: 'amplifier',
    value: part.model.name,
    pins: [
      pinOn(view, part.pins[unit.plus - 1]!, { pin: String(unit.plus), name: '+', side: 'west' }),
      pinOn(view, part.pins[unit.minus - 1]!, { pin: String(unit.minus), name: '−', side: 'west' }),
      pinOn(view, part.pins[unit.out - 1]!, { pin: String(unit.out), name: '', side: 'east' }),
    ].filter(isThere),
    left: 0,
  }));
}

// prettier-ignore
const BOX_PINS: Partial<Record<Part['kind'], readonly (readonly [string, 'west' | 'east'])[]>> = {
  opto: [['anode', 'west'], ['cathode', 'west'], ['coll.', 'east'], ['emitter', 'east']],
  relay: [['coil', 'west'], ['coil', 'west'], ['common', 'east'], ['rest', 'east'], ['work', 'east']],
  transformer: [['prim.', 'west'], ['prim.', 'west'], ['sec.', 'east'], ['sec.', 'east']],
};

const GLYPHS: readonly Glyph[] = ['opto', 'relay', 'transformer', 'regulator'];

function drawBox(part: Part, view: View): Drawn {
  const named = BOX_PINS[part.kind];
  const glyph = GLYPHS.find((one) => one === part.kind);
  const half = Math.ceil(part.pins.length / 2);
  const pins = part.pins.map((written, i) => {
    let name = named?.[i]?.[0] ?? '';
    let side = named?.[i]?.[1] ?? (i < half ? 'west' : 'east');
    if (part.kind === 'chip') {
      const pin = part.model.pins[i]!;
      name = pin.name;
      side = pin.role === 'output' || pin.role === 'both' ? 'east' : 'west';
    }
    if (part.kind === 'regulator') {
      const role = part.model.roles[i]!;
      name = role === 'ground' ? 'gnd' : role;
      side = role === 'out' ? 'east' : 'west';
    }
    return pinOn(view, written, { pin: String(i + 1), name, side });
  });
  return {
    form: 'block',
    key: part.ref,
    ref: part.ref,
    symbol: 'box',
    value: partValue(part),
    pins: pins.filter(isThere),
    left: 0,
    ...(glyph && { glyph }),
  };
}

/** What a package holds that the sheet draws by elements: its nets, without numbers of pins. */
function drawPackage(ref: string, parts: readonly Part[], view: View): Drawn {
  const outside = [
    ...new Set(
      parts
        .flatMap(({ pins }) => pins)
        .filter((net) => !/\.\D/.test(net))
        .map(view.netOf),
    ),
  ].filter((net) => view.isJoined(net) && net !== GROUND);
  const half = Math.ceil(outside.length / 2);
  const pins = outside
    .map((net, i) => pinOn(view, net, { pin: '', name: '', side: i < half ? 'west' : 'east' }))
    .filter(isThere);
  return { form: 'block', key: ref, ref, symbol: 'box', value: '', pins, left: 0 };
}
