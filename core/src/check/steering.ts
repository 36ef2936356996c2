import { numberOf, ohm, together, type CheckResult, type GuidedCheck } from './check';
import { OPEN_COIL_OHM } from './winding';

/** Volts of a diode test at 1 mA. Of all this: common practice, no published source. */
const STEERING = { shorted: 0.1, least: 0.25, most: 0.85, doubt: 1.2, apart: 0.08 } as const;

/** One half of a head through its steering diode: volts with plus on the tap, and turned round. */
function judgeBranch(name: string, forward: number, back: number): CheckResult {
  const volt = (value: number): string =>
    Number.isFinite(value) ? `${Number(value.toPrecision(3))} V` : 'OL';
  const said = `${name}: ${volt(forward)} forward, ${volt(back)} back`;
  const reads = (value: number): boolean => value >= STEERING.least && value <= STEERING.most;
  if (!Number.isFinite(forward) && !Number.isFinite(back))
    return {
      verdict: 'bad',
      because: [`${said}: coil, diode or a joint between them is open`],
      settle: 'ohms from the tap to the coil’s side of the diode tell which',
    };
  if (forward < STEERING.shorted && back < STEERING.shorted)
    return { verdict: 'bad', because: [`${said}: the diode is shorted`] };
  if (!Number.isFinite(forward) && reads(back))
    return {
      verdict: 'doubtful',
      because: [`${said}: it conducts the wrong way round`],
      settle: 'exchange the leads; if it stays so, the diode sits the wrong way round',
    };
  if (Number.isFinite(back))
    return {
      verdict: back < STEERING.most ? 'bad' : 'doubtful',
      because: [`${said}: something conducts backwards`],
      settle: 'lift the diode’s cathode: what hangs on it may do so',
    };
  if (reads(forward)) return { verdict: 'good', because: [said] };
  return {
    verdict: forward > STEERING.doubt || forward < STEERING.shorted ? 'bad' : 'doubtful',
    because: [`${said}: no volts of a junction with its coil`],
    settle: 'press harder and repeat; then the ohms of the coil alone',
  };
}

export const STEERING_DIODES: GuidedCheck = {
  name: 'steering-diodes',
  title: 'coil through its steering diodes',
  about:
    'Diode test, a head in circuit. Plus lead on the tap, minus on the cathode of each steering diode: the volts of one junction. Leads exchanged: OL. The coil itself hardly counts here: 12 Ω are 12 mV at 1 mA, so its turns are read as ohms from cathode to cathode, where it lies on the coil’s side.',
  power: 'off',
  fields: [
    {
      key: 'forward1',
      label: 'first diode, plus on the tap',
      unit: 'V',
      needed: true,
      overload: true,
      hint: '0.4 to 0.8 V as a rule; OL counts',
    },
    {
      key: 'back1',
      label: 'first diode, leads exchanged',
      unit: 'V',
      needed: true,
      overload: true,
      hint: 'OL where it is whole',
    },
    {
      key: 'forward2',
      label: 'second diode, plus on the tap',
      unit: 'V',
      needed: true,
      overload: true,
    },
    {
      key: 'back2',
      label: 'second diode, leads exchanged',
      unit: 'V',
      needed: true,
      overload: true,
    },
    {
      key: 'ends',
      label: 'ohms from end to end of the coil',
      unit: 'ohm',
      hint: 'heads: 20 to 30 Ω as a rule',
    },
  ],
  judge: (given) => {
    const [f1, b1, f2, b2] = ['forward1', 'back1', 'forward2', 'back2'].map((key) =>
      numberOf(given, key),
    );
    if (f1 === undefined || b1 === undefined || f2 === undefined || b2 === undefined)
      return undefined;
    const branches = [judgeBranch('first', f1, b1), judgeBranch('second', f2, b2)];
    const ends = numberOf(given, 'ends');
    const coil: CheckResult | undefined =
      ends !== undefined && ends > OPEN_COIL_OHM
        ? { verdict: 'bad', because: [`end to end ${ohm(ends)}: the coil itself is open`] }
        : undefined;
    const apart: CheckResult | undefined =
      Number.isFinite(f1) && Number.isFinite(f2) && Math.abs(f1 - f2) > STEERING.apart
        ? {
            verdict: 'doubtful',
            because: [
              `the two are ${Math.round(1000 * Math.abs(f1 - f2))} mV apart, of one kind and age they are not`,
            ],
            settle: 'press harder and repeat; then the diode that reads more',
          }
        : undefined;
    return together([...branches, coil, apart]);
  },
};
