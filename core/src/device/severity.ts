/**
 * How bad a fault mode can be: a range that is uniform on a log scale, or one value where low =
 * high. typical: what stands for all of it where one value is wanted. Unit: ohm for open, short,
 * leaky, dry and bridge; a factor on the healthy value for the rest.
 */
export interface SeverityRange {
  readonly low: number;
  readonly high: number;
  readonly typical?: number;
}

/**
 * Ranges that the fault modes stand for: without gaps from a dead short to what no meter sees, so
 * that no reading falls between two modes. Sources: the typical values are those of the core's
 * outside interface, "Severities"; the ranges from memory of bench practice.
 */
export const SEVERITY = {
  open: { low: 1e8, high: 1e8 },
  /** A contact: dirty, or gone. */
  contact: { low: 1, high: 1e8, typical: 1e8 },
  short: { low: 0.05, high: 60, typical: 0.3 },
  leaky: { low: 60, high: 5e6, typical: 300 },
  highEsr: { low: 3, high: 1000, typical: 70 },
  lowCapacitance: { low: 0.03, high: 0.65, typical: 0.12 },
  driftHigh: { low: 1.15, high: 20, typical: 3.5 },
  driftLow: { low: 0.05, high: 0.85, typical: 0.35 },
} as const satisfies Record<string, SeverityRange>;

/**
 * The severity that stands for the whole range where one value is wanted: the typical one, else its
 * geometric mean.
 */
export function typicalSeverity({ low, high, typical }: SeverityRange): number {
  return typical ?? Math.sqrt(low * high);
}

/**
 * Decades that one step between two solved severities may span: what lies between is then a
 * quotient of two straight lines, or near enough.
 */
const STEP_DECADES = 1.1;

/**
 * Severities to be solved exactly: evenly spread over the range on a log scale, ends included, no
 * further apart than STEP_DECADES; one value where the range is a point.
 */
export function severityGrid(range: SeverityRange): readonly number[] {
  if (range.low === range.high) return [typicalSeverity(range)];
  const count = Math.max(3, 1 + Math.ceil(Math.log10(range.high / range.low) / STEP_DECADES));
  const step = Math.log(range.high / range.low) / (count - 1);
  return Array.from({ length: count }, (_, i) => range.low * Math.exp(i * step));
}
