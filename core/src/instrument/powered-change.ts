import {
  across,
  drivenAfter,
  NO_DIFFERENCE,
  pointAfter,
  seesTheSame,
  toleranceSpread,
  type Network,
  type NearPoint,
  type MixedSignalSolution,
  type BaseLinearisation,
} from '../circuit';
import type { LinearChange } from '../fault';
import { meterOf, voltRange } from './meter';
import { UNMOVED_SHARE, type Response } from './response';

/** Solutions kept at a time. */
const MOST_KEPT = 1000;

/**
 * What is known of a measurement on the unchanged board: the answer, and what share of the open
 * voltage the meter leaves.
 */
export interface PoweredReading {
  readonly response: Response;
  readonly share: number;
}

/**
 * A powered board at rest, and the short way to what volts become when one conductance changes and
 * no chip notices. Lives as long as its board state.
 */
export class PoweredChange {
  private readonly solved = new Map<string, readonly NearPoint[] | null>();
  private readonly held = new WeakMap<NearPoint, Uint8Array>();

  constructor(
    private readonly network: Network,
    private readonly settled: MixedSignalSolution,
    private readonly points: readonly BaseLinearisation[],
  ) {}

  /**
   * Volts or logic probe between a and b after a change between p and q. Undefined where a state of
   * its own has to be solved.
   */
  respond(
    kind: 'voltage' | 'logic',
    a: number,
    b: number,
    known: PoweredReading,
    p: number,
    q: number,
    change: LinearChange,
  ): Response | undefined {
    if (known.response.unknown || known.share < 0.98) return undefined;
    const found = this.found(p, q, change.siemens);
    if (!found) return undefined;
    const phases = found.map(({ x }) => x);
    // What answered before answers now.
    const meter = meterOf(known.response);
    const { logicBiasVolt } = meter;
    const input = kind === 'logic' ? meter.logicInputOhm : meter.voltInputOhm;
    const share = input / (input + Math.max(0, found[0]!.sourceOhm(a, b)));
    const held = this.heldAt(found[0]!, p, q, change.siemens);
    if (share < 0.98 || [a, b].some((node) => node >= 0 && held[node] === 0)) return undefined;
    const volts = phases.map((x) => across(x, a, b));
    const open = volts.reduce((sum, volt) => sum + volt, 0) / volts.length;
    if (kind === 'logic') {
      const seen = volts.map((volt) => volt * share + logicBiasVolt * (1 - share));
      const pulsing =
        Math.min(...seen) < meter.logicLowVolt && Math.max(...seen) > meter.logicHighVolt;
      return {
        value: open * share + logicBiasVolt * (1 - share),
        spread: known.response.spread,
        fullScale: known.response.fullScale,
        ...(pulsing ? { pulsing } : {}),
      };
    }
    const value = open * share;
    if (Math.abs(value - known.response.value) <= UNMOVED_SHARE * known.response.spread)
      return { ...known.response, value };
    // Part tolerance is that of the unchanged circuit at the new point, with the exchanged elements
    // counted as they are now.
    const own = toleranceSpread(
      this.network,
      phases[0]!,
      found[0]!.adjoint(a, b),
      false,
      this.settled.drives[0],
      { ...change, p, q },
    );
    return { value, spread: own * share, fullScale: voltRange(value, meter) };
  }

  /**
   * Which nodes something still gives a level to: a junction that has let go leaves its node to the
   * meter.
   */
  private heldAt(point: NearPoint, p: number, q: number, siemens: number): Uint8Array {
    let held = this.held.get(point);
    if (!held) {
      const difference = { ...NO_DIFFERENCE, conductances: [{ a: p, b: q, siemens }] };
      this.held.set(
        point,
        (held = drivenAfter(
          this.points[0]!,
          this.network,
          difference,
          this.settled.drives[0]!,
          point.x,
          point.moved,
        )),
      );
    }
    return held;
  }

  /**
   * The phases after `siemens` more between p and q; undefined where a state of its own has to be
   * solved.
   */
  after(p: number, q: number, siemens: number): readonly Float64Array[] | undefined {
    return this.found(p, q, siemens)?.map(({ x }) => x);
  }

  private found(p: number, q: number, siemens: number): readonly NearPoint[] | undefined {
    const key = `${p}|${q}|${siemens}`;
    const known = this.solved.get(key);
    if (known !== undefined) return known ?? undefined;
    if (this.solved.size >= MOST_KEPT) this.solved.delete(this.solved.keys().next().value!);
    const found: NearPoint[] = [];
    for (const point of this.points) {
      const near = pointAfter(point, p, q, siemens);
      if (!near) break;
      found.push(near);
    }
    const whole =
      found.length === this.points.length && seesTheSame(this.network, this.settled, found);
    this.solved.set(key, whole ? found : null);
    return whole ? found : undefined;
  }
}
