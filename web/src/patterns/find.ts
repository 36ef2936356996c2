import type { PatternsAnswer, TaughtPattern } from './patterns';

/** Words that mean the same at a bench. From memory of what owners say. */
const SAME: readonly (readonly string[])[] = [
  ['dead', 'no movement', 'nothing', 'silent', 'stands still'],
  ['hums', 'hum', 'buzz', 'buzzes'],
  ['spins', 'turns', 'runs', 'spin', 'turn'],
  ['eject', 'tray', 'door', 'lid'],
  ['read', 'reads', 'reading'],
  ['warm', 'hot', 'heat'],
  ['lamp', 'light', 'led'],
];

/** The words of what somebody said, without what stands between them. */
export const wordsSaid = (said: string): readonly string[] =>
  said.toLowerCase().match(/[\p{L}\d]+/gu) ?? [];

const alike = (term: string): readonly string[] =>
  SAME.find((words) => words.some((one) => one === term)) ?? [term];

/** How well a pattern answers what somebody said: so many of the words; 0 for none. */
export function matchOf(
  pattern: Pick<TaughtPattern, 'seen' | 'because' | 'suspects' | 'unitTitle'>,
  said: string,
): number {
  const { seen, because, unitTitle, suspects } = pattern;
  return matchWords(
    [seen, because, unitTitle, ...suspects.map(({ title }) => title)].join(' '),
    said,
  );
}

/** Share of the words of what somebody said that a text has; 1 where nothing is said. */
export function matchWords(text: string, said: string): number {
  const lower = text.toLowerCase();
  const terms = wordsSaid(said);
  if (terms.length === 0) return 1;
  const found = terms.filter((term) => alike(term).some((word) => lower.includes(word)));
  return found.length / terms.length;
}

/** Patterns that have any of the words, those with most of them first; all of them where nothing is said. */
export function findPatterns({ patterns }: PatternsAnswer, said: string): readonly TaughtPattern[] {
  if (wordsSaid(said).length === 0)
    return [...patterns].sort((a, b) => b.cases.length - a.cases.length);
  return patterns
    .map((pattern) => ({ pattern, match: matchOf(pattern, said) }))
    .filter(({ match }) => match > 0)
    .sort((a, b) => b.match - a.match || b.pattern.cases.length - a.pattern.cases.length)
    .map(({ pattern }) => pattern);
}
