/** How bad a fault mode can be: a range that is uniform on a log scale, or one value where low = high.
 *  Unit: ohm for open, short, leaky, dry and bridge; a factor on the healthy value for the rest. */
export interface SeverityRange {
  readonly low: number;
  readonly high: number;
}

/** Ranges that the fault modes stand for. Source: the outside interface of the core, docs/formats/faults.md. */
export const SEVERITY = {
  open: { low: 1e8, high: 1e8 },
  short: { low: 0.3, high: 0.3 },
  leaky: { low: 50, high: 2000 },
  highEsr: { low: 15, high: 300 },
  lowCapacitance: { low: 0.05, high: 0.3 },
  driftHigh: { low: 1.6, high: 8 },
  driftLow: { low: 0.2, high: 0.6 },
} as const satisfies Record<string, SeverityRange>;

/** The severity that stands for the whole range where one value is wanted: its geometric mean. */
export function typicalSeverity(range: SeverityRange): number {
  return Math.sqrt(range.low * range.high);
}

/** `count` severities evenly spread over the range on a log scale, ends included; one value where the range is a point. */
export function severityGrid(range: SeverityRange, count: number): readonly number[] {
  if (range.low === range.high || count < 2) return [typicalSeverity(range)];
  const step = Math.log(range.high / range.low) / (count - 1);
  return Array.from({ length: count }, (_, i) => range.low * Math.exp(i * step));
}
