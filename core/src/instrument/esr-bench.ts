import { impedance, impedanceAfter, smallSignal, type SmallSignalNetwork } from '../circuit';
import type { LinearChange } from '../fault';
import type { Measurement } from './measurement';
import { STANDARD_METER as METER } from './meter';
import type { Response } from './response';
import type { SolvedState } from './solved-state';

/**
 * An ESR that moves by less than this share of itself counts as unmoved: a hundredth of what the
 * meter can tell.
 */
const UNSEEN_ESR = 1e-4;

/** The ESR meter on a board that is off. */
export class EsrBench {
  private ac?: SmallSignalNetwork;

  constructor(private readonly at: SolvedState) {}

  private get network(): SmallSignalNetwork {
    return (this.ac ??= smallSignal(this.at.elements, METER.esrHertz));
  }

  respond(m: Measurement): Response {
    const z = impedance(this.network, this.at.nodeName(m.at), this.at.nodeName(m.to));
    return z ? asResponse(z) : { value: Infinity, spread: 0, fullScale: Infinity };
  }

  /** What it answers after one admittance has changed; undefined where it cannot be told. */
  after(m: Measurement, change: LinearChange): Response | undefined {
    const [from, to] = [this.at.nodeName(m.at), this.at.nodeName(m.to)];
    const z = impedanceAfter(this.network, from, to, change, METER.esrHertz, UNSEEN_ESR);
    return z && asResponse(z);
  }
}

const asResponse = (z: {
  readonly re: number;
  readonly im: number;
  readonly reSpread: number;
}): Response => ({
  value: z.re,
  spread: z.reSpread,
  fullScale: Infinity,
  z: { re: z.re, im: z.im },
});
