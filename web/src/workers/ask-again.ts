/**
 * How often, and after how long, milliseconds: what is in front of it comes to its end meanwhile.
 */
const MOST = 40;
const PAUSE = 250;

/**
 * Asks the engine until it answers. A question that waits while a newer request comes is let go
 * without an answer; whoever still wants it asks again, or an old answer would stand for a new
 * board. Ends without one where nobody wants it any more, or the engine never comes to it.
 */
export async function askAgain<T>(
  ask: () => Promise<T | undefined>,
  isWanted: () => boolean,
  pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, PAUSE)),
): Promise<T | undefined> {
  for (let asked = 0; asked < MOST && isWanted(); asked += 1) {
    const answer = await ask();
    if (answer !== undefined) return answer;
    await pause();
  }
  return undefined;
}
