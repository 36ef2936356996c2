import { TOUCH_LIMIT_VOLT } from '../bench';
import { figure, NoAnswer, number, text, type Calculator } from './calculator';
import { figureText } from './figures';

const CHARGE =
  'Power off and unplugged does not mean safe: a charge stays. Measure it with a meter, both ways round, before hands go in. Follow local codes; mains and laser work only if you are qualified.';
/**
 * Energy above which a discharge hurts whatever the volts. Common practice, no published source.
 */
const HURTS_JOULE = 10;

export const POWER: readonly Calculator[] = [
  {
    name: 'discharge',
    title: 'Discharge and bleeder',
    group: 'power',
    formula: 't = RC · ln(V0 / V),  E = ½ C V²,  P = V0² / R',
    source: `any textbook; ${TOUCH_LIMIT_VOLT} V direct as the limit of touch: IEC 61140, extra-low voltage, dry`,
    caution: CHARGE,
    fields: [
      figure('volt', 'Volts on it', 'V', '358V', { least: 0 }),
      figure('farad', 'Capacitor', 'F', '100u', { least: 0 }),
      figure('ohm', 'Bleeder', 'ohm', '10k', { least: 0.001 }),
      figure('limit', 'Down to', 'V', String(TOUCH_LIMIT_VOLT), { least: 0.001 }),
    ],
    reckon: (v) => {
      const [volt, farad, ohm] = [v.figure('volt'), v.figure('farad'), v.figure('ohm')];
      const seconds = Math.max(
        0,
        ohm * farad * Math.log(Math.max(volt, v.figure('limit')) / v.figure('limit')),
      );
      return [
        number('seconds', 'time', seconds, 's'),
        number('joule', 'energy in it', 0.5 * farad * volt ** 2, 'J'),
        number('watt', 'heat of the bleeder at first', volt ** 2 / ohm, 'W'),
        number('ampere', 'current at first', volt / ohm, 'A'),
      ];
    },
    say: (v, r) =>
      `After ${r.text('seconds')} it should be down to ${figureText(v.figure('limit'), 'V')}, if the bleeder is whole: measure it. ${r.value('joule') >= HURTS_JOULE ? `${r.text('joule')} can injure: never short it with a tool.` : `${r.text('joule')} is in it.`}`,
  },
  {
    name: 'regulator',
    title: 'Regulator: heat and drop-out',
    group: 'power',
    formula: 'P = (Vin − Vout) · I + Vin · Iq,  T = Ta + P · Rth',
    source:
      'any data sheet of a linear regulator; 125 °C and 2 V as usual limits: common practice, no published source',
    fields: [
      figure('in', 'Volts in, the lowest', 'V', '8'),
      figure('out', 'Volts out', 'V', '5'),
      figure('ampere', 'Load', 'A', '300mA', { least: 0 }),
      figure('own', 'Its own current', 'A', '5mA', { least: 0 }),
      figure('drop', 'Drop-out', 'V', '2', { least: 0 }),
      figure('thermal', 'Kelvin a watt, junction to air', '', '50', { least: 0 }),
      figure('ambient', 'Air', 'degC', '40'),
    ],
    reckon: (v) => {
      const watt =
        (v.figure('in') - v.figure('out')) * v.figure('ampere') + v.figure('in') * v.figure('own');
      if (v.figure('in') < v.figure('out'))
        throw new NoAnswer('a linear regulator gives no more than goes in');
      return [
        number('watt', 'heat', watt, 'W'),
        number('celsius', 'junction', v.figure('ambient') + watt * v.figure('thermal'), 'degC'),
        number(
          'margin',
          'volts above drop-out',
          v.figure('in') - v.figure('out') - v.figure('drop'),
          'V',
        ),
      ];
    },
    say: (_, r) =>
      [
        `${r.text('watt')} of heat, the junction at ${r.text('celsius')}${r.value('celsius') > 125 ? ': above what it stands, it will switch itself off or fail' : ''}.`,
        r.value('margin') < 0 ? 'It does not regulate: the ripple of its input comes through.' : '',
      ]
        .filter(Boolean)
        .join(' '),
  },
  {
    name: 'fuse',
    title: 'Fuse and inrush',
    group: 'power',
    formula: 'I²t of a charge through R = C V² / (2 R)',
    source:
      'integral of the charging current; half of the melting integral as its limit: common practice, no published source (makers say 20 to 50 % by pulses)',
    caution:
      'A fuse is replaced by the same current, speed, volts and breaking capacity, never by a wire. Find out why it blew before the next one. Follow local codes; mains work only if you are qualified.',
    fields: [
      figure('farad', 'Reservoir', 'F', '4700u', { least: 0 }),
      figure('volt', 'Charged to, peak', 'V', '17', { least: 0 }),
      figure('ohm', 'Ohms in the way: winding, rectifier, wire', 'ohm', '0.5', { least: 1e-4 }),
      figure('melting', 'Melting integral of the fuse', 'A2s', '3', { least: 0 }),
    ],
    reckon: (v) => {
      const inrush = (v.figure('farad') * v.figure('volt') ** 2) / (2 * v.figure('ohm'));
      return [
        number('inrush', 'I²t of the inrush', inrush, 'A2s'),
        number('ampere', 'highest current', v.figure('volt') / v.figure('ohm'), 'A'),
        number('share', 'of the melting integral', (100 * inrush) / v.figure('melting'), '%'),
      ];
    },
    say: (_, r) =>
      r.value('share') > 100
        ? `It melts at the first switch-on: ${r.text('share')} of what it stands.`
        : r.value('share') > 50
          ? `It ages with every switch-on: ${r.text('share')} of what it stands.`
          : `It stands the inrush: ${r.text('share')} of its melting integral.`,
  },
  {
    name: 'led',
    title: 'Resistor of a lamp diode',
    group: 'power',
    formula: 'R = (V − Vf) / I',
    source:
      'Ohm and Kirchhoff; forward volts: red 1.8 to 2, green and yellow 2 to 2.2, blue and white 3 to 3.4, infrared 1.2 (common practice, no published source)',
    fields: [
      figure('volt', 'Supply', 'V', '5V'),
      figure('forward', 'Forward volts', 'V', '2'),
      figure('ampere', 'Current', 'A', '10mA', { least: 1e-9 }),
    ],
    reckon: (v) => {
      const left = v.figure('volt') - v.figure('forward');
      if (left <= 0)
        throw new NoAnswer('the supply is no higher than the forward volts: it stays dark');
      return [
        number('ohm', 'resistor', left / v.figure('ampere'), 'ohm'),
        number('watt', 'its heat', left * v.figure('ampere'), 'W'),
      ];
    },
    say: (_, r) => `${r.text('ohm')}, which gets ${r.text('watt')}.`,
  },
  {
    name: 'zener',
    title: 'Resistor before a zener',
    group: 'power',
    formula: 'R = (Vin,least − Vz) / (IL + Iz);  Pz = Vz · (Vin,most − Vz) / R',
    source: 'Ohm and Kirchhoff',
    fields: [
      figure('least', 'Volts in, least', 'V', '11', { least: 0 }),
      figure('most', 'Volts in, most', 'V', '14', { least: 0 }),
      figure('zener', 'Zener', 'V', '5.1', { least: 0 }),
      figure('load', 'Load, most', 'A', '10mA', { least: 0 }),
      figure('keep', 'Kept in the zener', 'A', '5mA', { least: 1e-6 }),
    ],
    reckon: (v) => {
      const left = v.figure('least') - v.figure('zener');
      if (left <= 0)
        throw new NoAnswer('the least volts in are no higher than the zener: it does not regulate');
      const ohm = left / (v.figure('load') + v.figure('keep'));
      const most = (v.figure('most') - v.figure('zener')) / ohm;
      return [
        number('ohm', 'resistor, at most', ohm, 'ohm'),
        number('watt', 'heat of the resistor', most ** 2 * ohm, 'W'),
        number('zenerWatt', 'heat of the zener with the load off', most * v.figure('zener'), 'W'),
      ];
    },
    say: (_, r) =>
      `At most ${r.text('ohm')}; without its load the zener gets ${r.text('zenerWatt')}. A burnt resistor here points behind it: load, zener, glue.`,
  },
  {
    name: 'switch',
    title: 'Transistor as a switch',
    group: 'power',
    formula: 'Ib = (Vin − Vbe) / Rb,  overdrive = Ib · hFE / Ic',
    source:
      'any textbook; an overdrive of 2 and more as saturated, 10 in data sheets: common practice, no published source',
    fields: [
      figure('volt', 'Supply of the load', 'V', '12'),
      figure('load', 'Load', 'ohm', '100', { least: 0.001 }),
      figure('in', 'Volts of the drive', 'V', '4.5'),
      figure('base', 'Base resistor', 'ohm', '1k', { least: 0.001 }),
      figure('gain', 'Least gain', '', '50', { least: 1 }),
      figure('vbe', 'Base to emitter', 'V', '0.7', { least: 0 }),
    ],
    reckon: (v) => {
      const base = Math.max(0, (v.figure('in') - v.figure('vbe')) / v.figure('base'));
      // A saturated transistor keeps some 0.2 V.
      const collector = Math.max(0, v.figure('volt') - 0.2) / v.figure('load');
      return [
        number('base', 'base current', base, 'A'),
        number('collector', 'load current when it is on', collector, 'A'),
        number('over', 'overdrive', (base * v.figure('gain')) / collector),
        text(
          'state',
          'it is',
          base * v.figure('gain') >= 2 * collector
            ? 'saturated'
            : base * v.figure('gain') >= collector
              ? 'barely saturated: a weaker one would not be'
              : 'not saturated: it gets hot and the load weak',
        ),
      ];
    },
    say: (_, r) => `Overdrive ${r.text('over')}: ${r.text('state')}.`,
  },
];
