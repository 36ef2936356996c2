import type { Board, ChipModel, Edge, NamedSetup, Observable, Part } from '@hanzai/core/board';
import { chipModel, LIBRARY } from '../../library/devices';

type Dielectric = NonNullable<Extract<Part, { kind: 'capacitor' }>['dielectric']>;
interface Extra {
  readonly role?: string;
  readonly fitYear?: number;
  readonly tolerance?: number;
  readonly rating?: string;
  readonly note?: string;
}

const DIODE = {
  emissionCoefficient: 1.8,
  seriesResistanceOhm: 0.5,
  breakdownCurrentAmpere: 1e-3,
} as const;
/** Models that the demo boards share. Values like those of common types. */
// prettier-ignore
export const MODELS = {
  signal: { name: 'DSIGNAL', saturationCurrentAmpere: 2.5e-9, ...DIODE },
  power: { name: 'DPOWER', saturationCurrentAmpere: 1e-8, ...DIODE, emissionCoefficient: 1.9, seriesResistanceOhm: 0.05 },
  lamp: { name: 'DLAMP', saturationCurrentAmpere: 1e-18, ...DIODE, emissionCoefficient: 2, seriesResistanceOhm: 3 },
  zener: (volt: number) => ({ name: `DZ${String(volt).replace('.', 'V')}`, saturationCurrentAmpere: 1e-14, emissionCoefficient: 1, seriesResistanceOhm: 0, breakdownVolt: volt, breakdownCurrentAmpere: 5e-3 }),
  npn: { name: 'QNSMALL', polarity: 'npn', saturationCurrentAmpere: 1e-14, forwardGain: 180, reverseGain: 4, forwardEmission: 1, reverseEmission: 1 },
  pnp: { name: 'QPSMALL', polarity: 'pnp', saturationCurrentAmpere: 1e-14, forwardGain: 150, reverseGain: 4, forwardEmission: 1, reverseEmission: 1 },
  npnPower: { name: 'QNPOWER', polarity: 'npn', saturationCurrentAmpere: 1e-12, forwardGain: 80, reverseGain: 3, forwardEmission: 1, reverseEmission: 1 },
  pnpPower: { name: 'QPPOWER', polarity: 'pnp', saturationCurrentAmpere: 1e-12, forwardGain: 70, reverseGain: 3, forwardEmission: 1, reverseEmission: 1 },
} as const;

/**
 * A board being drawn up: parts by name of net, placed on a grid of their region. Made for the demo
 * boards, which are invented.
 */
export class Sheet {
  private readonly parts: Part[] = [];
  private readonly observables: Observable[] = [];
  private readonly setups: NamedSetup[] = [];
  private readonly edges: Edge[] = [];
  private readonly testPoints: { net: string; label: string }[] = [];
  private readonly hazards: NonNullable<Board['hazards']>[number][] = [];
  private place = { x: 5, y: 5, columns: 10, step: 6, count: 0 };

  constructor(
    private readonly title: string,
    private readonly width: number,
    private readonly height: number,
    private readonly year: number,
  ) {}

  /** Small parts from here on stand in rows of `columns`, `step` mm apart. */
  region(x: number, y: number, columns = 6, step = 5): this {
    this.place = { x, y, columns, step, count: 0 };
    return this;
  }

  private put(part: Part, at?: readonly [number, number]): this {
    const { x, y, columns, step } = this.place;
    const positionMm: [number, number] = at
      ? [at[0], at[1]]
      : [
          x + step * (this.place.count % columns),
          y + step * Math.floor(this.place.count / columns),
        ];
    if (!at) this.place.count += 1;
    const source = part.kind === 'voltageSource' || part.kind === 'currentSource';
    this.parts.push(source ? part : { ...part, positionMm });
    return this;
  }

  supply(ref: string, net: string, volt: number): this {
    return this.put({ kind: 'voltageSource', ref, pins: [net, '0'], volt });
  }
  /** A current that comes from outside, out of `a` and into `b`. */
  supplyCurrent(ref: string, a: string, b: string, ampere: number): this {
    return this.put({ kind: 'currentSource', ref, pins: [a, b], ampere });
  }
  r(ref: string, a: string, b: string, resistanceOhm: number, extra: Extra = {}): this {
    return this.put({ kind: 'resistor', ref, pins: [a, b], resistanceOhm, ...extra });
  }
  /** Elements of an array: all of one value, one end of each given, the other common. */
  array(
    ref: string,
    common: string,
    nets: readonly string[],
    resistanceOhm: number,
    role?: string,
  ): this {
    nets.forEach((net, i) =>
      this.r(`${ref}.${i + 1}`, net, common, resistanceOhm, role === undefined ? {} : { role }),
    );
    return this;
  }
  c(
    ref: string,
    a: string,
    b: string,
    capacitanceFarad: number,
    dielectric: Dielectric = 'ceramic',
    ratedVolt = 50,
    extra: Extra & { esrOhm?: number } = {},
  ): this {
    return this.put({
      kind: 'capacitor',
      ref,
      pins: [a, b],
      capacitanceFarad,
      dielectric,
      ratedVolt,
      ...extra,
    });
  }
  /** An electrolytic: microfarads, volts, ESR in ohms when sound. */
  electrolytic(
    ref: string,
    a: string,
    b: string,
    microfarad: number,
    ratedVolt: number,
    esrOhm: number,
    role?: string,
  ): this {
    return this.c(
      ref,
      a,
      b,
      Number((microfarad * 1e-6).toPrecision(12)),
      'electrolytic',
      ratedVolt,
      {
        esrOhm,
        fitYear: this.year,
        ...(role === undefined ? {} : { role }),
      },
    );
  }
  l(
    ref: string,
    a: string,
    b: string,
    inductanceHenry: number,
    dcResistanceOhm: number,
    extra: Extra = {},
  ): this {
    return this.put({
      kind: 'inductor',
      ref,
      pins: [a, b],
      inductanceHenry,
      dcResistanceOhm,
      ...extra,
    });
  }
  winding(
    ref: string,
    a: string,
    b: string,
    inductanceHenry: number,
    dcResistanceOhm: number,
    role: string,
  ): this {
    return this.put({ kind: 'winding', ref, pins: [a, b], inductanceHenry, dcResistanceOhm, role });
  }
  d(
    ref: string,
    anode: string,
    cathode: string,
    model: Extract<Part, { kind: 'diode' }>['model'],
    role?: string,
  ): this {
    return this.put({
      kind: 'diode',
      ref,
      pins: [anode, cathode],
      model,
      ...(role === undefined ? {} : { role }),
    });
  }
  q(
    ref: string,
    c: string,
    b: string,
    e: string,
    model: Extract<Part, { kind: 'transistor' }>['model'],
    role?: string,
  ): this {
    return this.put({
      kind: 'transistor',
      ref,
      pins: [c, b, e],
      model,
      ...(role === undefined ? {} : { role }),
    });
  }
  two(
    kind: 'fuse' | 'connectorPin' | 'link',
    ref: string,
    a: string,
    b: string,
    extra: Extra = {},
  ): this {
    return this.put({ kind, ref, pins: [a, b], ...extra });
  }
  toggle(ref: string, a: string, b: string, rest: 'closed' | 'open', role: string): this {
    return this.put({ kind: 'switch', ref, pins: [a, b], rest, role });
  }
  opto(
    ref: string,
    anode: string,
    cathode: string,
    collector: string,
    emitter: string,
    transferRatio: number,
    role: string,
  ): this {
    return this.put({
      kind: 'opto',
      ref,
      pins: [anode, cathode, collector, emitter],
      transferRatio,
      role,
    });
  }
  relay(
    ref: string,
    pins: [string, string, string, string, string],
    coilOhm: number,
    pullInVolt: number,
    role: string,
  ): this {
    return this.put({ kind: 'relay', ref, pins, coilOhm, pullInVolt, role });
  }
  transformer(
    ref: string,
    pins: [string, string, string, string],
    primaryOhm: number,
    secondaryOhm: number,
    peakVolt: number,
    role: string,
  ): this {
    return this.put({ kind: 'transformer', ref, pins, primaryOhm, secondaryOhm, peakVolt, role });
  }
  /** A package of the library by its pins in order. */
  device(
    ref: string,
    name: string,
    pins: readonly string[],
    at: readonly [number, number],
    role?: string,
  ): this {
    const found = LIBRARY.find(name);
    if (!found || found.pins !== pins.length)
      throw new Error(`${ref}: ${name} with ${pins.length} pins`);
    return this.put({ ...found.make(ref, [...pins]), ...(role === undefined ? {} : { role }) }, at);
  }
  /** A chip by the names of its pins; what is not named is left unconnected. */
  chip(
    ref: string,
    name: string,
    nets: Readonly<Record<string, string>>,
    at: readonly [number, number],
    role: string,
    power = 'P5',
    program?: readonly string[],
  ): this {
    const known = chipModel(name);
    if (!known) throw new Error(`${ref}: no chip ${name}`);
    const model = program ? programmed(known, program) : known;
    const own = model.pins.filter(
      ({ role: use }) => use === 'ground' || use === 'supply' || use === 'clamp',
    );
    const given: Record<string, string> = {
      ...Object.fromEntries(own.map((pin) => [pin.name, pin.role === 'ground' ? '0' : power])),
      ...nets,
    };
    const wrong = Object.keys(given).find((pin) => !model.pins.some((p) => p.name === pin));
    if (wrong !== undefined)
      throw new Error(
        `${ref}: ${name} has no pin ${wrong}; it has ${model.pins.map((p) => p.name).join(' ')}`,
      );
    const pins = model.pins.map((pin, i) => given[pin.name] ?? `nc_${ref}_${i + 1}`);
    return this.put({ kind: 'chip', ref, pins, model, role }, at);
  }
  see(name: string, title: string, when: Observable['when'], setup?: string): this {
    this.observables.push({ name, title, when, ...(setup === undefined ? {} : { setup }) });
    return this;
  }
  setup(named: NamedSetup): this {
    this.setups.push(named);
    return this;
  }
  edge(net: string, note: string): this {
    this.edges.push({ net, note });
    return this;
  }
  test(net: string, label: string): this {
    this.testPoints.push({ net, label });
    return this;
  }
  hazard(kind: NonNullable<Board['hazards']>[number]['kind'], note: string, ref?: string): this {
    this.hazards.push({ kind, note, ...(ref === undefined ? {} : { ref }) });
    return this;
  }
  done(): Board {
    const { title, width, height, parts, observables, setups, edges, testPoints, hazards } = this;
    return {
      format: 'hanzai-board',
      version: 1,
      title,
      outlineMm: { width, height },
      parts,
      setups,
      observables,
      edges,
      testPoints,
      hazards,
    };
  }
}

/** Names of a bus: `bus('A', 0, 10)` is A0 to A9. */
export const bus = (prefix: string, first: number, count: number): string[] =>
  Array.from({ length: count }, (_, i) => `${prefix}${first + i}`);

/** A bus on the pins of a chip, by name: pin A0 to net A0 and so on. */
export function onBus(pins: readonly string[], nets: readonly string[]): Record<string, string> {
  return Object.fromEntries(pins.map((pin, i) => [pin, nets[i]!]));
}

/**
 * A chip of which this board's program is known: statements in place of those for the same pins.
 */
function programmed(model: ChipModel, statements: readonly string[]): ChipModel {
  const pinOf = (text: string): string => text.split('=')[0]!.trim();
  const own = new Set(statements.map(pinOf));
  return {
    ...model,
    title: `${model.title}, as this board's program uses it`,
    function: [...model.function.filter((text) => !own.has(pinOf(text))), ...statements],
  };
}
