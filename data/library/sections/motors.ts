import type { Section } from './section';

/** Motors, solenoids, relays, lamps. Common practice, from memory of service sheets; values typical. */
export const MOTORS: readonly Section[] = [
  {
    name: 'stepper-darlington',
    title: 'Stepper by Darlington array',
    ports: { VM: 'motor supply', PA: 'phase in', PB: 'phase in', PC: 'phase in', PD: 'phase in' },
    sheet: `
U1 DARLINGTON7 1=PA 2=PB 3=PC 4=PD 8=0 9=VM 16=PH0 15=PH1 14=PH2 13=PH3
L1 winding VM PH0 12m dcr=38 role="load stepper phase"
L2 winding VM PH1 12m dcr=38 role="load stepper phase"
L3 winding VM PH2 12m dcr=38 role="load stepper phase"
L4 winding VM PH3 12m dcr=38 role="load stepper phase"
C1 VM 0 100u 25V electrolytic role="motor bulk"
see holds "the carriage holds its place": volts VM to PH0 5..`,
    feed: 'V1 VM 0 12V\nV2 PA 0 5V\nV3 PB 0 0V\nV4 PC 0 5V\nV5 PD 0 0V',
    fails: [
      'hums and does not step: one phase dead, array or winding',
      'one phase always on and hot: its driver is shorted',
      'weak: motor bulk, supply',
    ],
  },
  {
    name: 'stepper-bridges',
    title: 'Stepper by two bridges',
    ports: {
      P5: 'logic supply',
      VM: 'motor supply',
      A1: 'bridge in',
      A2: 'bridge in',
      B1: 'bridge in',
      B2: 'bridge in',
    },
    sheet: `
U1 HBRIDGE2 1=SENA 2=Y1 3=Y2 4=VM 5=A1 6=P5 7=A2 8=0 9=P5 10=B1 11=P5 12=B2 13=Z1 14=Z2 15=SENB
L1 winding Y1 Y2 8m dcr=22 role="load stepper winding"
L2 winding Z1 Z2 8m dcr=22 role="load stepper winding"
R1 SENA 0 1
R2 SENB 0 1
C1 VM 0 100u 25V electrolytic role="motor bulk"
C2 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nV2 VM 0 12V\nV3 A1 0 5V\nV4 A2 0 0V\nV5 B1 0 5V\nV6 B2 0 0V',
    fails: [
      'one winding without current: sense resistor open, bridge half dead',
      'hot at rest: both ends driven against each other',
    ],
  },
  {
    name: 'spindle-bridge',
    title: 'Spindle motor by bridge amplifier',
    ports: { VM: 'motor supply', REF: 'half of the supply', DRIVE: 'drive from the servo' },
    sheet: `
U1 358 1=M1A 2=FBK 3=DRIVE 4=0 5=REF 6=M1B 7=M1B 8=VM
R1 FBK REF 10k
R2 M1A FBK 22k
M1 M1A M1B 4m dcr=120 role="load spindle motor"
C1 VM 0 100u 16V electrolytic role="motor bulk"`,
    feed: 'V1 VM 0 12V\nV2 REF 0 6V\nV3 DRIVE 0 6.6V',
    fails: [
      'one way only: half of the amplifier',
      'runs away: feedback open',
      'does not start: motor, then the amplifier',
    ],
  },
  {
    name: 'spindle-halves',
    title: 'Spindle with three half bridges',
    ports: {
      VM: 'motor supply',
      UH: 'upper, low turns on',
      UL: 'lower, high turns on',
      VH: 'upper',
      VL: 'lower',
      WH: 'upper',
      WL: 'lower',
    },
    sheet: `
Q1 PNP e=VM b=BU c=PU
Q2 NPN c=PU b=BUL e=0
Q3 PNP e=VM b=BV c=PV
Q4 NPN c=PV b=BVL e=0
Q5 PNP e=VM b=BW c=PW
Q6 NPN c=PW b=BWL e=0
R1 UH BU 1k
R2 UL BUL 1k
R3 VH BV 1k
R4 VL BVL 1k
R5 WH BW 1k
R6 WL BWL 1k
L1 winding PU STAR 2m dcr=12 role="load spindle phase"
L2 winding PV STAR 2m dcr=12 role="load spindle phase"
L3 winding PW STAR 2m dcr=12 role="load spindle phase"
C1 VM 0 100u 16V electrolytic role="motor bulk"`,
    feed: 'V1 VM 0 9V\nV2 UH 0 0V\nV3 UL 0 0V\nV4 VH 0 9V\nV5 VL 0 5V\nV6 WH 0 9V\nV7 WL 0 0V',
    fails: [
      'jerks and stands in two places: one half bridge dead',
      'fuse blows on start: one transistor shorted, its partner finishes it',
    ],
  },
  {
    name: 'tachometer',
    title: 'Tachometer pick-up and speed trimmer',
    ports: { P5: 'supply', TACHO: 'pulses out', SPEED: 'speed reference' },
    sheet: `
L1 winding PICK 0 20m dcr=200 role="tachometer coil"
C1 PICK COUP 100n 50V film role=coupling
R1 P5 COUP 100k
R2 COUP 0 10k
U1 311 1=0 2=COUP 3=LEVEL 4=0 7=TACHO 8=P5
R3 P5 LEVEL 100k
R4 LEVEL 0 12k
R5 P5 TACHO 4k7 role="pull-up"
R6 P5 SPEED 4k7 role="speed trimmer, upper part"
R7 SPEED 0 4k7 role="speed trimmer, lower part"
C2 SPEED 0 10u 16V electrolytic`,
    feed: 'V1 P5 0 5V\nR8 TACHO 0 100k',
    fails: [
      'runs away: no pulses; coil open, coupling capacitor',
      'speed hunts: trimmer contact, its filter',
    ],
  },
  {
    name: 'solenoid',
    title: 'Solenoid or eject motor with flyback diode',
    ports: { VM: 'motor supply', DRIVE: 'high pulls' },
    sheet: `
R1 DRIVE BASE 470
R2 BASE 0 10k
Q1 NPN c=COIL b=BASE e=0
L1 winding VM COIL 30m dcr=24 role="load solenoid"
D1 COIL VM 1N4001 role=flyback
see pulls "the solenoid pulls": amps L1 0.2..`,
    feed: 'V1 VM 0 12V\nV2 DRIVE 0 5V',
    fails: [
      'pulled for good and hot: transistor shorted, often after the flyback diode went open',
      'dead: coil, base resistor, transistor',
    ],
  },
  {
    name: 'muting-relay',
    title: 'Muting relay with its driver',
    ports: { P12: 'supply', DRIVE: 'high pulls in', SIN: 'signal in', SOUT: 'signal out' },
    sheet: `
R1 DRIVE BASE 2k2
Q1 NPN c=RLY b=BASE e=0
K1 relay coil1=P12 coil2=RLY common=SOUT rest=0 work=SIN coil=400 pullin=7.5
D1 RLY P12 1N4148 role=flyback`,
    feed: 'V1 P12 0 12V\nV2 DRIVE 0 5V\nV3 SIN 0 1V\nR2 SOUT 0 10k',
    fails: [
      'no sound, relay clicks: contact burnt; clean or replace',
      'never clicks: driver, coil',
    ],
  },
  {
    name: 'lamps',
    title: 'Lamps with series resistors',
    ports: { P5: 'supply', BUSY: 'low lights' },
    sheet: `
R1 P5 LP 330
D1 LP 0 LED role="power lamp"
D2 P5 LB LED role="busy lamp"
R2 LB BUSY 220
see power "the power lamp is lit": amps D1 0.003..
see busy "the busy lamp is lit": amps D2 0.003..`,
    feed: 'V1 P5 0 5V\nV2 BUSY 0 0.3V',
    fails: [
      'dark with the rail there: resistor open, lamp the wrong way round',
      'always lit: its driver',
    ],
  },
];
