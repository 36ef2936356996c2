/** What this browser keeps for its next page; undefined where it keeps nothing. */
export function readKept(key: string): string | undefined {
  try {
    return globalThis.localStorage?.getItem(key) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a choice for the next page, or forgets it. A browser that keeps nothing forgets it by itself. */
export function keep(key: string, value: string | undefined): void {
  try {
    if (value === undefined) localStorage.removeItem(key);
    else localStorage.setItem(key, value);
  } catch {
    // It holds for this page then.
  }
}
