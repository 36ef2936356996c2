import { readKept } from '../store/kept';

/**
 * Figures that a workshop reckons with: its own where it gave some in this browser, else the usual
 * ones. What is kept and no number above or at zero counts as not given.
 */
export function keptFigures<T extends { readonly [P in keyof T]: number }>(
  key: string,
  usual: T,
): T {
  let kept: unknown;
  try {
    kept = JSON.parse(readKept(key) ?? '{}');
  } catch {
    return usual;
  }
  if (typeof kept !== 'object' || kept === null) return usual;
  const own = kept as Record<string, unknown>;
  return Object.fromEntries(
    Object.entries(usual).map(([name, value]) => {
      const given = own[name];
      return [
        name,
        typeof given === 'number' && Number.isFinite(given) && given >= 0 ? given : value,
      ];
    }),
  ) as T;
}
