import type { Section } from './section';

/** Reset, clock, addresses, buses. Common practice, from memory of service sheets; values typical. */
export const LOGIC: readonly Section[] = [
  {
    name: 'reset',
    title: 'Reset by RC and Schmitt trigger',
    ports: { P5: 'logic supply', RES: 'reset, low while it holds' },
    sheet: `
R1 P5 RSTRC 22k role="reset time"
C1 RSTRC 0 10u 16V electrolytic role="reset time"
D1 RSTRC P5 1N4148 role="empties the capacitor at power off"
U1 74LS14 1=RSTRC 2=RSTN 3=RSTN 4=RES 7=0 14=P5`,
    feed: 'V1 P5 0 5V\nR2 RES 0 10k',
    fails: [
      'held in reset: capacitor leaky or shorted, resistor open',
      'starts at the third try: capacitor dried out, reset too short',
    ],
  },
  {
    name: 'clock',
    title: 'Clock module with series resistor',
    ports: { P5: 'logic supply', CLK: 'clock' },
    sheet: `
Y1 CLOCK4 2=0 3=OSC 4=P5
R1 OSC CLK 33
C1 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nR2 CLK 0 10k',
    fails: [
      'no clock: module, its supply, the series resistor',
      'runs only when touched: dry joint at the module',
    ],
  },
  {
    name: 'address-switch',
    title: 'Address switch with exclusive OR',
    ports: {
      P5: 'logic supply',
      A0: 'address bit from the bus',
      A1: 'address bit from the bus',
      EQ0: 'low where bit 0 fits',
      EQ1: 'low where bit 1 fits',
    },
    sheet: `
R1 P5 SW0 3k3 role="pull-up"
R2 P5 SW1 3k3 role="pull-up"
S1 SW0 0 open role="address switch"
S2 SW1 0 role="address switch"
U1 74LS86 1=A0 2=SW0 3=EQ0 4=A1 5=SW1 6=EQ1 7=0 14=P5
C1 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nR3 P5 A0 1k\nR4 A1 0 220\nR5 EQ0 0 10k\nR6 EQ1 0 10k',
    fails: [
      'answers to another address: switch contact open or bridged',
      'never answers: an output of the gate stuck',
    ],
  },
  {
    name: 'bus-line',
    title: 'Open-collector bus line with receiver',
    ports: {
      P5: 'logic supply',
      LINE: 'the line at the plug',
      DRIVE: 'high pulls the line low',
      SEEN: 'what is received, inverted',
    },
    sheet: `
R1 P5 LINE 1k role="line pull-up"
U1 7406 1=DRIVE 2=LINE 7=0 14=P5
U2 74LS14 1=LINE 2=SEEN 7=0 14=P5
D1 0 LINE 1N4148 role="line clamp"
C1 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nR2 DRIVE 0 220\nR3 SEEN 0 10k',
    fails: [
      'line stuck low: the driver; pull it and look again',
      'line never high enough: pull-up open or high',
      'talks but does not hear: receiver',
    ],
  },
  {
    name: 'serial-bus',
    title: 'Serial bus of three lines',
    ports: {
      P5: 'logic supply',
      ATN: 'attention at the plug',
      CLK: 'clock at the plug',
      DAT: 'data at the plug',
      CLKO: 'clock out, high pulls low',
      DATO: 'data out, high pulls low',
    },
    sheet: `
R1 P5 ATN 1k role="line pull-up"
R2 P5 CLK 1k role="line pull-up"
R3 P5 DAT 1k role="line pull-up"
D1 0 ATN 1N4148
D2 0 CLK 1N4148
D3 0 DAT 1N4148
U1 7406 1=CLKO 2=CLK 3=DATO 4=DAT 7=0 14=P5
U2 74LS14 1=ATN 2=ATNI 3=CLK 4=CLKI 5=DAT 6=DATI 7=0 14=P5
C1 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nR4 CLKO 0 220\nR5 DATO 0 220\nR6 ATNI 0 10k\nR7 CLKI 0 10k\nR8 DATI 0 10k',
    fails: [
      'bus hangs with every unit: one line held low by a driver',
      'one direction dead: receiver or its chip',
    ],
  },
  {
    name: 'processor',
    title: 'Processor with ROM, RAM and interface adapter',
    ports: { P5: 'logic supply', RES: 'reset', CLK: 'clock' },
    sheet: `
U1 6502 1=0 2=P5 4=IRQ 6=P5 8=P5 21=0 34=RW 37=CLK 38=P5 39=PH2 40=RES 9=A0 10=A1 11=A2 12=A3 20=A11 25=A15 33=D0 32=D1 31=D2 30=D3
U2 2732 8=A0 7=A1 6=A2 5=A3 9=D0 10=D1 11=D2 13=D3 12=0 18=CSROM 20=0 24=P5
U3 6522 1=0 20=P5 21=IRQ 22=RW 23=A15 24=A11 25=PH2 33=D0 32=D1 31=D2 30=D3 34=RES 38=A0 37=A1 36=A2 35=A3
U4 74LS04 1=A15 2=CSROM 7=0 14=P5
R1 P5 IRQ 3k3 role="pull-up"
C1 P5 0 100n 50V ceramic
C2 P5 0 47u 10V electrolytic`,
    feed: 'V1 P5 0 5V\nR2 P5 RES 1k\nY1 CLOCK4 2=0 3=CLK 4=P5',
    fails: [
      'no activity on the address lines: clock, reset and supply before the processor',
      'activity without sense: ROM select, a stuck data line, ROM itself',
      'one data line without life on all chips: pull them in turn',
    ],
  },
  {
    name: 'nibble-ram',
    title: 'Pair of nibble RAMs',
    ports: {
      P5: 'logic supply',
      CS: 'select, low',
      WE: 'write, low',
      A0: 'address',
      A1: 'address',
    },
    sheet: `
U1 2114 5=A0 6=A1 8=CS 9=0 10=WE 11=D3 12=D2 13=D1 14=D0 18=P5
U2 2114 5=A0 6=A1 8=CS 9=0 10=WE 11=D7 12=D6 13=D5 14=D4 18=P5
C1 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nR1 CS 0 220\nR2 P5 WE 1k\nY1 CLOCK4 2=0 3=A0 4=P5\nR3 A1 0 220\nR4 D0 0 10k\nR5 D4 0 10k\nR6 D1 0 10k\nR7 D2 0 10k\nR8 D3 0 10k\nR9 D5 0 10k\nR10 D6 0 10k\nR11 D7 0 10k',
    fails: [
      'self-test stops at memory: the pair shares address and select, so one bad nibble is one chip',
      'runs hot: replace it, whatever the test says',
    ],
  },
  {
    name: 'series-array',
    title: 'Resistor array in series with a bus',
    ports: {
      A: 'chip side',
      B: 'chip side',
      C: 'chip side',
      D: 'chip side',
      A2: 'plug side',
      B2: 'plug side',
      C2: 'plug side',
      D2: 'plug side',
    },
    sheet: `
RN1 33R x4 isolated 1=A 2=B 3=C 4=D 8=A2 7=B2 6=C2 5=D2`,
    feed: 'V1 A 0 5V\nR1 A2 0 1k\nV2 B 0 5V\nR2 B2 0 1k\nV3 C 0 5V\nR3 C2 0 1k\nV4 D 0 5V\nR4 D2 0 1k',
    fails: [
      'one line dead behind the array after a plug was pulled under power: its element is open',
    ],
  },
];
