import { across, Chord, heldNodes, seesTheSame, toleranceSpread, type Network, type Settled } from '../circuit';
import { STANDARD_METER as METER, voltRange } from './meter';
import type { Response } from './response';

/** A reading that a fault moves by less than this share of its standard deviation keeps that deviation. */
const UNMOVED_SHARE = 0.1;
/** What the sound board's Jacobian leaves out of the spread of a voltage that has moved, as a share of the way it moved. From memory of bench practice. */
const MOVED_SPREAD = 0.01;
/** Solutions kept at a time. */
const MOST_KEPT = 6000;

/** What is known of a measurement on the unchanged board: the answer, and what share of the open voltage the meter leaves. */
export interface PoweredReading {
  readonly response: Response;
  readonly share: number;
}

/** A powered board at rest, and the short way to what volts become when one conductance changes and no chip notices. Lives as long as its board state. */
export class PoweredChange {
  private readonly chords: readonly Chord[];
  private readonly solved = new Map<string, readonly Float64Array[] | null>();
  private readonly held = new WeakMap<Float64Array, Uint8Array>();
  private readonly adjoints = new Map<number, Float64Array>();

  constructor(
    private readonly network: Network,
    private readonly settled: Settled,
  ) {
    this.chords = settled.phases.map((x, phase) => new Chord(network, settled.drives[phase]!, x));
  }

  /** Volts or logic probe between a and b after `siemens` more between p and q. Undefined where a state of its own has to be solved. */
  respond(kind: 'voltage' | 'logic', a: number, b: number, known: PoweredReading, p: number, q: number, siemens: number): Response | undefined {
    if (known.response.unknown || known.share < 0.98) return undefined;
    const phases = this.after(p, q, siemens);
    if (!phases) return undefined;
    const share = this.shareAfter(kind, a, b, p, q, siemens);
    if (share < 0.98 || !this.isHeld(phases[0]!, a) || !this.isHeld(phases[0]!, b)) return undefined;
    const volts = phases.map((x) => across(x, a, b));
    const open = volts.reduce((sum, volt) => sum + volt, 0) / volts.length;
    if (kind === 'logic') {
      const seen = volts.map((volt) => volt * share + METER.logicBiasVolt * (1 - share));
      const pulsing = Math.min(...seen) < METER.logicLowVolt && Math.max(...seen) > METER.logicHighVolt;
      return {
        value: open * share + METER.logicBiasVolt * (1 - share),
        spread: known.response.spread,
        fullScale: known.response.fullScale,
        ...(pulsing ? { pulsing } : {}),
      };
    }
    const value = open * share;
    if (Math.abs(value - known.response.value) <= UNMOVED_SHARE * known.response.spread) return { ...known.response, value };
    const spread = Math.hypot(this.spreadAfter(a, b, phases[0]!, p, q, siemens) * share, MOVED_SPREAD * (value - known.response.value));
    return { value, spread, fullScale: voltRange(value) };
  }

  /** Whether something still gives a node its level: a junction that has let go leaves it to the meter. */
  private isHeld(x: Float64Array, node: number): boolean {
    if (node < 0) return true;
    let held = this.held.get(x);
    if (!held) this.held.set(x, (held = heldNodes(this.network, this.settled.drives[0]!, x)));
    return held[node] === 1;
  }

  /** Share of the open voltage that the instrument leaves: its input against what it looks into after the change. */
  private shareAfter(kind: 'voltage' | 'logic', a: number, b: number, p: number, q: number, siemens: number): number {
    const [own, change] = [this.chords[0]!.column(a, b), this.chords[0]!.column(p, q)];
    const ohm = across(own, a, b) - (siemens * across(own, p, q) * across(change, a, b)) / (1 + siemens * across(change, p, q));
    const input = kind === 'logic' ? METER.logicInputOhm : METER.voltInputOhm;
    return input / (input + Math.max(0, ohm));
  }

  /** The phases after `siemens` more between p and q; undefined where a state of its own has to be solved. */
  after(p: number, q: number, siemens: number): readonly Float64Array[] | undefined {
    const key = `${p}|${q}|${siemens}`;
    const known = this.solved.get(key);
    if (known !== undefined) return known ?? undefined;
    if (this.solved.size >= MOST_KEPT) this.solved.delete(this.solved.keys().next().value!);
    const phases: Float64Array[] = [];
    for (const chord of this.chords) {
      const x = chord.after(p, q, siemens);
      if (!x) break;
      phases.push(x);
    }
    const whole = phases.length === this.chords.length && seesTheSame(this.network, this.settled, phases);
    this.solved.set(key, whole ? phases : null);
    return whole ? phases : undefined;
  }

  /** Spread with the changed conductance in the adjoint, the rest linear about the unchanged board. */
  private spreadAfter(a: number, b: number, x: Float64Array, p: number, q: number, siemens: number): number {
    const output = this.adjoint(a, b);
    const change = this.adjoint(p, q);
    const factor = (siemens * across(output, p, q)) / (1 + siemens * across(change, p, q));
    const adjoint = output.map((value, i) => value - factor * change[i]!);
    return toleranceSpread(this.network, x, adjoint, false, this.settled.drives[0]);
  }

  private adjoint(a: number, b: number): Float64Array {
    const key = (a + 1) * (this.network.nodeCount + 1) + b + 1;
    let known = this.adjoints.get(key);
    if (!known) this.adjoints.set(key, (known = this.chords[0]!.adjoint(a, b)));
    return known;
  }
}
