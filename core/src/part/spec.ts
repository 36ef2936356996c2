import type {
  AmplifierModel,
  ChipModel,
  Dielectric,
  FuseRating,
  RegulatorModel,
  TransistorModel,
} from '../board';

/** Classes of capacitors that may lie on the mains. Source: IEC 60384-14. */
export const SAFETY_CLASSES = ['X1', 'X2', 'X3', 'Y1', 'Y2', 'Y3', 'Y4'] as const;
export type SafetyClass = (typeof SAFETY_CLASSES)[number];

/** Outside measures of a part, or the room that there is for one; mm. */
export interface Size {
  readonly height?: number;
  readonly diameter?: number;
  /** Distance of the legs. */
  readonly pitch?: number;
}

/** What every part's words may say. SI units; what was not said is undefined. */
interface Said {
  readonly text: string;
  /** Highest temperature, °C. */
  readonly celsius?: number;
  readonly size: Size;
  /** Hours at that temperature. */
  readonly lifeHours?: number;
}

/** A class of ceramics: class 1 keeps its value, class 2 does not. Source: EIA-198, IEC 60384-21. */
export type CeramicClass = 1 | 2;

export interface CapacitorSpec extends Said {
  readonly kind: 'capacitor';
  readonly farad?: number;
  /** Largest deviation as a share of the value. */
  readonly tolerance?: number;
  readonly volt?: number;
  readonly dielectric?: Dielectric;
  readonly ceramic?: CeramicClass;
  /** Ohms at 100 kHz. */
  readonly esrOhm?: number;
  readonly rippleAmpere?: number;
  readonly safety?: readonly SafetyClass[];
  /** Two polar ones, minus to minus: no polarity, half of the value of each. */
  readonly backToBack?: true;
}

export interface FuseSpec extends Said, FuseRating {
  readonly kind: 'fuse';
  readonly breakingAmpere?: number;
  /** Melting integral, A²s. */
  readonly meltingA2s?: number;
}

export interface ResistorSpec extends Said {
  readonly kind: 'resistor';
  readonly ohm?: number;
  readonly tolerance?: number;
  readonly watt?: number;
  readonly fusible?: true;
  readonly flameproof?: true;
  /** Wound of wire: it is a coil too. */
  readonly wound?: true;
}

export interface ArraySpec extends Said {
  readonly kind: 'array';
  readonly ohm?: number;
  readonly tolerance?: number;
  readonly elements?: number;
  readonly pins?: number;
  /** isolated: each element has two pins. bussed: all have one pin in common. */
  readonly joined?: 'isolated' | 'bussed' | 'divider';
}

export interface InductorSpec extends Said {
  readonly kind: 'inductor';
  readonly henry?: number;
  readonly tolerance?: number;
  readonly ampere?: number;
  readonly copperOhm?: number;
}

export interface CrystalSpec extends Said {
  readonly kind: 'crystal';
  readonly type?: 'crystal' | 'resonator' | 'oscillator';
  readonly hertz?: number;
  readonly loadFarad?: number;
  readonly cut?: 'fundamental' | 'overtone';
}

export interface DiodeSpec extends Said {
  readonly kind: 'diode';
  readonly type?: 'signal' | 'rectifier' | 'schottky' | 'zener' | 'led' | 'bridge';
  readonly isFast?: boolean;
  /** Largest reverse volts; of a zener the volts that it holds. */
  readonly volt?: number;
  readonly ampere?: number;
  readonly watt?: number;
  readonly colour?: string;
}

export interface TransistorSpec extends Said {
  readonly kind: 'transistor';
  readonly polarity?: TransistorModel['polarity'] | 'n-channel' | 'p-channel';
  readonly darlington?: boolean;
  readonly volt?: number;
  readonly ampere?: number;
  readonly gain?: number;
  readonly watt?: number;
  readonly hertz?: number;
  /** Letters of the legs from left to right, print towards you: `EBC`. */
  readonly order?: string;
}

export interface OptoSpec extends Said {
  readonly kind: 'opto';
  readonly type?: 'interrupter' | 'reflective' | 'coupler';
  readonly order?: string;
  readonly slotMm?: number;
}

export interface RegulatorSpec extends Said {
  readonly kind: 'regulator';
  readonly model?: RegulatorModel;
  readonly volt?: number;
  readonly negative?: boolean;
  readonly adjustable?: boolean;
  readonly ampere?: number;
  readonly dropoutVolt?: number;
  readonly order?: string;
  /** A type that needs little volts across it: it asks something of the capacitor behind it. */
  readonly lowDrop?: true;
}

export interface SwitchSpec extends Said {
  readonly kind: 'switch';
  readonly contact?: 'NC' | 'NO' | 'CO';
  readonly latching?: boolean;
  readonly volt?: number;
  readonly ampere?: number;
}

export interface ConnectorSpec extends Said {
  readonly kind: 'connector';
  readonly ways?: number;
  readonly side?: 'pins' | 'sockets';
  readonly ampere?: number;
}

export interface MotorSpec extends Said {
  readonly kind: 'motor';
  readonly type?: 'direct' | 'stepper';
  readonly volt?: number;
  readonly ohm?: number;
  readonly shaftMm?: number;
  readonly turns?: 'clockwise' | 'counter-clockwise';
}

export interface BeltSpec extends Said {
  readonly kind: 'belt';
  /** All the way round, lying loose; mm. */
  readonly lengthMm?: number;
  readonly sectionMm?: number;
  readonly shape?: 'round' | 'square' | 'flat' | 'toothed';
  readonly teeth?: number;
}

export interface LogicSpec extends Said {
  readonly kind: 'logic';
  readonly name: string;
  /** Letters of the family, '' for the standard one; undefined outside the series. */
  readonly family?: string;
  /** Digits behind the family: what it does and where its pins are. */
  readonly number?: string;
  readonly model?: ChipModel;
}

export interface AmplifierSpec extends Said {
  readonly kind: 'amplifier';
  readonly name: string;
  readonly pins: number;
  readonly model: AmplifierModel;
}

/** A piece of wire, a link, solder. */
export interface WireSpec extends Said {
  readonly kind: 'wire';
}

/** Words that do not tell what it is. */
export interface UnknownSpec extends Said {
  readonly kind: 'unknown';
}

/** What is known of a part that came off or is offered, as far as somebody wrote it down. */
export type PartSpec =
  | CapacitorSpec
  | FuseSpec
  | ResistorSpec
  | ArraySpec
  | InductorSpec
  | CrystalSpec
  | DiodeSpec
  | TransistorSpec
  | OptoSpec
  | RegulatorSpec
  | SwitchSpec
  | ConnectorSpec
  | MotorSpec
  | BeltSpec
  | LogicSpec
  | AmplifierSpec
  | WireSpec
  | UnknownSpec;

export type SpecKind = PartSpec['kind'];
export type SpecOf<K extends SpecKind> = Extract<PartSpec, { kind: K }>;
