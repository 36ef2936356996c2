// npm run corpus: scores the engine on the corpus that the reference simulator made
// (core/test/reference/corpus), and holds what it says against what was so. SHOW=1 lists the
// misses; BRUTE=1 holds it against a plain dictionary on exact sheets. Exits with 1 where a
// threshold is not held.
import {
  corpusCases,
  isExact,
  readingsOf,
  score,
  sheetOf,
  THRESHOLDS,
  thresholdsMissed,
  type CorpusCase,
  type Scored,
} from '../core/test/reference/corpus';
import { BruteForce } from './brute-force';

const only = process.env.ONLY;
const all = corpusCases().filter(({ board }) => !only || board.includes(only));
const results: { one: CorpusCase; scored: Scored }[] = [];
const started = performance.now();
for (const one of all) results.push({ one, scored: score(one) });

const SHOW = process.env.SHOW !== undefined;
const share = (list: readonly { scored: Scored }[], what: (scored: Scored) => boolean): string => {
  const hits = list.filter(({ scored }) => what(scored)).length;
  return `${hits}/${list.length} (${((100 * hits) / Math.max(1, list.length)).toFixed(1)} %)`;
};

function table(title: string, list: readonly { one: CorpusCase; scored: Scored }[]): void {
  const of = (kind: CorpusCase['kind']): typeof list => list.filter(({ one }) => one.kind === kind);
  process.stdout.write(
    `${title}: first ${share(of('single'), ({ first }) => first)}, among three ${share(of('single'), ({ three }) => three)}, pairs among four ${share(of('pair'), ({ four }) => four)}, sound in peace ${share(of('sound'), ({ peace }) => peace)}, none of these leads ${share(list, ({ noneLeads }) => noneLeads)}\n`,
  );
}

table('all', results);
table(
  'exact sheets',
  results.filter(({ one }) => isExact(one)),
);
table(
  'ESR not stated only',
  results.filter(
    ({ one }) =>
      !one.sheet.esrStated &&
      one.sheet.missing.length === 0 &&
      Object.keys(one.sheet.wrong).length === 0,
  ),
);
table(
  'parts missing',
  results.filter(({ one }) => one.sheet.missing.length > 0),
);
table(
  'a value typed wrongly',
  results.filter(({ one }) => Object.keys(one.sheet.wrong).length > 0),
);
for (const board of new Set(all.map(({ board }) => board)))
  table(
    board,
    results.filter(({ one }) => one.board === board),
  );

if (process.env.BRUTE !== undefined) {
  const exact = results.filter(({ one }) => isExact(one));
  const tally = { first: 0, three: 0, four: 0, peace: 0 };
  for (const board of new Set(exact.map(({ one }) => one.board))) {
    const own = exact.filter(({ one }) => one.board === board);
    const index = sheetOf(own[0]!.one);
    const taken = own.map(({ one }) => readingsOf(index, one));
    const dictionary = new BruteForce(index, [
      ...new Map(
        taken
          .flat()
          .map(({ measurement }) => [
            JSON.stringify([
              measurement.kind,
              measurement.setup,
              measurement.at.net,
              measurement.to.net,
            ]),
            measurement,
          ]),
      ).values(),
    ]);
    own.forEach(({ one }, i) => {
      const { first, three, four, peace } = dictionary.score(one, taken[i]!);
      if (one.kind === 'single')
        [tally.first, tally.three] = [tally.first + Number(first), tally.three + Number(three)];
      if (one.kind === 'pair') tally.four += Number(four);
      if (one.kind === 'sound') tally.peace += Number(peace);
    });
  }
  const count = (kind: CorpusCase['kind']): number =>
    exact.filter(({ one }) => one.kind === kind).length;
  process.stdout.write(
    `a plain dictionary on exact sheets: first ${tally.first}/${count('single')}, among three ${tally.three}/${count('single')}, pairs among four ${tally.four}/${count('pair')}, sound in peace ${tally.peace}/${count('sound')}\n`,
  );
}
const missed = thresholdsMissed(results);
for (const words of missed) process.stdout.write(`not held: ${words}\n`);
if (missed.length > 0) process.exitCode = 1;
process.stdout.write(`thresholds: ${JSON.stringify(THRESHOLDS)}\n`);

/** How probable the three likeliest parts were said to be, and how often they were it. */
const BINS = 10;
const bins = Array.from({ length: BINS }, () => ({ count: 0, stated: 0, right: 0 }));
for (const { one, scored } of results) {
  for (const { ref, probability } of scored.belief.byPart.slice(0, 3)) {
    const bin = bins[Math.min(BINS - 1, Math.floor(probability * BINS))]!;
    bin.count += 1;
    bin.stated += probability;
    bin.right += one.truth.some(
      ([truth]) =>
        truth === ref ||
        (ref.includes('~') && ref.split('~').some((place) => place.startsWith(`${truth}.`))),
    )
      ? 1
      : 0;
  }
}
const count = bins.reduce((sum, bin) => sum + bin.count, 0);
const error = bins.reduce((sum, bin) => sum + Math.abs(bin.stated - bin.right), 0) / count;
process.stdout.write(
  `expected calibration error ${(100 * error).toFixed(1)} % over ${count} statements\n`,
);
for (const [i, bin] of bins.entries())
  if (bin.count > 0)
    process.stdout.write(
      `  ${i * 10} to ${i * 10 + 10} %: ${bin.count} stated ${((100 * bin.stated) / bin.count).toFixed(1)} %, so ${((100 * bin.right) / bin.count).toFixed(1)} %\n`,
    );
process.stdout.write(
  `${all.length} cases in ${((performance.now() - started) / 1000).toFixed(0)} s\n`,
);

if (SHOW)
  for (const { one, scored } of results) {
    const good =
      one.kind === 'single' ? scored.first : one.kind === 'pair' ? scored.four : scored.peace;
    if (good && !scored.noneLeads) continue;
    const { belief } = scored;
    process.stdout.write(
      `\n${good ? 'ok  ' : one.kind === 'single' && scored.three ? '2-3 ' : 'MISS'} ${one.board} ${one.kind} ${one.truth.map(([ref, mode, severity]) => `${ref}:${mode}@${severity}`).join(' + ')} alike ${one.alike.map((a) => a.join(',')).join(' | ')}; sheet ${JSON.stringify(one.sheet)} meter ${JSON.stringify((one as { meter?: unknown }).meter)}\n  readings ${one.readings.map((r, i) => `${r.join(' ')} (sound ${belief.expected[i]?.display ?? '?'})`).join('; ')}\n  says ${belief.byPart
        .slice(0, 5)
        .map(({ ref, probability }) => `${ref} ${probability.toFixed(2)}`)
        .join(
          ', ',
        )}; healthy ${belief.healthy.toFixed(2)} none ${belief.unmodelled.toFixed(2)}; ${belief.suspects
        .slice(0, 3)
        .map(({ hypothesis, probability }) => `${hypothesis.name} ${probability.toFixed(2)}`)
        .join(', ')}\n`,
    );
  }
