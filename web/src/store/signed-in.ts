/** Whether the server still knows who this browser is; true where nobody signs in. */
let known = true;
const watching = new Set<() => void>();

/** An answer of the server showed whether it knows who asks. */
export function sawSignIn(isKnown: boolean): void {
  if (isKnown === known) return;
  known = isKnown;
  for (const watcher of watching) watcher();
}

export const isSignedIn = (): boolean => known;

export function watchSignIn(watcher: () => void): () => void {
  watching.add(watcher);
  return () => void watching.delete(watcher);
}
