/** What an instrument answers before rounding: the value, and what part tolerance does to it. `value` is infinite for OL. */
export interface Response {
  readonly value: number;
  /** One standard deviation from part tolerance, same unit. */
  readonly spread: number;
  /** Full scale of the range in use, same unit. */
  readonly fullScale: number;
  readonly z?: { readonly re: number; readonly im: number };
}
