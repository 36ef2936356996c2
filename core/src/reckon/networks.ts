import { choice, figure, NoAnswer, number, type Calculator } from './calculator';

const OHMS_LAW = 'Ohm and Kirchhoff; any textbook';
const sum = (list: readonly number[]): number => list.reduce((all, one) => all + one, 0);
/** Reciprocals added. */
const beside = (list: readonly number[]): number =>
  list.some((one) => one === 0) ? 0 : 1 / sum(list.map((one) => 1 / one));

export const NETWORKS: readonly Calculator[] = [
  {
    name: 'divider',
    title: 'Divider, loaded or not',
    group: 'networks',
    formula: 'V = Vin · (R2 ∥ RL) / (R1 + R2 ∥ RL)',
    source: OHMS_LAW,
    fields: [
      figure('in', 'Volts in', 'V', '12V'),
      figure('upper', 'Upper resistor', 'ohm', '10k', { least: 0 }),
      figure('lower', 'Lower resistor', 'ohm', '4k7', { least: 0 }),
      figure('load', 'Load', 'ohm', '', { optional: true, least: 0 }),
    ],
    reckon: (v) => {
      const load = v.maybe('load') ?? Infinity;
      const lower = load === Infinity ? v.figure('lower') : beside([v.figure('lower'), load]);
      const whole = v.figure('upper') + lower;
      if (whole === 0) throw new NoAnswer('both resistors are nothing: the supply is shorted');
      const ampere = v.figure('in') / whole;
      const out = ampere * lower;
      return [
        number('out', 'volts out', out, 'V'),
        number('ampere', 'current from the supply', ampere, 'A'),
        number(
          'source',
          'ohms behind the output',
          beside([v.figure('upper'), v.figure('lower')]),
          'ohm',
        ),
        number('watt', 'heat in the upper one', ampere ** 2 * v.figure('upper'), 'W'),
      ];
    },
    say: (v, r) =>
      `${r.text('out')} at the tap${v.maybe('load') === undefined ? ', as long as nothing loads it' : ''}. A meter of 10 MΩ on it reads ${((100 * r.value('source')) / 1e7).toPrecision(2)} % low.`,
  },
  {
    name: 'together',
    title: 'In series and side by side',
    group: 'networks',
    formula:
      'resistors and coils in series add; side by side their reciprocals add; capacitors the other way round',
    source: OHMS_LAW,
    fields: [
      choice('of', 'Of', [
        ['R', 'resistors'],
        ['C', 'capacitors'],
        ['L', 'coils that do not couple'],
      ]),
      { kind: 'list', name: 'values', label: 'Values', unit: '', example: '10k 10k 4k7' },
    ],
    reckon: (v) => {
      const [values, of] = [v.list('values'), v.words('of')];
      if (values.some((one) => one < 0)) throw new NoAnswer('a value below nothing is none');
      const unit = of === 'R' ? 'ohm' : of === 'C' ? 'F' : 'H';
      const [added, reciprocal] = [sum(values), beside(values)];
      const [row, side] = of === 'C' ? [reciprocal, added] : [added, reciprocal];
      return [number('row', 'in series', row, unit), number('side', 'side by side', side, unit)];
    },
    say: (v, r) =>
      `In series ${r.text('row')}, side by side ${r.text('side')}.${v.words('of') === 'R' ? ' In circuit a path beside a resistor can only lower what it reads.' : ''}`,
  },
  {
    name: 'rc',
    title: 'RC: time and level',
    group: 'networks',
    formula: 'V(t) = V∞ + (V0 − V∞) · e^(−t/RC)',
    source: 'any textbook on circuits',
    fields: [
      figure('ohm', 'Resistor', 'ohm', '100k', { least: 0 }),
      figure('farad', 'Capacitor', 'F', '10u', { least: 0 }),
      figure('from', 'Volts at first', 'V', '0'),
      figure('to', 'Volts in the end', 'V', '5'),
      figure('level', 'Level to reach', 'V', '2.5'),
    ],
    reckon: (v) => {
      const tau = v.figure('ohm') * v.figure('farad');
      const [from, to, level] = [v.figure('from'), v.figure('to'), v.figure('level')];
      const share = (to - level) / (to - from);
      if (!(share > 0 && share <= 1))
        throw new NoAnswer(
          'the level lies outside of where it starts and where it ends: it is never reached',
        );
      return [
        number('seconds', 'time to the level', -tau * Math.log(share), 's'),
        number('tau', 'time constant', tau, 's'),
        number('nearly', 'within a hundredth of the end', tau * Math.log(100), 's'),
      ];
    },
    say: (_, r) =>
      `It reaches the level after ${r.text('seconds')}; its time constant is ${r.text('tau')}.`,
  },
];
