/**
 * A pause longer than this many times the usual gap between two blinks ends a group; longer than so
 * many group pauses ends the code. From memory of bench practice.
 */
const GROUP_PAUSE = 1.8;
const CODE_PAUSE = 1.7;

/** What a lamp says when somebody taps along with it. */
export interface Rhythm {
  /** Blinks by group, for example `3-1`; the reading that most of the repeats agree on. */
  readonly code: string;
  /** Every repeat as it was tapped. */
  readonly repeats: readonly string[];
  /** Share of the repeats that agree. */
  readonly agreement: number;
}

/**
 * Turns taps into a blink code. moments: of each tap, milliseconds, ascending. Undefined below two
 * taps.
 */
export function decodeTaps(moments: readonly number[]): Rhythm | undefined {
  if (moments.length < 2) return undefined;
  const gaps = moments.slice(1).map((moment, i) => moment - moments[i]!);
  const blink = Math.min(...gaps);
  const groupPauses = gaps.filter((gap) => gap > GROUP_PAUSE * blink);
  const [shortest, longest] = [Math.min(...groupPauses), Math.max(...groupPauses)];
  // Two kinds of pause tell groups from repeats; one kind alone ends the code each time.
  const ends =
    longest > CODE_PAUSE * shortest ? Math.sqrt(longest * shortest) : GROUP_PAUSE * blink;
  const repeats: number[][] = [[1]];
  for (const gap of gaps) {
    const current = repeats.at(-1)!;
    if (gap > ends) repeats.push([1]);
    else if (gap > GROUP_PAUSE * blink) current.push(1);
    else current[current.length - 1]! += 1;
  }
  const words = repeats.map((groups) => groups.join('-'));
  const counts = new Map<string, number>();
  for (const word of words) counts.set(word, (counts.get(word) ?? 0) + 1);
  const [code, count] = [...counts].sort((a, b) => b[1] - a[1])[0]!;
  return { code, repeats: words, agreement: count / words.length };
}
