/** The header that says whose an entry is, by the id of who was signed in when it was made. */
export const ENTERED_BY = 'x-hanzai-entered-by';

const KEPT = 'hanzai-person';

/**
 * Who was last known to work in this browser: an id; undefined where nobody signs in, or nobody
 * knows. Kept, so that it is known while the server is away.
 */
export function personHere(): string | undefined {
  try {
    return localStorage.getItem(KEPT) ?? undefined;
  } catch {
    return undefined;
  }
}

/** The server said who asks; undefined: nobody signs in. */
export function sawPerson(id: string | undefined): void {
  try {
    if (id === undefined) localStorage.removeItem(KEPT);
    else localStorage.setItem(KEPT, id);
  } catch {
    // A browser that keeps nothing: the server still looks at whose an entry is.
  }
}
