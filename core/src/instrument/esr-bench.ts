import { impedance, impedanceAfter, smallSignal, type SmallSignalNetwork } from '../circuit';
import type { LinearChange } from '../fault';
import type { Measurement } from './measurement';
import { meterOf, type MeterProfile } from './meter';
import type { Response } from './response';
import type { SolvedState } from './solved-state';

/**
 * An ESR that moves by less than this share of itself counts as unmoved: a hundredth of what the
 * meter can tell.
 */
const UNSEEN_ESR = 1e-4;

/** The ESR meter on a board that is off. */
export class EsrBench {
  /** By the frequency that it is read at. */
  private readonly networks = new Map<number, SmallSignalNetwork>();

  constructor(private readonly at: SolvedState) {}

  private network(hertz: number): SmallSignalNetwork {
    let known = this.networks.get(hertz);
    if (!known) this.networks.set(hertz, (known = smallSignal(this.at.elements, hertz)));
    return known;
  }

  respond(m: Measurement): Response {
    const meter = meterOf(m);
    const network = this.network(meter.esrHertz);
    const z = impedance(network, this.at.nodeName(m.at), this.at.nodeName(m.to));
    return z ? asResponse(z, meter) : { value: Infinity, spread: 0, fullScale: Infinity };
  }

  /** What it answers after one admittance has changed; undefined where it cannot be told. */
  after(m: Measurement, change: LinearChange): Response | undefined {
    const meter = meterOf(m);
    const [from, to] = [this.at.nodeName(m.at), this.at.nodeName(m.to)];
    const network = this.network(meter.esrHertz);
    const z = impedanceAfter(network, from, to, change, meter.esrHertz, UNSEEN_ESR);
    return z && asResponse(z, meter);
  }
}

/** What is shown of an impedance: its real part, or its size. */
function asResponse(
  { re, im, reSpread }: { readonly re: number; readonly im: number; readonly reSpread: number },
  { esrMethod }: MeterProfile,
): Response {
  return {
    value: esrMethod === 'magnitude' ? Math.hypot(re, im) : re,
    spread: reSpread,
    fullScale: Infinity,
    z: { re, im },
  };
}
