/** Progress in words: one line a step, with how long it took. */
export async function step(words, work) {
  const started = Date.now();
  process.stdout.write(`  ${words} … `);
  try {
    const result = await work();
    const seconds = ((Date.now() - started) / 1000).toFixed(1);
    process.stdout.write(`done (${seconds} s)\n`);
    return result;
  } catch (error) {
    process.stdout.write('failed\n');
    throw error;
  }
}

/** The same for steps that go on side by side: said when it is done. */
export async function sideStep(words, work) {
  const started = Date.now();
  const say = (how) =>
    process.stdout.write(`  ${words} … ${how} (${((Date.now() - started) / 1000).toFixed(1)} s)\n`);
  try {
    const result = await work();
    say('done');
    return result;
  } catch (error) {
    say('failed');
    throw error;
  }
}

/** A failure with a remedy: printed without a stack. */
export class Remedy extends Error {}

/** Prints a failure so that the reader knows what to do, and sets the exit status. */
export function complain(error) {
  process.stderr.write(
    error instanceof Remedy ? `\n${error.message}\n` : `\n${error.stack ?? error}\n`,
  );
  process.exitCode = 1;
}
