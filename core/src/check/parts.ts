import { graded, numberOf, ohm, together, type CheckResult, type GuidedCheck } from './check';

/** Of all this: common practice, no published source. */
const RULE = {
  arrayApart: 0.1,
  openOhm: 1e6,
  contactGood: 0.5,
  contactBad: 5,
  bounceGood: 0.005,
  bounceBad: 0.03,
  copperMore: 1.5,
  inductanceLess: 0.7,
  ringsGood: 8,
  ringsBad: 3,
  lampDrop: [0.9, 1.7],
  darkToLight: [20, 4],
} as const;

/**
 * Ohms of an element whose reading has known ohms beside it. Infinite where the element is open;
 * undefined where the reading is more than what stands beside it can be.
 */
export function withoutParallel(read: number, beside: number): number | undefined {
  if (!Number.isFinite(beside)) return read;
  if (read > beside * 1.03) return undefined;
  const siemens = 1 / read - 1 / beside;
  return siemens <= 0.02 / beside ? Infinity : 1 / siemens;
}

export const ARRAY: GuidedCheck = {
  name: 'array',
  title: 'resistor array, element by element',
  about:
    'Every element, one after the other. What stands beside an element can only lower its reading: above nominal or open convicts, nominal acquits nobody. One open element condemns the array.',
  power: 'off',
  fields: [
    { key: 'nominal', label: 'each should have', unit: 'ohm', needed: true },
    { key: 'read', label: 'the odd element reads', unit: 'ohm', needed: true },
    { key: 'brothers', label: 'its brothers read', unit: 'ohm', hint: 'what most of them show' },
    {
      key: 'beside',
      label: 'what stands beside it',
      unit: 'ohm',
      hint: 'from the sheet; OL for nothing',
    },
  ],
  judge: (given) => {
    const [nominal, read] = [numberOf(given, 'nominal'), numberOf(given, 'read')];
    if (nominal === undefined || read === undefined) return undefined;
    const beside = numberOf(given, 'beside') ?? Infinity;
    const own = withoutParallel(read, beside);
    if (own === undefined)
      return {
        verdict: 'doubtful',
        because: [`${ohm(read)} is more than ${ohm(beside)} beside it lets show`],
        settle: 'press harder and repeat; then look whether that path is whole',
      };
    if (own > RULE.openOhm || own > 3 * nominal)
      return { verdict: 'bad', because: [`the element is open: ${ohm(read)} for ${ohm(nominal)}`] };
    if (own > nominal * (1 + RULE.arrayApart))
      return {
        verdict: 'bad',
        because: [`${ohm(own)}, above ${ohm(nominal)}: a parallel path cannot do that`],
      };
    const brothers = numberOf(given, 'brothers');
    if (own < nominal * (1 - RULE.arrayApart))
      return {
        verdict: 'doubtful',
        because: [
          brothers !== undefined && Math.abs(read - brothers) < RULE.arrayApart * brothers
            ? `${ohm(read)} is less than nominal, as its brothers read: something stands beside all of them`
            : `${ohm(read)} is less than nominal: something stands beside it, or it has drifted down`,
        ],
        settle: 'lift the common pin, then read it again',
      };
    return Number.isFinite(beside) || numberOf(given, 'beside') !== undefined
      ? { verdict: 'good', because: [`${ohm(own)} for ${ohm(nominal)}`] }
      : {
          verdict: 'doubtful',
          because: [`${ohm(own)} for ${ohm(nominal)}, but nominal in circuit acquits nobody`],
          settle: 'say what stands beside it (OL for nothing), or lift its common pin',
        };
  },
};

export const CONTACT: GuidedCheck = {
  name: 'switch',
  title: 'switch or relay contact',
  about:
    'Ohms closed and open, worked a few times; bounce from a scope or a logic probe with memory.',
  power: 'off',
  fields: [
    { key: 'closed', label: 'closed', unit: 'ohm', needed: true, hint: 'the worst of ten times' },
    { key: 'open', label: 'open', unit: 'ohm', needed: true },
    { key: 'bounce', label: 'bounces for', unit: 's' },
  ],
  judge: (given) => {
    const [closed, open] = [numberOf(given, 'closed'), numberOf(given, 'open')];
    if (closed === undefined || open === undefined) return undefined;
    const bounce = numberOf(given, 'bounce');
    return together([
      graded(
        closed,
        RULE.contactGood,
        RULE.contactBad,
        `${ohm(closed)} closed`,
        'clean the contact, work it twenty times, read again',
      ),
      open > 1e5
        ? { verdict: 'good', because: [`${ohm(open)} open`] }
        : {
            verdict: 'doubtful',
            because: [`${ohm(open)} open: something stands beside it, or it leaks`],
            settle: 'read it unplugged',
          },
      bounce === undefined
        ? undefined
        : graded(
            bounce,
            RULE.bounceGood,
            RULE.bounceBad,
            `bounces for ${(1000 * bounce).toFixed(0)} ms`,
            'clean it; a worn leaf goes on bouncing',
          ),
    ]);
  },
};

export const INDUCTOR: GuidedCheck = {
  name: 'inductor',
  title: 'inductor: copper, joints, turns',
  about:
    'A beep says that the copper is whole, not that the joints are: dry ones look like a ring of dull solder. Shorted turns hardly change the ohms, but take inductance and rings away.',
  power: 'off',
  fields: [
    { key: 'ohm', label: 'reads', unit: 'ohm', needed: true },
    {
      key: 'copper',
      label: 'its copper should have',
      unit: 'ohm',
      hint: 'sheet, data, or the same part elsewhere',
    },
    { key: 'henry', label: 'inductance', unit: 'H', hint: 'one leg lifted' },
    { key: 'nominal', label: 'inductance it should have', unit: 'H' },
    { key: 'rings', label: 'rings before it has died away to half', unit: '' },
    {
      key: 'joints',
      label: 'joints under the glass',
      unit: 'choice',
      choices: ['whole', 'a dull ring', 'not looked at'],
    },
  ],
  judge: (given) => {
    const read = numberOf(given, 'ohm');
    if (read === undefined) return undefined;
    const [copper, henry, nominal, rings] = ['copper', 'henry', 'nominal', 'rings'].map((key) =>
      numberOf(given, key),
    );
    if (read > RULE.openOhm) return { verdict: 'bad', because: [`open: ${ohm(read)}`] };
    const results: (CheckResult | undefined)[] = [
      copper === undefined
        ? undefined
        : read > RULE.copperMore * copper + 0.3
          ? {
              verdict: 'doubtful',
              because: [`${ohm(read)} for ${ohm(copper)} of copper: a joint or a lead adds ohms`],
              settle: 'zero the leads, resolder both joints, read again',
            }
          : { verdict: 'good', because: [`copper ${ohm(read)} for ${ohm(copper)}`] },
      henry === undefined || nominal === undefined || nominal === 0
        ? undefined
        : henry < RULE.inductanceLess * nominal
          ? {
              verdict: 'bad',
              because: [
                `${Math.round((100 * henry) / nominal)} % of its inductance: shorted turns, or a cracked core`,
              ],
            }
          : {
              verdict: 'good',
              because: [`${Math.round((100 * henry) / nominal)} % of its inductance`],
            },
      rings === undefined
        ? undefined
        : rings >= RULE.ringsGood
          ? { verdict: 'good', because: [`rings ${rings} times`] }
          : rings <= RULE.ringsBad
            ? { verdict: 'bad', because: [`rings ${rings} times: shorted turns`] }
            : {
                verdict: 'doubtful',
                because: [`rings ${rings} times`],
                settle: 'compare with the same part of a good unit',
              },
      given.joints === 'a dull ring'
        ? { verdict: 'bad', because: ['a dry joint: resolder it, then judge again'] }
        : given.joints === 'whole'
          ? { verdict: 'good', because: ['joints whole'] }
          : undefined,
    ];
    const all = together(results);
    // Copper alone acquits no turns.
    if (all?.verdict === 'good' && henry === undefined && rings === undefined)
      return {
        verdict: 'doubtful',
        because: [...all.because, 'nothing was said of its turns'],
        settle: 'lift one leg and measure its inductance, or ring it',
      };
    return (
      all ?? {
        verdict: 'doubtful',
        because: [`${ohm(read)}: the copper is whole, no more`],
        settle: 'say what its copper should have; look at the joints',
      }
    );
  },
};

export const LIGHT_BARRIER: GuidedCheck = {
  name: 'light-barrier',
  title: 'light barrier',
  about:
    'Emitter first: a lit infrared one shows in a telephone camera. Then the detector with light through and blocked. Note which way round the output is before it is called wrong. A glued barrier is never moved.',
  power: 'on',
  fields: [
    {
      key: 'drop',
      label: 'across the emitter, lit',
      unit: 'V',
      needed: true,
      hint: '0.9 to 1.7 V; a diode test reads the same',
    },
    { key: 'free', label: 'output, light through', unit: 'V', needed: true },
    { key: 'blocked', label: 'output, blocked', unit: 'V', needed: true },
    { key: 'supply', label: 'its supply', unit: 'V', needed: true, hint: '5 V as a rule' },
    { key: 'dark', label: 'detector dark, off the board', unit: 'ohm' },
    { key: 'light', label: 'detector lit, off the board', unit: 'ohm' },
  ],
  judge: (given) => {
    const [drop, free, blocked, supply, dark, light] = [
      'drop',
      'free',
      'blocked',
      'supply',
      'dark',
      'light',
    ].map((key) => numberOf(given, key));
    if (
      drop === undefined ||
      free === undefined ||
      blocked === undefined ||
      supply === undefined ||
      supply <= 0
    )
      return undefined;
    const [least, most] = RULE.lampDrop;
    const swing = Math.abs(free - blocked) / supply;
    return together([
      drop < least
        ? {
            verdict: 'bad',
            because: [
              `${drop.toFixed(2)} V across the emitter: shorted, or no current comes to it`,
            ],
            settle: 'volts across its series resistor tell which',
          }
        : drop > most
          ? {
              verdict: 'bad',
              because: [`${drop.toFixed(2)} V across the emitter: open, or the wrong way round`],
            }
          : { verdict: 'good', because: [`emitter ${drop.toFixed(2)} V`] },
      swing > 0.5
        ? {
            verdict: 'good',
            because: [
              `output moves by ${(100 * swing).toFixed(0)} % of its supply, ${free < blocked ? 'low' : 'high'} with light through`,
            ],
          }
        : swing > 0.2
          ? {
              verdict: 'doubtful',
              because: [`output moves by ${(100 * swing).toFixed(0)} % of its supply only`],
              settle: 'clean both windows, measure again; then its pull-up',
            }
          : {
              verdict: 'bad',
              because: [`output hardly moves: ${free.toFixed(2)} V and ${blocked.toFixed(2)} V`],
              settle: 'detector by itself, dark and lit',
            },
      dark === undefined || light === undefined
        ? undefined
        : dark / light >= RULE.darkToLight[0]
          ? { verdict: 'good', because: [`detector ${ohm(dark)} dark, ${ohm(light)} lit`] }
          : dark / light >= RULE.darkToLight[1]
            ? {
                verdict: 'doubtful',
                because: [`detector ${ohm(dark)} dark, ${ohm(light)} lit: little for a good one`],
                settle: 'turn the meter round: it has a polarity',
              }
            : {
                verdict: 'bad',
                because: [`detector ${ohm(dark)} dark, ${ohm(light)} lit: it does not see`],
                settle: 'turn the meter round first: it has a polarity',
              },
    ]);
  },
};
