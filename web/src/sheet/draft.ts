/** What was typed of a sheet and is not stored yet, kept in this browser. key: its id, or `new`. */
export interface Draft {
  readonly text: string;
  /** When it was typed last, as ISO 8601. */
  readonly at: string;
}

const name = (key: string): string => `sheet:${key}`;

/** The draft of a sheet; undefined where there is none, or the browser keeps nothing. */
export function readDraft(key: string): Draft | undefined {
  try {
    const value = JSON.parse(localStorage.getItem(name(key)) ?? 'null') as Partial<Draft> | null;
    return typeof value?.text === 'string' && typeof value.at === 'string'
      ? { text: value.text, at: value.at }
      : undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a draft; false where the browser does not. */
export function keepDraft(key: string, text: string): boolean {
  try {
    localStorage.setItem(name(key), JSON.stringify({ text, at: new Date().toISOString() }));
    return true;
  } catch {
    return false;
  }
}

export function dropDraft(key: string): void {
  try {
    localStorage.removeItem(name(key));
  } catch {
    // Nothing is kept, so nothing is left.
  }
}
