import { across } from '../operating-point';
import type { Device } from '../device';

/** Most differences that one device looks at. */
const MOST_DIFFERENCES = 3;
const NONE = -2;

/**
 * Within which differences of two nodes each device of a circuit is known to stay on its tangent, in
 * columns, because every search asks it of thousands. Found out by and by: what a search was told
 * once need not be worked out again.
 */
export class StraightRanges {
  /** Two nodes a difference. */
  private readonly nodes: Int32Array;
  private readonly low: Float64Array;
  private readonly high: Float64Array;

  /** volts: of a device's ports at the point of the tangents, in the same array each time. */
  constructor(devices: readonly Device[], voltsOf: (device: Device) => Float64Array) {
    this.nodes = new Int32Array(devices.length * MOST_DIFFERENCES * 2).fill(NONE);
    this.low = new Float64Array(devices.length * MOST_DIFFERENCES);
    this.high = new Float64Array(devices.length * MOST_DIFFERENCES);
    devices.forEach((device, i) => {
      device.straight(voltsOf(device)).forEach(({ plus, minus, low, high }, k) => {
        const at = i * MOST_DIFFERENCES + k;
        this.nodes[2 * at] = device.ports[plus]!;
        this.nodes[2 * at + 1] = device.ports[minus]!;
        this.low[at] = low;
        this.high[at] = high;
      });
    });
  }

  /** Whether the device is known to be on its tangent at x. */
  has(i: number, x: Float64Array): boolean {
    const { nodes, low, high } = this;
    let at = i * MOST_DIFFERENCES;
    if (nodes[2 * at] === NONE) return false;
    for (const end = at + MOST_DIFFERENCES; at < end && nodes[2 * at] !== NONE; at += 1) {
      const volt = across(x, nodes[2 * at]!, nodes[2 * at + 1]!);
      if (volt < low[at]! || volt > high[at]!) return false;
    }
    return true;
  }

  /** Widens the range of a device's k-th difference to what it is at x. */
  widen(i: number, k: number, x: Float64Array): void {
    const at = i * MOST_DIFFERENCES + k;
    const volt = across(x, this.nodes[2 * at]!, this.nodes[2 * at + 1]!);
    this.low[at] = Math.min(this.low[at]!, volt);
    this.high[at] = Math.max(this.high[at]!, volt);
  }
}
