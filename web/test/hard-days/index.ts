// npm run hard-days [DAY] [MUCH]: what a workshop goes through on a bad day, with figures. Of each: what
// it is, and how many seconds or rounds it takes by itself.
import { rmSync } from 'node:fs';
import { base, build, place, root, say } from './common';
import { load, soak } from './crowd';
import { failover, full, slow } from './database';
import { kill } from './deaths';
import { history } from './history';

const DAYS: Readonly<
  Record<string, readonly [day: (much: number) => Promise<void>, much: number, words: string]>
> = {
  load: [load, 60, 'seconds of fifty people on ten thousand cases, by one process and by two'],
  history: [history, 125, 'copies of each closed case: every page, and how long others wait'],
  kill: [kill, 50, 'times server and database are killed at once under four writers'],
  failover: [failover, 4, 'times the database dies and its standby takes its place'],
  full: [full, 10, 'seconds of a full disk (as root: it mounts one in memory)'],
  slow: [slow, 60, 'seconds of a database that answers two seconds late'],
  soak: [soak, 1200, 'seconds of twelve people, whether memory grows'],
};
const [wanted = '', much] = process.argv.slice(2);
if (wanted !== '' && !(wanted in DAYS)) {
  for (const [name, [, usual, words]] of Object.entries(DAYS)) say(`${name} ${usual}: ${words}`);
  process.exit(1);
}
await build(root);
for (const [name, [day, usual]] of Object.entries(DAYS)) {
  if (wanted !== '' && wanted !== name) continue;
  try {
    await day(Number(much ?? usual));
  } finally {
    rmSync(base, { recursive: true, force: true });
  }
}
rmSync(place, { recursive: true, force: true });
