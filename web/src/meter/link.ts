/** A line to an instrument that speaks SCPI: one program message a line, one line for an answer. */
export interface MeterLink {
  /** Sends a message that is not answered. */
  readonly tell: (message: string) => Promise<void>;
  /** Sends a query and waits for its answer. */
  readonly ask: (message: string) => Promise<string>;
  readonly close: () => void;
}

/** The instrument does not answer any more, with why. */
export class LinkLost extends Error {}

/** The instrument did not answer within its time, but may yet. */
export class LinkSlow extends Error {}

/** How long an answer may take: a slow meter integrates for a second or two. */
export const PATIENCE_MILLISECONDS = 6000;

/** What a promise gives, or LinkSlow where it gives nothing for so long. */
export function within<T>(promise: Promise<T>, milliseconds = PATIENCE_MILLISECONDS): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(
      () => reject(new LinkSlow(`no answer for ${Math.round(milliseconds / 1000)} s`)),
      milliseconds,
    );
    promise.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}
