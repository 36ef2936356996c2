import { bitsPerTurn, capacityBytes, forecast, type DiskGeometry } from '../block';
import { choice, count, figure, NoAnswer, number, text, type Calculator } from './calculator';

/** Layouts that are offered: those of data/library/media.json, which has their sources. */
export const drive = (media: readonly DiskGeometry[]): readonly Calculator[] => [
  {
    name: 'belt',
    title: 'Belt from its pulleys',
    group: 'drive',
    formula:
      'L = 2 a cos φ + π (D + d)/2 + φ (D − d),  sin φ = (D − d) / (2 a); diameters with the belt’s section on them',
    source:
      'geometry of an open belt; any text on machine elements. Made 4 to 6 % shorter for a square belt: common practice, no published source',
    fields: [
      figure('large', 'Larger pulley', 'mm', '60mm', { least: 0.1 }),
      figure('small', 'Smaller pulley', 'mm', '12mm', { least: 0.1 }),
      figure('apart', 'Axes apart', 'mm', '90mm', { least: 0.1 }),
      figure('section', 'Section of the belt', 'mm', '1.2mm', { least: 0 }),
      figure('stretch', 'Stretched by', '%', '5%', { least: 0, most: 30 }),
      figure('rpm', 'The small one turns', 'rpm', '2400', { optional: true, least: 0 }),
    ],
    reckon: (v) => {
      const [large, small] = [
        v.figure('large') + v.figure('section'),
        v.figure('small') + v.figure('section'),
      ];
      const apart = v.figure('apart');
      if (large < small) throw new NoAnswer('the larger pulley is the smaller one');
      if (apart <= (large + small) / 2) throw new NoAnswer('so near together the pulleys touch');
      const phi = Math.asin((large - small) / (2 * apart));
      const length =
        2 * apart * Math.cos(phi) + (Math.PI * (large + small)) / 2 + phi * (large - small);
      const free = length / (1 + v.figure('stretch') / 100);
      const rpm = v.maybe('rpm');
      return [
        number('length', 'round the pulleys', length, 'mm'),
        number('free', 'belt, lying free', free, 'mm'),
        number('inner', 'its inner diameter as a ring', free / Math.PI - v.figure('section'), 'mm'),
        number('wrap', 'wraps the small one, degrees', (180 / Math.PI) * (Math.PI - 2 * phi)),
        ...(rpm === undefined
          ? []
          : [number('large', 'the large one turns', (rpm * small) / large, 'rpm')]),
      ];
    },
    say: (_, r) =>
      `A belt of ${r.text('free')}, lying free${r.value('wrap') < 120 ? '; it wraps the small pulley little: it will slip first there' : ''}.`,
  },
  {
    name: 'speed',
    title: 'Speed by index, strobe and slip',
    group: 'drive',
    formula: 'n = 60 / T;  marks = 120 f / n (a lamp on the mains lights twice a cycle)',
    source: 'ECMA-66 and its like for 300 rev/min within 1.5 %; strobe discs: common practice',
    fields: [
      figure('period', 'Index period', 's', '200ms', { least: 1e-6 }),
      figure('wanted', 'Should turn', 'rpm', '300', { least: 0.1 }),
      figure('mains', 'Lamp on mains of', 'Hz', '50', { least: 1 }),
    ],
    reckon: (v) => {
      const rpm = 60 / v.figure('period');
      const off = 100 * (rpm / v.figure('wanted') - 1);
      return [
        number('rpm', 'turns', rpm, 'rpm'),
        number('off', 'off by', off, '%'),
        number('marks', 'marks that stand still', (120 * v.figure('mains')) / v.figure('wanted')),
        number(
          'drift',
          'marks pass a minute, forward',
          (rpm - v.figure('wanted')) * ((120 * v.figure('mains')) / v.figure('wanted')),
        ),
      ];
    },
    say: (_, r) =>
      `${r.text('rpm')}, ${Math.abs(r.value('off')) <= 1.5 ? 'within' : 'outside of'} 1.5 %.`,
  },
  {
    name: 'slip',
    title: 'Slip of a belt',
    group: 'drive',
    formula: 's = 1 − n₂ D / (n₁ d)',
    source: 'geometry; 1 to 3 % of a sound rubber belt: common practice, no published source',
    fields: [
      figure('driver', 'The motor turns', 'rpm', '2400', { least: 0.1 }),
      figure('small', 'its pulley', 'mm', '12mm', { least: 0.1 }),
      figure('large', 'The driven pulley', 'mm', '96mm', { least: 0.1 }),
      figure('driven', 'it turns', 'rpm', '294', { least: 0 }),
    ],
    reckon: (v) => {
      const ideal = (v.figure('driver') * v.figure('small')) / v.figure('large');
      return [
        number('slip', 'slip', 100 * (1 - v.figure('driven') / ideal), '%'),
        number('ideal', 'without slip', ideal, 'rpm'),
      ];
    },
    say: (_, r) =>
      `Slip of ${r.text('slip')}${r.value('slip') > 3 ? ': glazed, loose or oily' : r.value('slip') < 0 ? ': it cannot run ahead of its drive, so a diameter or a speed is wrong' : ''}.`,
  },
  {
    name: 'stepper',
    title: 'Steps to tracks',
    group: 'drive',
    formula: 'travel a step = lead / steps a turn;  steps a track = (25.4 mm / tpi) / travel',
    source: 'geometry; track pitch by the tracks an inch of ECMA and ISO flexible-disk standards',
    fields: [
      count('steps', 'Steps a turn', '200', { least: 1, most: 10000 }),
      figure('lead', 'Travel a turn', 'mm', '37.6mm', { least: 0.001 }),
      figure('tpi', 'Tracks an inch', '', '135', { least: 1 }),
      count('tracks', 'Tracks', '80', { least: 1, most: 2000 }),
    ],
    reckon: (v) => {
      const travel = v.figure('lead') / v.figure('steps');
      const pitch = 25.4 / v.figure('tpi');
      return [
        number('perTrack', 'steps a track', pitch / travel),
        number('travel', 'travel a step', travel, 'mm'),
        number('pitch', 'track pitch', pitch, 'mm'),
        number('stroke', 'first to last track', pitch * (v.figure('tracks') - 1), 'mm'),
      ];
    },
    say: (_, r) => {
      const per = r.value('perTrack');
      const near = Math.max(1, Math.round(per));
      return Math.abs(per - near) < 0.05 * near
        ? `${near} ${near === 1 ? 'step' : 'steps'} a track.`
        : `${r.text('perTrack')} steps a track: no whole number, so lead, steps or pitch is another.`;
    },
  },
  {
    name: 'layout',
    title: 'Disk layout, and what a wrong one loses',
    group: 'drive',
    formula: 'capacity = tracks · sides · sectors · bytes; bits a turn = rate · 60 / n',
    source: 'the layouts’ own standards, named beside each (data/library/media.json)',
    fields: [
      choice(
        'medium',
        'The medium is',
        media.map(({ name }) => [name, name] as const),
      ),
      choice(
        'set',
        'Drive or host is set for',
        media.map(({ name }) => [name, name] as const),
        media[1]?.name,
      ),
    ],
    reckon: (v) => {
      const of = (name: string): DiskGeometry => media.find((one) => one.name === v.words(name))!;
      const [medium, set] = [of('medium'), of('set')];
      const { operations, outOfReach } = forecast(set, medium);
      return [
        number('bytes', 'bytes on it', capacityBytes(medium), 'n'),
        number('bits', 'bits that pass in a turn', bitsPerTurn(medium), 'n'),
        number('lost', 'out of reach', 100 * outOfReach, '%'),
        ...operations.map(({ name, works, because }) => text(name, name, `${works}: ${because}`)),
        text('source', 'layout', medium.source),
      ];
    },
    say: (_, r) =>
      r.value('lost') === 0 && !/^no/.test(r.text('read any sector'))
        ? 'All of it is within reach with this setting.'
        : `${r.text('lost')} is out of reach: ${r.text('read a long file')}. Settings before alignment.`,
  },
];
