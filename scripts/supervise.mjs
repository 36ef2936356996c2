// Keeps something alive: starts it again when it ends by itself, after a while that grows with
// every failure in a row.

/**
 * Pauses between starts, milliseconds; the last one is kept to. Something that stayed up this long
 * begins anew.
 */
const PAUSES = [500, 1000, 2000, 5000, 15_000];
const STEADY_AFTER = 60_000;

/**
 * start: begins it and resolves, once it is up, to { ended, stop }: a promise of words saying how
 * it ended, and what ends it on purpose. say: takes a line for whoever watches.
 * Resolves, once it was up for the first time, to { stop, current }. A first start that fails
 * rejects: nothing is tried again that never worked.
 */
export async function keepAlive(
  name,
  start,
  { say = () => {}, pauses = PAUSES, onUp = () => {} } = {},
) {
  let stopping = false;
  let failures = 0;
  let wake = () => {};
  let own = await start();
  let since = Date.now();
  onUp(own);
  const wait = (milliseconds) =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, milliseconds);
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  const watch = (async () => {
    for (;;) {
      const how = await own.ended;
      if (stopping) return;
      failures = Date.now() - since > STEADY_AFTER ? 1 : failures + 1;
      for (;;) {
        const pause = pauses[Math.min(failures, pauses.length) - 1];
        say(`${name} ended (${how}); starting it again in ${pause / 1000} s`);
        await wait(pause);
        if (stopping) return;
        try {
          own = await start();
          break;
        } catch (error) {
          failures += 1;
          say(`${name} did not start: ${error.message.split('\n')[0]}`);
        }
      }
      if (stopping) return void (await own.stop());
      since = Date.now();
      say(`${name} is up again`);
      onUp(own);
    }
  })();
  return {
    get current() {
      return own;
    },
    async stop() {
      stopping = true;
      wake();
      await own.stop();
      await watch;
    },
  };
}

/** How a child process ended, in words; resolves when it has. */
export function endOf(child) {
  return new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null)
      resolve(words(child.exitCode, child.signalCode));
    child.once('exit', (code, signal) => resolve(words(code, signal)));
    child.once('error', (error) => resolve(error.message));
  });
}

const words = (code, signal) => (signal ? `signal ${signal}` : `status ${code}`);

/** Ends a child process: asked first, then made to. graceMilliseconds: how long it may take. */
export async function endChild(child, signal = 'SIGTERM', graceMilliseconds = 4000) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = endOf(child);
  child.kill(signal);
  const timer = setTimeout(() => child.kill('SIGKILL'), graceMilliseconds);
  await ended;
  clearTimeout(timer);
}
