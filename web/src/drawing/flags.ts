/** What a flag says: what was read, and where that is wrong what a sound board shows. */
export interface FlagWords {
  readonly read: string;
  readonly should: string;
  /** Whether it was compared with a sound board at all. */
  readonly isJudged: boolean;
}

/** Width of the flag itself, px. */
export const poleWidth = ({ read }: FlagWords): number => read.length * 9.5 + 16;
/** Room that flag and words beside it take on the drawing, px. */
export const flagWidth = (words: FlagWords | undefined): number =>
  words ? poleWidth(words) + words.should.length * 9.5 + 8 : 0;

/** Room that what a net would have takes behind its name, px. */
export const voltsWidth = (volts: string | undefined): number =>
  volts === undefined ? 0 : (volts.length + 1) * 9.5;
