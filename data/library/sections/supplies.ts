import type { Section } from './section';

/** Supplies. Common practice, from memory of service sheets; values typical. */
export const SUPPLIES: readonly Section[] = [
  {
    name: 'supply-entry',
    title: 'Supply entry with fuse, choke and clamp',
    ports: { IN: 'the supply as it comes in', OUT: 'the rail behind the choke' },
    sheet: `
F1 IN INF T1A
C1 INF 0 100n 50V ceramic
L1 INF OUT 47u dcr=0.3
D1 0 OUT zener 12V role="over-voltage clamp"
C2 OUT 0 470u 16V electrolytic role=bulk
C3 OUT 0 100n 50V ceramic`,
    feed: 'V1 IN 0 9V\nR1 OUT 0 47',
    fails: [
      'dead rail with the supply there: fuse first, then the choke',
      'fuse blows again at once: clamp or bulk capacitor shorted',
      'resets under load: bulk capacitor dried out',
    ],
  },
  {
    name: 'rectifier-reservoir',
    title: 'Transformer, bridge rectifier and reservoir',
    ports: { LIVE: 'mains live', NEUT: 'mains neutral', RAW: 'the raw supply' },
    sheet: `
hazard mains T1 mains up to the transformer: unplug, cover it, one hand
hazard stored-charge C1 the reservoir keeps its charge
F1 LIVE PRI T315mA
T1 transformer p1=PRI p2=NEUT s1=SEC1 s2=SEC2 primary=200 secondary=1 peak=18
D1 SEC1 RAW 1N4001
D2 SEC2 RAW 1N4001
D3 0 SEC1 1N4001
D4 0 SEC2 1N4001
C1 RAW 0 2200u 35V electrolytic role=reservoir
C2 RAW 0 100n 50V ceramic
R1 RAW 0 2k2 role=bleeder`,
    feed: 'R2 RAW 0 2k2',
    fails: [
      'hum, low and sagging raw supply: reservoir, or one diode open',
      'fuse blows: a diode or the reservoir shorted',
      'no supply, secondary dead: primary open, often a thermal fuse inside the winding',
    ],
  },
  {
    name: 'line-filter',
    title: 'Line filter ahead of a transformer',
    ports: {
      LIVE: 'mains live at the plug',
      NEUT: 'mains neutral at the plug',
      LOUT: 'live behind it',
      NOUT: 'neutral behind it',
    },
    sheet: `
hazard mains C1 on the mains side: unplugged, and the capacitor read, before hands go in
hazard stored-charge C1 keeps the peak of the mains until the bleeder has emptied it
C1 LIVE NEUT 100n 275V film role="line filter"
R1 LIVE NEUT 1M role="line filter bleeder"
L1 LIVE LOUT 10m dcr=1
L2 NEUT NOUT 10m dcr=1
C2 LOUT NOUT 100n 275V film role="line filter"`,
    feed: 'R2 LOUT NOUT 1meg\nR3 NEUT 0 1meg',
    fails: [
      'crackle, smoke and smell: paper capacitor across the mains',
      'tingle after unplugging: bleeder open',
      'nothing behind the filter: a choke open at its pin',
    ],
  },
  {
    name: 'regulator-positive',
    title: 'Fixed positive regulator (78xx)',
    ports: { RAW: 'the raw supply', OUT: 'the regulated rail' },
    sheet: `
U1 7805 in=RAW ground=0 out=OUT
C1 RAW 0 330n 50V film
C2 OUT 0 100n 50V ceramic
C3 OUT 0 100u 10V electrolytic role="output bulk"
D1 OUT RAW 1N4001 role="regulator protection"`,
    feed: 'V1 RAW 0 12V\nR1 OUT 0 47',
    fails: [
      'output follows the input: regulator shorted, and everything behind it is suspect',
      'output low and hot: overloaded behind it; lift the load before the regulator',
      'ripple with a good regulator: output or input capacitor',
    ],
  },
  {
    name: 'regulator-negative',
    title: 'Fixed negative regulator (79xx)',
    ports: { RAW: 'the raw negative supply', OUT: 'the regulated negative rail' },
    sheet: `
U1 7912 ground=0 in=RAW out=OUT
C1 0 RAW 1u 35V tantalum
C2 0 OUT 1u 35V tantalum
C3 0 OUT 100u 25V electrolytic role="output bulk"
D1 RAW OUT 1N4001 role="regulator protection"`,
    feed: 'V1 RAW 0 -18V\nR1 OUT 0 220',
    fails: [
      'positive rail good, amplifiers stuck at it: the negative one is gone',
      'oscillates: its tantalum at the output is dry or was left away',
    ],
  },
  {
    name: 'regulator-adjustable',
    title: 'Adjustable regulator with divider',
    ports: { RAW: 'the raw supply', OUT: 'the set rail' },
    sheet: `
U1 317 ground=ADJ out=OUT in=RAW
R1 OUT ADJ 240 tol=1%
R2 ADJ 0 1k2 tol=1%
C1 RAW 0 100n 50V ceramic
C2 OUT 0 47u 25V electrolytic
D1 OUT RAW 1N4001 role="regulator protection"`,
    feed: 'V1 RAW 0 15V\nR3 OUT 0 100',
    fails: [
      'output near the input: divider to ground open',
      'output at 1.25 V: adjust pin shorted to ground',
    ],
  },
  {
    name: 'regulator-discrete',
    title: 'Zener and transistor regulator',
    ports: { RAW: 'the raw supply', OUT: 'the regulated rail' },
    sheet: `
R1 RAW REF 470
D1 0 REF zener 5V6
C1 REF 0 47u 10V electrolytic role="reference filter"
Q1 NPN c=RAW b=REF e=OUT
C2 OUT 0 100u 10V electrolytic role="output bulk"
C3 OUT 0 100n 50V ceramic`,
    feed: 'V1 RAW 0 12V\nR2 OUT 0 100',
    fails: [
      'output high: zener open',
      'output dead with the raw supply there: zener shorted, its resistor open, or the transistor',
      'hum on the rail: reference filter dried out',
    ],
  },
  {
    name: 'step-down',
    title: 'Step-down converter',
    ports: { RAW: 'the raw supply', OUT: 'the low rail' },
    sheet: `
edge SWITCH the controller switches here: what it does is not modelled
U1 box 1=RAW 2=SWITCH 3=0 4=FEEDBACK
C1 RAW 0 100u 35V electrolytic role="input bulk"
D1 0 SWITCH schottky role="free-wheeling diode"
L1 SWITCH OUT 100u dcr=0.1
C2 OUT 0 470u 10V electrolytic role="output bulk, low ESR"
R1 OUT FEEDBACK 3k3 tol=1%
R2 FEEDBACK 0 1k tol=1%`,
    feed: 'V1 RAW 0 12V\nV2 OUT 0 5V\nR3 OUT 0 22',
    fails: [
      'whistles, ripple, resets: output capacitor first',
      'input fuse blows: switch or free-wheeling diode shorted',
      'output high: feedback divider open',
    ],
  },
  {
    name: 'decoupling',
    title: 'Decoupling group of a rail',
    ports: { RAIL: 'the rail' },
    sheet: `
C1 RAIL 0 47u 10V electrolytic role="far-corner bulk"
C2 RAIL 0 100n 50V ceramic
C3 RAIL 0 100n 50V ceramic
C4 RAIL 0 100n 50V ceramic`,
    feed: 'V1 IN 0 5V\nR1 IN RAIL 1\nR2 RAIL 0 100',
    fails: [
      'rail at a few millivolts, ohms near nothing: one of the ceramics or the bulk is shorted; lift them in turn',
      'chips misbehave at speed with a good rail: bulk dried out',
    ],
  },
];
