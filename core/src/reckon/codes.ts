import { nearestPreferred, type ESeries } from '../quantity';
import { choice, figure, NoAnswer, number, text, type Calculator } from './calculator';
import { readDateCode } from './date-code';
import { figureText } from './figures';
import { readCode } from './marks';
import { nearestPair, offText } from './pairs';
import { readRings, ringsOf } from './rings';

export const CODES: readonly Calculator[] = [
  {
    name: 'rings',
    title: 'Rings of a resistor',
    group: 'codes',
    formula: 'two or three figures, a multiplier, a tolerance, a drift',
    source: 'IEC 60062:2016, table 1',
    fields: [
      {
        kind: 'words',
        name: 'rings',
        label: 'Rings, from the end they crowd at',
        example: 'yellow violet red gold',
      },
    ],
    reckon: (v) => {
      const { ohm, tolerance, drift } = readRings(v.words('rings'));
      return [
        number('value', 'value', ohm, 'ohm'),
        number('tolerance', 'tolerance', tolerance, '%'),
        number('low', 'at least', ohm * (1 - tolerance / 100), 'ohm'),
        number('high', 'at most', ohm * (1 + tolerance / 100), 'ohm'),
        ...(drift === undefined ? [] : [text('drift', 'drift', `${drift} millionths a kelvin`)]),
      ];
    },
    say: (_, r) =>
      `${r.text('value')} ±${r.text('tolerance')}: in circuit it may read less; well above ${r.text('high')} it is bad.`,
  },
  {
    name: 'to-rings',
    title: 'Value to rings',
    group: 'codes',
    formula: 'figures, multiplier, tolerance',
    source: 'IEC 60062:2016, table 1',
    fields: [
      figure('ohm', 'Value', 'ohm', '4k7', { least: 1e-3, most: 1e12 }),
      choice(
        'tolerance',
        'Tolerance',
        [
          ['10', '10 %'],
          ['5', '5 %'],
          ['2', '2 %'],
          ['1', '1 %'],
          ['0.5', '0.5 %'],
          ['0.1', '0.1 %'],
        ],
        '5',
      ),
    ],
    reckon: (v) => {
      const rings = ringsOf(v.figure('ohm'), Number(v.words('tolerance')));
      if (!rings)
        throw new NoAnswer(
          'no rings show this value with this tolerance: it has more figures than they have',
        );
      return [text('rings', 'rings', rings.join(', '))];
    },
    say: (_, r) => `Rings: ${r.text('rings')}.`,
  },
  {
    name: 'code',
    title: 'Letter and figure codes',
    group: 'codes',
    formula:
      'a letter stands for the point; else the last figure counts the noughts, of picofarads on a capacitor',
    source: 'IEC 60062:2016; EIA-198 for ceramics and volts, from memory',
    fields: [
      { kind: 'words', name: 'code', label: 'What is printed', example: '104K 1H X7R' },
      choice('of', 'On a', [
        ['C', 'capacitor'],
        ['R', 'resistor'],
      ]),
    ],
    reckon: (v) => readCode(v.words('code'), v.words('of')),
    say: (_, r) =>
      [
        r.text('value'),
        r.text('tolerance') && `±${r.text('tolerance')}`,
        r.text('volt'),
        r.text('kind'),
      ]
        .filter(Boolean)
        .join(', ') + '.',
  },
  {
    name: 'date',
    title: 'Date codes',
    group: 'codes',
    formula: 'year and week, or a letter for the year and one for the month',
    source: 'common practice, no published source; letters: IEC 60062, from memory',
    fields: [
      { kind: 'words', name: 'code', label: 'What is printed', example: '8632' },
      figure('year', 'Not later than', '', '2026', { whole: true, least: 1960, most: 2100 }),
    ],
    reckon: (v) => {
      const meanings = readDateCode(v.words('code'), v.figure('year'));
      if (meanings.length === 0)
        throw new NoAnswer(
          'no date code of a usual form: two figures for the year and two for the week, 8632',
        );
      return meanings.map((words, i) => text(`meaning-${i}`, i === 0 ? 'it may be' : 'or', words));
    },
    say: (v) =>
      `A date code tells when a part was made, not when it went in: a unit is no older than the youngest of its parts (${v.words('code').toUpperCase()}).`,
  },
  {
    name: 'preferred',
    title: 'Neighbours in a series, and pairs',
    group: 'codes',
    formula: 'R = R1 + R2, 1/R = 1/R1 + 1/R2; for capacitors the other way round',
    source: 'IEC 60063',
    fields: [
      figure('value', 'Wanted', '', '5k', { least: 1e-15, most: 1e12 }),
      choice(
        'series',
        'Series',
        [
          ['6', 'E6'],
          ['12', 'E12'],
          ['24', 'E24'],
          ['48', 'E48'],
          ['96', 'E96'],
        ],
        '12',
      ),
    ],
    reckon: (v) => {
      const [wanted, series] = [v.figure('value'), Number(v.words('series')) as ESeries];
      const one = nearestPreferred(wanted, series);
      const inRow = nearestPair(wanted, series, 'add');
      const beside = nearestPair(wanted, series, 'reciprocal');
      const pair = ({ one: a, other: b, value }: typeof inRow): string =>
        `${figureText(a, '')} and ${figureText(b, '')}: ${figureText(value, '')}, ${offText(value / wanted)}`;
      return [
        number('nearest', 'nearest one', one, ''),
        text('off', 'which is', offText(one / wanted)),
        text('added', 'two that add', pair(inRow)),
        text('beside', 'two whose reciprocals add', pair(beside)),
      ];
    },
    say: (_, r) => `One: ${r.text('nearest')}, ${r.text('off')}. Two: ${r.text('added')}.`,
  },
];
