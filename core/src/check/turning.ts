import { formatQuantity } from '../quantity';
import { graded, numberOf, ohm, together, type CheckResult, type GuidedCheck } from './check';

/** Revolutions a minute from the period of the index, s: one a turn. */
export const speedOfIndex = (second: number): number => 60 / second;

/** Revolutions a minute at which a ring of so many bars stands still under light from the mains. */
export const speedOfStrobe = (bars: number, mainsHertz: number): number =>
  (60 * 2 * mainsHertz) / bars;

/**
 * What a belt loses: 0 where none. driving and driven: revolutions a minute; ratio: diameter of the
 * driving pulley over that of the driven one.
 */
export const slip = (driving: number, driven: number, ratio: number): number =>
  1 - driven / (driving * ratio);

/** Of all this: common practice, no published source. */
const RULE = {
  pairsApart: 0.1,
  openOhm: 1e5,
  startGood: 0.4,
  startBad: 0.7,
  runGood: 0.35,
  runBad: 0.7,
  speedGood: 0.015,
  speedBad: 0.05,
  slipGood: 0.02,
  slipBad: 0.06,
} as const;

export const MOTOR: GuidedCheck = {
  name: 'motor',
  title: 'motor',
  about:
    'By hand first, both ways, power off. Then off its driver on a bench supply with a current limit, from 3 V up. Never hold a running motor by its shaft.',
  power: 'bench-supply',
  fields: [
    {
      key: 'hand',
      label: 'turned by hand',
      unit: 'choice',
      needed: true,
      choices: ['free both ways', 'one way only', 'rough', 'stuck'],
    },
    { key: 'rated', label: 'rated for', unit: 'V', hint: 'or what the driver gives it' },
    { key: 'starts', label: 'starts at', unit: 'V', hint: 'from 3 V up, slowly' },
    { key: 'run', label: 'runs with', unit: 'A', hint: 'at its rated volts, nothing on its shaft' },
    { key: 'stall', label: 'stalls with', unit: 'A', hint: 'for a second, at the same volts' },
    { key: 'w1', label: 'winding one', unit: 'ohm' },
    { key: 'w2', label: 'winding two', unit: 'ohm' },
    { key: 'w3', label: 'winding three', unit: 'ohm', hint: 'where there is one' },
  ],
  judge: (given) => {
    if (typeof given.hand !== 'string' || given.hand === '') return undefined;
    const [rated, starts, run, stall] = ['rated', 'starts', 'run', 'stall'].map((key) =>
      numberOf(given, key),
    );
    const windings = ['w1', 'w2', 'w3'].flatMap((key) => numberOf(given, key) ?? []);
    const hand: CheckResult =
      given.hand === 'free both ways'
        ? { verdict: 'good', because: ['turns freely both ways'] }
        : given.hand === 'rough'
          ? {
              verdict: 'doubtful',
              because: ['turns roughly'],
              settle: 'take the load off its shaft and turn it again',
            }
          : {
              verdict: 'bad',
              because: [given.hand === 'stuck' ? 'does not turn' : 'turns one way only'],
              settle: 'take the load off its shaft and turn it again',
            };
    const all = together([
      hand,
      windings.length === 0 ? undefined : judgeWindings(windings),
      rated === undefined || starts === undefined
        ? undefined
        : graded(
            starts / rated,
            RULE.startGood,
            RULE.startBad,
            `starts at ${formatQuantity(starts, 'V')} of ${formatQuantity(rated, 'V')}`,
            'clean and oil the bearings, or the brushes, and try again',
          ),
      run === undefined || stall === undefined || stall <= 0
        ? undefined
        : graded(
            run / stall,
            RULE.runGood,
            RULE.runBad,
            `runs with ${Math.round((100 * run) / stall)} % of what it stalls with`,
            'with nothing on its shaft: it rubs inside',
          ),
      rated === undefined ||
      stall === undefined ||
      windings.length === 0 ||
      !Number.isFinite(windings[0]!)
        ? undefined
        : agreeing(rated / stall, windings[0]!),
    ]);
    // A free shaft acquits no winding and no bearing under power.
    const isMeasured = windings.length > 0 || starts !== undefined || run !== undefined;
    return all?.verdict === 'good' && !isMeasured
      ? { ...all, verdict: 'doubtful', settle: 'read its windings, or run it from 3 V up' }
      : all;
  },
};

/** Windings of one motor: alike, and none open. */
export function judgeWindings(ohms: readonly number[]): CheckResult {
  const open = ohms.findIndex((value) => value > RULE.openOhm);
  if (open >= 0)
    return { verdict: 'bad', because: [`winding ${['one', 'two', 'three'][open]} is open`] };
  const [least, most] = [Math.min(...ohms), Math.max(...ohms)];
  const words = `windings ${ohms.map(ohm).join(', ')}`;
  if (ohms.length < 2)
    return { verdict: 'doubtful', because: [words], settle: 'read the others too: they are alike' };
  return (most - least) / most > RULE.pairsApart
    ? {
        verdict: 'bad',
        because: [`${words}: the lowest has shorted turns`],
        settle: 'unplugged, so that no driver stands beside it',
      }
    : { verdict: 'good', because: [`${words}: alike`] };
}

/** Stalled, a motor is its winding: the current says its ohms once more. */
function agreeing(stalled: number, winding: number): CheckResult {
  const words = `stalled it is ${ohm(stalled)}, its winding reads ${ohm(winding)}`;
  return stalled < 0.6 * winding
    ? {
        verdict: 'doubtful',
        because: [`${words}: turns short when it is warm or under volts`],
        settle: 'read it again warm',
      }
    : { verdict: 'good', because: [words] };
}

export const SPEED: GuidedCheck = {
  name: 'speed',
  title: 'speed and belt',
  about:
    'Speed from the time between two index pulses, or from a strobe ring that stands still. Two speeds and the pulleys tell what the belt loses.',
  power: 'on',
  fields: [
    {
      key: 'wanted',
      label: 'should turn, per minute',
      unit: '',
      needed: true,
      hint: '300 or 360 as a rule',
    },
    { key: 'index', label: 'index to index', unit: 's', hint: '200 ms at 300, 166.7 ms at 360' },
    { key: 'bars', label: 'bars of the ring that stands still', unit: '' },
    { key: 'mains', label: 'light flickers with mains of', unit: 'Hz', hint: '50 or 60' },
    { key: 'motor', label: 'the motor turns, per minute', unit: '' },
    { key: 'ratio', label: 'motor pulley over driven pulley', unit: '' },
  ],
  judge: (given) => {
    const [wanted, index, bars, mains, motor, ratio] = [
      'wanted',
      'index',
      'bars',
      'mains',
      'motor',
      'ratio',
    ].map((key) => numberOf(given, key));
    if (wanted === undefined || wanted <= 0) return undefined;
    const turns =
      index !== undefined && index > 0
        ? speedOfIndex(index)
        : bars !== undefined && bars > 0 && mains !== undefined && mains > 0
          ? speedOfStrobe(bars, mains)
          : undefined;
    if (turns === undefined) return undefined;
    const off = turns / wanted - 1;
    const lost =
      motor !== undefined && ratio !== undefined && motor > 0 && ratio > 0
        ? slip(motor, turns, ratio)
        : undefined;
    return together([
      graded(
        Math.abs(off),
        RULE.speedGood,
        RULE.speedBad,
        `${turns.toFixed(1)} a minute, ${off < 0 ? '−' : '+'}${(100 * Math.abs(off)).toFixed(1)} %`,
        'belt and bearings first; a speed trimmer last, marked before it is touched',
      ),
      lost === undefined
        ? undefined
        : lost < -0.01
          ? {
              verdict: 'doubtful',
              because: ['it turns faster than its pulleys let it: one of the figures is wrong'],
              settle: 'measure both pulleys where the belt runs',
            }
          : graded(
              lost,
              RULE.slipGood,
              RULE.slipBad,
              `the belt loses ${(100 * lost).toFixed(1)} %`,
              'clean both pulleys, look for glaze and stretch; inside out is a stop-gap',
            ),
    ]);
  },
};
