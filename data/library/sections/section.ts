/**
 * A section of a drive board as it is drawn again and again: to be put into a sheet, given the
 * board's own names, and cut down to what the board has.
 */
export interface Section {
  readonly name: string;
  readonly title: string;
  /** Nets by which it joins the rest, with what they are. Ground is 0 everywhere. */
  readonly ports: Readonly<Record<string, string>>;
  /** A bench sheet. Values are typical: the board's own are read off the board. */
  readonly sheet: string;
  /** What drives it where it stands alone: for the tests, never put into a sheet. */
  readonly feed: string;
  /** What it does when it fails, in bench words. */
  readonly fails: readonly string[];
}
