import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { prepareDatabase } from '../../src/server/db/prepare';
import { base, keepDatabase, pause, place, quantile, say, serve, writers } from './common';

const WRITERS = 4;

/** The first process of a database. */
export const postmaster = (name: string): number =>
  Number(readFileSync(join(base, name, 'data', 'postmaster.pid'), 'utf8').split('\n')[0]);

/** Server and database killed at once, as often as asked. */
export async function kill(rounds: number): Promise<void> {
  const kept = await keepDatabase(place, 'hard', () => undefined);
  await prepareDatabase(kept.url('hanzai'));
  const served = await serve(kept.url('hanzai'), 2);
  const work = await writers(served, WRITERS);
  const away: number[] = [];
  for (let round = 0; round < rounds; round += 1) {
    await work.more(8);
    await pause(Math.random() * 200);
    const main = served.child().pid!;
    const children = readFileSync(`/proc/${main}/task/${main}/children`, 'utf8').trim().split(' ');
    const gone = performance.now();
    for (const pid of [...children, main, postmaster('hard')])
      try {
        process.kill(Number(pid), 'SIGKILL');
      } catch {
        // It went with the others.
      }
    await work.more(WRITERS + 1);
    away.push(performance.now() - gone);
  }
  const found = await work.end();
  away.sort((a, b) => a - b);
  say(
    `${rounds} times server and database killed at once under ${WRITERS} writers: ${found}; away for ${(quantile(away, 0.5) / 1000).toFixed(1)} s, at most ${(away.at(-1)! / 1000).toFixed(1)} s`,
  );
  await served.stop();
  await kept.stop();
}
