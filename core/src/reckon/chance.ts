import { cleanStartsAtRate, cleanStartsNeeded, exactTest } from '../block';
import { shareAtMost, shareInterval } from '../statistics';
import { count, figure, NoAnswer, number, type Calculator } from './calculator';

/** Logarithm of the number of ways to choose k of n. */
function logChoose(n: number, k: number): number {
  let sum = 0;
  for (let i = 1; i <= k; i += 1) sum += Math.log((n - k + i) / i);
  return sum;
}

/**
 * Chance that k of the drawn are bad, without putting back. Source: the hypergeometric
 * distribution.
 */
export function hypergeometric(all: number, bad: number, drawn: number, k: number): number {
  if (k > bad || k > drawn || drawn - k > all - bad) return 0;
  return Math.exp(logChoose(bad, k) + logChoose(all - bad, drawn - k) - logChoose(all, drawn));
}

export const CHANCE: readonly Calculator[] = [
  {
    name: 'bayes',
    title: 'What one test says',
    group: 'chance',
    formula:
      'odds after = odds before · P(seen | bad) / P(seen | good);  10 log₁₀ of the ratio in decibans',
    source: 'T. Bayes, Phil. Trans. 53, 1763; decibans: I. J. Good, Biometrika 66, 1979',
    fields: [
      figure('before', 'Believed bad before', '%', '30%', { least: 0, most: 100 }),
      figure('bad', 'A bad one shows this', '%', '90%', { least: 0, most: 100 }),
      figure('good', 'A good one shows this', '%', '10%', { least: 0, most: 100 }),
    ],
    reckon: (v) => {
      const [before, bad, good] = ['before', 'bad', 'good'].map((name) => v.figure(name) / 100) as [
        number,
        number,
        number,
      ];
      const whole = before * bad + (1 - before) * good;
      if (whole === 0)
        throw new NoAnswer('neither a good nor a bad one shows this: then it was not seen');
      return [
        number('after', 'believed bad after', (100 * before * bad) / whole, '%'),
        number('weight', 'weight of evidence', 10 * Math.log10(bad / good), 'dB'),
        number(
          'other',
          'and if it had not been seen',
          (100 * before * (1 - bad)) / Math.max(1e-300, 1 - whole),
          '%',
        ),
      ];
    },
    say: (_, r) => `Believed bad now ${r.text('after')}; had it not been seen, ${r.text('other')}.`,
  },
  {
    name: 'proof',
    title: 'How many passes, how many starts',
    group: 'chance',
    formula: '(1 − p)^n;  with a rate known from starts alone the beta-binomial',
    source:
      'the binomial; E. T. Jaynes and any text for the uniform prior; rule of three: JAMA 249, 1983',
    fields: [
      count('failed', 'Failed before', '3', { most: 9999 }),
      count('tries', 'of so many starts', '10', { least: 1, most: 9999 }),
      count('clean', 'Clean since', '0', { most: 99999 }),
      figure('sure', 'To be sure at', '%', '95%', { least: 50, most: 99.9 }),
    ],
    reckon: (v) => {
      const [failed, tries, sure] = [v.figure('failed'), v.figure('tries'), v.figure('sure') / 100];
      if (failed > tries) throw new NoAnswer('more failures than starts');
      return [
        number(
          'needed',
          'clean ones in a row, the rate known from those',
          cleanStartsNeeded(failed, tries, sure),
          'n',
        ),
        number(
          'known',
          'clean ones, were the rate known well',
          failed === 0 ? Infinity : cleanStartsAtRate(failed / tries, sure),
          'n',
        ),
        number(
          'open',
          'rate that the clean ones leave open',
          v.figure('clean') === 0 ? 100 : 100 * shareAtMost(0, v.figure('clean'), sure),
          '%',
        ),
      ];
    },
    say: (v, r) =>
      v.figure('clean') === 0
        ? `${r.text('needed')} clean ones in a row; nothing is shown yet.`
        : `${r.text('needed')} clean ones in a row; with ${v.figure('clean')} so far a rate below ${r.text('open')} is shown, never that it works.`,
  },
  {
    name: 'two-conditions',
    title: 'Does it matter: two conditions',
    group: 'chance',
    formula: 'the chance of a table as lopsided as this by luck alone',
    source: 'R. A. Fisher, The Design of Experiments, 1935',
    fields: [
      count('a', 'Failed with', '3', { most: 500 }),
      count('b', 'came through with', '1', { most: 500 }),
      count('c', 'Failed without', '1', { most: 500 }),
      count('d', 'came through without', '3', { most: 500 }),
    ],
    reckon: (v) => {
      const [a, b, c, d] = ['a', 'b', 'c', 'd'].map((name) => v.figure(name)) as [
        number,
        number,
        number,
        number,
      ];
      if (a + b === 0 || c + d === 0) throw new NoAnswer('one of the two was never tried');
      return [
        number('chance', 'by luck alone', 100 * exactTest(a, b, c, d), '%'),
        number('with', 'fails with', (100 * a) / (a + b), '%'),
        number('without', 'fails without', (100 * c) / (c + d), '%'),
      ];
    },
    say: (_, r) =>
      r.value('chance') > 5
        ? `It may well be luck (${r.text('chance')}): more starts under both.`
        : `Hardly luck (${r.text('chance')}); what else changed with it?`,
  },
  {
    name: 'swaps',
    title: 'Some of so many are bad',
    group: 'chance',
    formula: 'hypergeometric: C(K,k) C(N−K,n−k) / C(N,n)',
    source: 'the hypergeometric distribution; any text on sampling',
    fields: [
      count('all', 'Alike on the board', '8', { least: 1, most: 400 }),
      count('bad', 'of them bad', '4', { most: 400 }),
      count('drawn', 'Tested or swapped', '2', { most: 400 }),
    ],
    reckon: (v) => {
      const [all, bad, drawn] = [v.figure('all'), v.figure('bad'), v.figure('drawn')];
      if (bad > all || drawn > all) throw new NoAnswer('more than there are');
      const none = hypergeometric(all, bad, drawn, 0);
      let needed = 0;
      while (needed < all && bad > 0 && hypergeometric(all, bad, needed, 0) > 0.05) needed += 1;
      return [
        number('none', 'none of the bad among them', 100 * none, '%'),
        number('every', 'all the bad among them', 100 * hypergeometric(all, bad, drawn, bad), '%'),
        number('mean', 'bad among them, on average', (drawn * bad) / all),
        number('needed', 'to find one at 95 %', bad === 0 ? Infinity : needed),
      ];
    },
    say: (v, r) =>
      `Of ${v.figure('drawn')} drawn are bad, on average, ${r.text('mean')}; none of them ${r.text('none')}, all ${r.text('every')}.`,
  },
  {
    name: 'share',
    title: 'How often it happens',
    group: 'chance',
    formula: 'limits at which so many or fewer, so many or more, are still possible',
    source: 'C. J. Clopper, E. S. Pearson, Biometrika 26, 1934',
    fields: [
      count('seen', 'Seen', '2', { most: 99999 }),
      count('of', 'of', '10', { least: 1, most: 99999 }),
    ],
    reckon: (v) => {
      if (v.figure('seen') > v.figure('of')) throw new NoAnswer('more seen than there were');
      const { low, high } = shareInterval(v.figure('seen'), v.figure('of'));
      return [
        number('share', 'share', (100 * v.figure('seen')) / v.figure('of'), '%'),
        number('low', 'at least, 95 %', 100 * low, '%'),
        number('high', 'at most, 95 %', 100 * high, '%'),
      ];
    },
    say: (_, r) => `Between ${r.text('low')} and ${r.text('high')}.`,
  },
];
