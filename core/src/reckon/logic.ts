import { FAMILY_LEVELS } from '../part';
import { choice, count, figure, NoAnswer, number, text, type Calculator } from './calculator';
import { figureText } from './figures';

const FAMILIES = Object.keys(FAMILY_LEVELS).map(
  (letters) => [letters || 'TTL', letters === '' ? 'standard TTL' : `74${letters}`] as const,
);
const levelsOf = (word: string) => FAMILY_LEVELS[word === 'TTL' ? '' : word]!;
/** Farads a metre of flat cable, and of one input. Common practice, no published source. */
const CABLE_FARAD = 60e-12;
const INPUT_FARAD = 5e-12;
/** What an input draws at 1, and what an open output leaks. From memory of data books. */
const HIGH_AMPERE = 20e-6;
const LEAK_AMPERE = 100e-6;

export const LOGIC: readonly Calculator[] = [
  {
    name: 'pull-up',
    title: 'Pull-up of a shared line',
    group: 'logic',
    formula: 'R ≥ (V − VOL) / (IOL − n IIL),  R ≤ (V − VIH) / (n IIH + m IOH),  t = 2.2 R C',
    source:
      'published TTL data books, from memory; 60 pF a metre of cable and 5 pF an input: common practice, no published source',
    fields: [
      figure('volt', 'Supply', 'V', '5V', { least: 1, most: 30 }),
      choice('family', 'Family of the inputs', FAMILIES, 'LS'),
      count('inputs', 'Inputs on the line', '4', { most: 200 }),
      count('outputs', 'Open outputs on it', '3', { least: 1, most: 200 }),
      figure('sink', 'An output sinks', 'A', '8mA', { least: 1e-6 }),
      figure('metres', 'Cable, metres', '', '2', { least: 0, most: 100 }),
      figure('ohm', 'The pull-up that is there', 'ohm', '2k2', { optional: true, least: 1 }),
    ],
    reckon: (v) => {
      const { highIn, lowIn, inputAmpere } = levelsOf(v.words('family'));
      const [inputs, outputs] = [v.figure('inputs'), v.figure('outputs')];
      const left = v.figure('sink') - inputs * inputAmpere;
      if (left <= 0)
        throw new NoAnswer('the inputs alone take more than an output sinks: too many for one');
      // Half of what an input still takes for a 0 is left to noise.
      const least = (v.figure('volt') - lowIn / 2) / left;
      const most = (v.figure('volt') - highIn) / (inputs * HIGH_AMPERE + outputs * LEAK_AMPERE);
      const farad = v.figure('metres') * CABLE_FARAD + (inputs + outputs) * INPUT_FARAD;
      const own = v.maybe('ohm');
      return [
        number('least', 'at least', least, 'ohm'),
        number('most', 'at most', most, 'ohm'),
        number(
          'rise',
          'rise with it, 10 to 90 %',
          2.2 * (own ?? Math.sqrt(least * most)) * farad,
          's',
        ),
        text(
          'verdict',
          'the one there',
          own === undefined
            ? 'not given: the rise is for the middle of the two'
            : own < least
              ? 'too small: an output cannot pull it down'
              : own > most
                ? 'too large: a 1 is no sure 1'
                : 'fits',
        ),
      ];
    },
    say: (v, r) =>
      r.value('least') > r.value('most')
        ? 'No pull-up does for so many: fewer inputs, or a stronger driver.'
        : `${r.text('least')} to ${r.text('most')}${v.maybe('ohm') === undefined ? '' : `; the one there ${r.text('verdict')}`}.`,
  },
  {
    name: 'fan-out',
    title: 'Fan-out between families',
    group: 'logic',
    formula: 'n ≤ IOL / IIL; VOH ≥ VIH and VOL ≤ VIL',
    source: 'published TTL and CMOS data books, from memory, at 5 V',
    fields: [choice('from', 'Output', FAMILIES, 'LS'), choice('to', 'Inputs', FAMILIES, 'HC')],
    reckon: (v) => {
      const [from, to] = [levelsOf(v.words('from')), levelsOf(v.words('to'))];
      const high = from.highOut - to.highIn;
      const low = to.lowIn - from.lowOut;
      return [
        number(
          'count',
          'inputs that it drives at 0',
          Math.floor(from.sinkAmpere / to.inputAmpere + 1e-9),
          'n',
        ),
        number('high', 'margin at 1', high, 'V'),
        number('low', 'margin at 0', low, 'V'),
        text('verdict', 'levels', high >= 0 && low >= 0 ? 'fit' : 'do not fit'),
      ];
    },
    say: (_, r) =>
      r.text('verdict') === 'fit'
        ? `Up to ${r.text('count')} inputs, with ${figureText(Math.min(r.value('high'), r.value('low')), 'V')} of margin.`
        : `The levels do not fit${r.value('high') < 0 ? ': a 1 is no sure 1 there; a pull-up or an HCT part helps' : ''}.`,
  },
];
