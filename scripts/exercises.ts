// npm run exercises [COUNT] [EVERY]: draws exercises on the demo boards at every level and mends what
// is hidden; the planner goes through one in EVERY of them by readings alone. Ends with 1 where one
// cannot be solved: its parts replaced and it is not sound. COUNT: 1000, EVERY: 25 where
// left out (an odd number meets all boards).
import { Session, debrief, drawExercise, LEVELS, NoExercise, refsOf } from '@hanzai/core/training';
import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';

const COUNT = Number(process.argv[2] ?? 1000);
const EVERY = Number(process.argv[3] ?? 25);
const BOARDS = ['cr40', 'yc2', 'yc2Whole', 'tl9'] as const;

interface Tally {
  drawn: number;
  none: number;
  unsolvable: string[];
  lost: string[];
  minutes: number[];
}

const tallies = new Map<string, Tally>();
const middle = (of: number[]): number => of.sort((a, b) => a - b)[Math.floor(of.length / 2)] ?? 0;

for (let n = 0; n < COUNT; n += 1) {
  const name = BOARDS[n % BOARDS.length]!;
  if (n % 20 === 0) process.stderr.write(`${n} of ${COUNT}\n`);
  const { level } = LEVELS[Math.floor(n / BOARDS.length) % LEVELS.length]!;
  const seed = 1 + Math.floor(n / (BOARDS.length * LEVELS.length));
  const key = `${name} level ${level}`;
  const tally = tallies.get(key) ?? { drawn: 0, none: 0, unsolvable: [], lost: [], minutes: [] };
  tallies.set(key, tally);
  try {
    const exercise = drawExercise(demoBoard(name), RATES, seed, level);
    tally.drawn += 1;
    const own = new Session(exercise);
    const wasSound = own.isSound;
    for (const ref of refsOf(exercise.faults)) own.replace(ref);
    if (wasSound || !own.isSound)
      tally.unsolvable.push(`seed ${seed}: ${exercise.faults.join(', ')}`);
    if (n % EVERY > 0) continue;
    const { best } = debrief(new Session(exercise), RATES);
    if (best) tally.minutes.push(best.minutes);
    else tally.lost.push(`seed ${seed}: ${exercise.faults.join(', ')}`);
  } catch (error) {
    if (!(error instanceof NoExercise)) throw error;
    tally.none += 1;
  }
}

let isBad = false;
for (const [key, { drawn, none, unsolvable, lost, minutes }] of [...tallies].sort()) {
  isBad ||= unsolvable.length > 0;
  process.stdout.write(
    `${key}: ${drawn} drawn${none > 0 ? `, ${none} with nothing for the level` : ''}, ${minutes.length} gone through by the planner in ${middle(minutes).toFixed(1)} min (median)\n`,
  );
  for (const one of unsolvable) process.stdout.write(`  cannot be solved: ${one}\n`);
  for (const one of lost) process.stdout.write(`  the planner does not come through: ${one}\n`);
}
process.exitCode = isBad ? 1 : 0;
