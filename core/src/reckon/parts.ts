import { lifeHours, valueKept } from '../part';
import { figure, NoAnswer, number, type Calculator } from './calculator';

export const PARTS: readonly Calculator[] = [
  {
    name: 'reactance',
    title: 'Reactance, ESR and dissipation',
    group: 'parts',
    formula: 'X = 1 / (2π f C),  tan δ = ESR / X,  |Z| = √(ESR² + X²)',
    source: 'IEC 60384-1; any textbook',
    fields: [
      figure('farad', 'Capacitor', 'F', '47u', { least: 1e-15 }),
      figure('hertz', 'Frequency', 'Hz', '100k', { least: 1e-6 }),
      figure('esr', 'ESR', 'ohm', '0.1', { least: 0 }),
    ],
    reckon: (v) => {
      const x = 1 / (2 * Math.PI * v.figure('hertz') * v.figure('farad'));
      return [
        number('x', 'reactance', x, 'ohm'),
        number('tan', 'dissipation, tan δ', v.figure('esr') / x),
        number('z', 'impedance', Math.hypot(x, v.figure('esr')), 'ohm'),
      ];
    },
    say: (_, r) =>
      `Reactance ${r.text('x')}, impedance ${r.text('z')}${r.value('tan') > 1 ? ': what is read is nearly all ESR' : r.value('tan') < 0.1 ? ': what is read is nearly all reactance, no ESR meter' : ''}.`,
  },
  {
    name: 'resonance',
    title: 'Coil and capacitor',
    group: 'parts',
    formula: 'f = 1 / (2π √(L C)),  X = 2π f L',
    source: 'W. Thomson, Phil. Mag. 5, 1853; any textbook',
    fields: [
      figure('henry', 'Coil', 'H', '47u', { least: 1e-15 }),
      figure('farad', 'Capacitor', 'F', '100n', { least: 1e-15 }),
      figure('ohm', 'Its ohms', 'ohm', '0.5', { least: 1e-6 }),
    ],
    reckon: (v) => {
      const hertz = 1 / (2 * Math.PI * Math.sqrt(v.figure('henry') * v.figure('farad')));
      const x = 2 * Math.PI * hertz * v.figure('henry');
      return [
        number('hertz', 'resonance', hertz, 'Hz'),
        number('x', 'reactance there', x, 'ohm'),
        number('q', 'quality', x / v.figure('ohm')),
      ];
    },
    say: (_, r) => `They ring at ${r.text('hertz')}.`,
  },
  {
    name: 'life',
    title: 'Life of an electrolytic',
    group: 'parts',
    formula: 'L = L0 · 2^((T0 − T)/10),  T = Ta + ΔT0 · (I/I0)²',
    source:
      'the rule of ten degrees (Arrhenius) as data sheets give it; 5 K at the rated ripple: common practice, no published source',
    fields: [
      figure('rated', 'Rated hours', 'h', '2000', { least: 1 }),
      figure('hot', 'at', 'degC', '105'),
      figure('ambient', 'Air around it', 'degC', '45'),
      figure('ripple', 'Ripple', 'A', '100mA', { least: 0 }),
      figure('ratedRipple', 'Rated ripple', 'A', '200mA', { least: 1e-9 }),
      figure('rise', 'Kelvin at the rated ripple', '', '5', { least: 0 }),
    ],
    reckon: (v) => {
      const celsius =
        v.figure('ambient') +
        v.figure('rise') * (v.figure('ripple') / v.figure('ratedRipple')) ** 2;
      const hours = lifeHours(v.figure('rated'), v.figure('hot'), celsius);
      return [
        number('hours', 'life', hours, 'h'),
        number('years', 'years, if it runs all day', hours / 8766),
        number('celsius', 'its core', celsius, 'degC'),
      ];
    },
    say: (_, r) =>
      `About ${r.text('hours')} of running. Shelf years and leaks are not in it: old ones fail unused too.`,
  },
  {
    name: 'ceramic',
    title: 'Ceramic under direct volts',
    group: 'parts',
    formula: 'C = C0 / (1 + 3 (V/Vr)^1.87)',
    source:
      'from memory of common data sheets of class 2 ceramics; makes differ by a factor of two',
    fields: [
      figure('farad', 'Printed value', 'F', '10u', { least: 1e-15 }),
      figure('volt', 'Volts on it', 'V', '3.5', { least: 0 }),
      figure('rated', 'Rated volts', 'V', '16', { least: 0.1 }),
    ],
    reckon: (v) => {
      const share = v.figure('volt') / v.figure('rated');
      if (share > 1) throw new NoAnswer('more volts than it is rated for');
      const kept = valueKept(share);
      return [
        number('farad', 'value left', v.figure('farad') * kept, 'F'),
        number('kept', 'which is', 100 * kept, '%'),
      ];
    },
    say: (_, r) => `${r.text('farad')} is left, ${r.text('kept')}. Class 1 (C0G) does not fall.`,
  },
];
