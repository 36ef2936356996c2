import { gaugeMm, trackAmpere, trackOhm, trackWidthMm, wireHenry, wireOhm } from '../rework';
import { choice, figure, number, type Calculator } from './calculator';

export const COPPER: readonly Calculator[] = [
  {
    name: 'wire',
    title: 'Wire and jumper',
    group: 'copper',
    formula: 'd = 0.127 mm · 92^((36−n)/39),  R = ρ l / A,  L = 0.2 µH/m · l (ln(4l/d) − 0.75)',
    source: 'ASTM B258 (gauge), IEC 60028 (copper), Rosa 1908 (inductance)',
    fields: [
      figure('gauge', 'Gauge (AWG)', '', '30', { least: -3, most: 50 }),
      figure('length', 'Length', 'mm', '30mm', { least: 0 }),
      figure('celsius', 'Temperature', 'degC', '20', { least: -60, most: 200 }),
      figure('hertz', 'Looked at, frequency', 'Hz', '100k', { least: 0 }),
    ],
    reckon: (v) => {
      const mm = gaugeMm(v.figure('gauge'));
      const henry = wireHenry(v.figure('length'), mm);
      return [
        number('ohm', 'ohms', wireOhm(v.figure('length'), mm, v.figure('celsius')), 'ohm'),
        number('henry', 'inductance', henry, 'H'),
        number('x', 'its reactance', 2 * Math.PI * v.figure('hertz') * henry, 'ohm'),
        number('mm', 'diameter', mm, 'mm'),
      ];
    },
    say: (_, r) =>
      `${r.text('ohm')} and ${r.text('henry')}: beside a capacitor of 30 mΩ that is ${Math.hypot(r.value('ohm'), r.value('x')) > 0.03 ? 'too much' : 'to be minded'}.`,
  },
  {
    name: 'track',
    title: 'Track: ohms and current',
    group: 'copper',
    formula: 'I = k ΔT^0.44 A^0.725, A in square mil; R = ρ l / A',
    source: 'IPC-2221; IEC 60028',
    fields: [
      figure('width', 'Width', 'mm', '0.5mm', { least: 0.01 }),
      figure('length', 'Length', 'mm', '50mm', { least: 0 }),
      figure('thickness', 'Copper, thousandths of a mm', '', '35', { least: 1, most: 500 }),
      figure('rise', 'May get warmer by', 'degC', '20', { least: 1, most: 100 }),
      figure('ampere', 'Has to carry', 'A', '1A', { least: 0 }),
      choice('place', 'Lies', [
        ['outside', 'on the outside'],
        ['inside', 'inside the board'],
      ]),
    ],
    reckon: (v) => {
      const place = v.words('place') === 'inside' ? 'inside' : 'outside';
      const thick = v.figure('thickness') / 1000;
      return [
        number(
          'ampere',
          'carries',
          trackAmpere(v.figure('width'), v.figure('rise'), place, thick),
          'A',
        ),
        number('ohm', 'ohms', trackOhm(v.figure('length'), v.figure('width'), thick), 'ohm'),
        number(
          'width',
          'width for the current',
          trackWidthMm(v.figure('ampere'), v.figure('rise'), place, thick),
          'mm',
        ),
        number(
          'drop',
          'volts lost on it',
          v.figure('ampere') * trackOhm(v.figure('length'), v.figure('width'), thick),
          'V',
        ),
      ];
    },
    say: (v, r) =>
      `It carries ${r.text('ampere')}${r.value('ampere') < v.figure('ampere') ? `: too little, ${r.text('width')} would do` : ''}.`,
  },
];
