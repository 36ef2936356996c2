import type { Section } from './section';

/** Sensors, heads, optics and their servo. Common practice, from memory of service sheets; values typical. */
export const SENSORS: readonly Section[] = [
  {
    name: 'home-barrier',
    title: 'Home sensor by light barrier',
    ports: { P5: 'supply', HOME: 'low where the way is free' },
    sheet: `
setup home-blocked: blocked U1
R1 P5 ANODE 180
U1 interrupter a=ANODE k=0 c=HOME e=0
R2 P5 HOME 22k role="pull-up"
C1 HOME 0 1n 50V ceramic`,
    feed: 'V1 P5 0 5V',
    fails: [
      'carriage runs into its stop: barrier dirty, light source aged, flag off',
      'always home: detector shorted',
    ],
  },
  {
    name: 'index-reflective',
    title: 'Index by reflective sensor and comparator',
    ports: { P5: 'supply', INDEX: 'a pulse a turn' },
    sheet: `
R1 P5 ANODE 150
U1 opto a=ANODE k=0 c=REFL e=0 ratio=0.05
R2 P5 REFL 10k
R3 P5 LEVEL 10k
R4 LEVEL 0 15k
U2 311 1=0 2=REFL 3=LEVEL 4=0 7=INDEX 8=P5
R5 P5 INDEX 4k7 role="pull-up"`,
    feed: 'V1 P5 0 5V\nR6 INDEX 0 100k',
    fails: [
      'no index: dirty or faded mark, aged light source',
      'several a turn: threshold, stray light',
    ],
  },
  {
    name: 'leaf-switch',
    title: 'Leaf switch with pull-up and filter',
    ports: { P5: 'supply', PROT: 'low where it is closed' },
    sheet: `
R1 P5 PROT 4k7 role="pull-up"
S1 PROT CONTACT open role="leaf switch"
R2 CONTACT 0 100
C1 PROT 0 10n 50V ceramic
setup closed: thrown S1`,
    feed: 'V1 P5 0 5V\nR3 PROT 0 1meg',
    fails: ['never closed: leaf bent or black; clean with paper', 'chatters: filter capacitor'],
  },
  {
    name: 'head',
    title: 'Head with centre tap, steering diodes and read amplifier',
    ports: { P12: 'supply', CT: 'centre tap', OUTA: 'read signal', OUTB: 'read signal' },
    sheet: `
L1 winding CT HA 1m dcr=8 role="head winding"
L2 winding CT HB 1m dcr=8 role="head winding"
D1 HA RA 1N4148 role="steering diode"
D2 HB RB 1N4148 role="steering diode"
R1 RA 0 4k7
R2 RB 0 4k7
C1 RA OUTA 100n 50V film role=coupling
C2 RB OUTB 100n 50V film role=coupling
L3 winding ER 0 4m dcr=40 role="erase coil"
R3 P12 ER 470`,
    feed: 'V1 P12 0 12V\nV2 CT 0 5V\nR4 OUTA 0 10k\nR5 OUTB 0 10k',
    fails: [
      'reads nothing on one side: winding open ends the head; measure it first',
      'half a signal: steering diode',
      'old tracks shine through: erase coil or its resistor',
    ],
  },
  {
    name: 'coil-amplifier',
    title: 'Focus or tracking coil amplifier',
    ports: { P5: 'supply', N5: 'negative supply', ERR: 'error signal' },
    sheet: `
R1 ERR SUM 10k
R2 SUM DRIVE 100k
U1 358 1=OUT 2=SUM 3=0 4=N5 8=P5
R3 OUT BQ 220
Q1 NPN c=P5 b=BQ e=DRIVE
Q2 PNP c=N5 b=BQ e=DRIVE
L1 winding DRIVE SENSE 0.2m dcr=8 role="load lens coil"
R4 SENSE 0 1
C1 P5 0 47u 10V electrolytic
C2 0 N5 47u 10V electrolytic`,
    feed: 'V1 P5 0 5V\nV2 N5 0 -5V\nV3 ERR 0 -0.2V',
    fails: [
      'lens pulled to one end: amplifier, or one transistor shorted',
      'searches and never catches: coil or its flex open',
    ],
  },
  {
    name: 'photodiode',
    title: 'Photodiode preamplifier',
    ports: { P5: 'supply', N5: 'negative supply', SUM: 'light, as volts' },
    sheet: `
hazard laser U1 light source at work: never look in
D1 IN 0 DPHOTO role="photodiode"
model DPHOTO D (IS=1e-10)
R1 IN SUM 100k
C1 IN SUM 10p 50V ceramic
U1 358 1=SUM 2=IN 3=0 4=N5 8=P5
C2 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nV2 N5 0 -5V\nI1 IN 0 10u\nR2 SUM 0 10k',
    fails: [
      'no signal with the light there: diode, flex, amplifier',
      'signal at the rail: feedback resistor open',
    ],
  },
  {
    name: 'laser-supply',
    title: 'Laser supply with monitor diode and trimmer',
    ports: { P5: 'supply', ON: 'high lets it light' },
    sheet: `
hazard laser D1 invisible and harmful to eyes: closed lid, never look in, never turn the trimmer without a meter
R1 P5 REF 4k7
D3 0 REF zener 2V7
R2 REF SET 10k role="power trimmer, upper part"
R3 SET 0 10k role="power trimmer, lower part"
U1 358 1=GATE 2=MON 3=SET 4=0 8=P5
R4 GATE BASE 1k
R5 ON BASE 47k
Q1 NPN c=LD b=BASE e=EMIT
R6 EMIT 0 10
D1 P5 LD DLASER role="laser diode"
model DLASER D (IS=1e-18 N=2 RS=3)
R7 MON 0 2k2 role="monitor load"
R8 EMIT MON 2k2 role="stands for the monitor diode: its light is not modelled"`,
    feed: 'V1 P5 0 5V\nV2 ON 0 5V',
    fails: [
      'no light: regulator, transistor, and only then the diode',
      'current high and light weak: the diode is worn out',
      'trimmer turned by an earlier visitor: mark it, do not chase it',
    ],
  },
  {
    name: 'spindle-loop',
    title: 'Spindle loop with bipolar coupling capacitors',
    ports: {
      P5: 'supply',
      N5: 'negative supply',
      ERR: 'phase error',
      DRIVE: 'to the motor amplifier',
    },
    sheet: `
C1 ERR IN 4u7 16V bipolar role="servo coupling"
R1 IN SUM 22k
R2 IN 0 100k
R3 SUM LOOP 220k role="loop gain trimmer"
C2 SUM LOOP 100n 50V film role="loop filter"
U1 358 1=LOOP 2=SUM 3=0 4=N5 5=0 6=INV 7=DRIVE 8=P5
R4 LOOP INV 10k
R5 INV DRIVE 10k`,
    feed: 'V1 P5 0 5V\nV2 N5 0 -5V\nV3 ERR 0 0V\nR6 DRIVE 0 10k',
    fails: [
      'speed swings: bipolar coupling capacitor dried out',
      'runs away to one side: loop resistor open',
    ],
  },
  {
    name: 'write-driver',
    title: 'Write driver with gate',
    ports: {
      P5: 'logic supply',
      WGATE: 'high writes',
      WDATA: 'data',
      WA: 'head side A',
      WB: 'head side B',
    },
    sheet: `
U1 75452 1=WGATE 2=WDATA 3=WA 4=0 5=WB 6=WGATE 7=WDN 8=P5
U2 74LS04 1=WDATA 2=WDN 7=0 14=P5
R1 P5 WA 470
R2 P5 WB 470
R3 WGATE 0 10k role="keeps it from writing at power on"
C1 P5 0 100n 50V ceramic`,
    feed: 'V1 P5 0 5V\nR4 P5 WGATE 1k\nR5 P5 WDATA 1k',
    fails: [
      'destroys discs as it reads: gate stuck open; take the disc out before anything else',
      'never writes: gate, write protect',
    ],
  },
  {
    name: 'mode-switch',
    title: 'Mode switch by a resistor ladder',
    ports: { P5: 'supply', MODE: 'a voltage for each position' },
    sheet: `
R1 P5 MODE 4k7
S1 MODE M1 open role="mode switch"
S2 MODE M2 open role="mode switch"
R2 M1 0 1k
R3 M2 0 4k7
R4 MODE 0 22k
C1 MODE 0 10n 50V ceramic
setup first: thrown S1
setup second: thrown S2`,
    feed: 'V1 P5 0 5V',
    fails: [
      'takes one mode for another: contact with ohms in it; clean it',
      'no mode at all: ladder open, plug off',
    ],
  },
];
