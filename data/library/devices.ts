import type { AmplifierModel, ChipModel, DeviceLibrary, RegulatorModel } from '@hanzai/core/board';
import { chipFromRow, type ChipRow } from '@hanzai/core/device';
import { BUS } from './chips/bus';
import { COMBINATIONAL } from './chips/combinational';
import { COUNTERS } from './chips/counters';
import { GATES } from './chips/gates';
import { OTHERS } from './chips/others';
import { REGISTERS } from './chips/registers';
import { familyFor } from './families';

/**
 * Who says so, where a row does not: each pin-out was read a second time by package pin in
 * scripts/reference-chips, but for those named in core/test/reference/chips.test.ts.
 */
const SOURCE = 'pins: published data sheet, from memory; function: published function table';
const sourced = <T extends ChipRow>(row: T): T & { readonly source: string } => ({
  ...row,
  source: row.source ?? (row.blackBox ? `${SOURCE}; activity: common practice` : SOURCE),
});

/** Every chip of the 7400 series that the library knows, and those outside it. */
export const SERIES_74 = [...GATES, ...REGISTERS, ...COUNTERS, ...COMBINATIONAL, ...BUS].map(
  sourced,
);
export const OTHER_CHIPS = OTHERS.map(sourced);
export { FAMILIES } from './families';

const SERIES_NAME = /^(74|75|26)(LS|S|ALS|AS|F|L|H|HC|HCT)?(\d{2,3})([A-Z]{0,3})$/;

/**
 * Letters that makers put in front of a number of general kind: they do not change pins or
 * function. Common practice, no published source.
 */
const PREFIX = /^(SN|DM|MC|MM|HD|CD|HEF|HCF|LM|LF|UA|NE|TL|KA|L|N|T)(?=\d)/;

/** A name without the letters that only say who made it. */
function plainName(written: string): string {
  return written.toUpperCase().replace(PREFIX, '');
}

/**
 * The row and family of a chip's name, with or without prefix and suffix letters: `74LS86`,
 * `SN74LS86AN`, `7404N`, `4011B`.
 */
function findRow(name: string): { row: ChipRow; family: string } | undefined {
  const plain = OTHERS.find(
    ({ number }) => name === number || new RegExp(`^${number}(B|UB|A|N|P)?[A-Z]?$`).test(name),
  );
  if (plain) return { row: plain, family: plain.family };
  const match = SERIES_NAME.exec(name);
  if (!match) return undefined;
  const [, series, letters = '', digits] = match as unknown as [
    string,
    string,
    string | undefined,
    string,
  ];
  const number = series === '74' ? digits : `${series}${letters}${digits}`;
  const row = SERIES_74.find(
    (candidate) => candidate.number === number && (candidate.families?.includes(letters) ?? true),
  );
  return row && { row, family: series === '74' ? letters : series === '26' ? 'LS' : '' };
}

const MODELS = new Map<string, ChipModel>();

/** The chip of this name, or undefined where the library does not have it. */
export function chipModel(written: string): ChipModel | undefined {
  const name = plainName(written);
  const known = MODELS.get(name);
  if (known) return known;
  const found = findRow(name);
  if (!found) return undefined;
  const model = chipFromRow(found.row, familyFor(found.family, found.row.drive), name);
  MODELS.set(name, model);
  return model;
}

type Roles = RegulatorModel['roles'];
/**
 * Pins by package: flat with a tab, small round, and metal can (its case is pin 3). Published data
 * sheets, from memory.
 */
const TAB = {
  positive: ['in', 'ground', 'out'],
  negative: ['ground', 'in', 'out'],
  adjustable: ['ground', 'out', 'in'],
  adjustableNegative: ['ground', 'in', 'out'],
} satisfies Record<string, Roles>;
const SMALL = {
  positive: ['out', 'ground', 'in'],
  negative: ['ground', 'in', 'out'],
} satisfies Record<string, Roles>;
const CAN = {
  positive: ['in', 'out', 'ground'],
  negative: ['ground', 'out', 'in'],
  adjustable: ['ground', 'in', 'out'],
  adjustableNegative: ['ground', 'out', 'in'],
} satisfies Record<string, Roles>;

// prettier-ignore
const regulator = (name: string, roles: Roles, volt: number, polarity: RegulatorModel['polarity'], limitAmpere = 1.5): [string, RegulatorModel] => [
  name,
  { name, roles: [...roles], volt, polarity, dropoutVolt: limitAmpere < 0.5 ? 1.7 : 2, limitAmpere, quiescentAmpere: 5e-3 },
];

const adjustable = (
  name: string,
  roles: Roles,
  polarity: RegulatorModel['polarity'],
): [string, RegulatorModel] => [
  name,
  { ...regulator(name, roles, 1.25, polarity)[1], quiescentAmpere: 50e-6 },
];

/**
 * Series regulators by name; a K behind it is the metal can, which has its pins elsewhere. Drop-out
 * and limits: published data sheets, from memory. The adjustable ones hold 1.25 V between output
 * and adjust.
 */
// prettier-ignore
const REGULATORS: ReadonlyMap<string, RegulatorModel> = new Map([
  ...[5, 6, 8, 9, 12, 15, 18, 24].flatMap((volt) => {
    const digits = String(volt).padStart(2, '0');
    return [
      regulator(`78${digits}`, TAB.positive, volt, 'positive'),
      regulator(`78${digits}K`, CAN.positive, volt, 'positive'),
      regulator(`78M${digits}`, TAB.positive, volt, 'positive', 0.5),
      regulator(`78L${digits}`, SMALL.positive, volt, 'positive', 0.14),
      regulator(`79${digits}`, TAB.negative, volt, 'negative'),
      regulator(`79${digits}K`, CAN.negative, volt, 'negative'),
      regulator(`79M${digits}`, TAB.negative, volt, 'negative', 0.5),
      regulator(`79L${digits}`, SMALL.negative, volt, 'negative', 0.14),
    ];
  }),
  adjustable('317', TAB.adjustable, 'positive'), adjustable('317K', CAN.adjustable, 'positive'),
  adjustable('337', TAB.adjustableNegative, 'negative'), adjustable('337K', CAN.adjustableNegative, 'negative'),
]);

/**
 * A regulator by its name: with suffix letters that say grade and package, of which only K moves
 * the pins.
 */
function findRegulator(name: string): RegulatorModel | undefined {
  return (
    REGULATORS.get(name) ??
    REGULATORS.get(
      name
        .replace(/^(78M?\d\d|79M?\d\d|78L\d\d|79L\d\d|317|337)(A?CK|AK)$/, '$1K')
        .replace(/^(78M?\d\d|79M?\d\d|78L\d\d|79L\d\d|317|337)(A?C|A?CT|T|A|ACZ|CZ|Z)$/, '$1'),
    )
  );
}

const OPAMP = {
  gain: 1e5,
  headroomHighVolt: 1.5,
  headroomLowVolt: 1.5,
  limitAmpere: 0.02,
  supplyAmpere: 2e-3,
};
const SINGLE_SUPPLY = { ...OPAMP, headroomLowVolt: 0.02 };
/** Operational amplifiers with field-effect inputs. */
const FET = {
  gain: 1e5,
  headroomHighVolt: 1.5,
  headroomLowVolt: 1.5,
  limitAmpere: 0.03,
  supplyAmpere: 3e-3,
};
const SINGLE = { units: [{ minus: 2, plus: 3, out: 6 }], negativeSupply: 4, positiveSupply: 7 };
const QUAD = {
  positiveSupply: 4,
  negativeSupply: 11,
  units: [
    { out: 1, minus: 2, plus: 3 },
    { plus: 5, minus: 6, out: 7 },
    { out: 8, minus: 9, plus: 10 },
    { plus: 12, minus: 13, out: 14 },
  ],
};
const DUAL = {
  units: [
    { out: 1, minus: 2, plus: 3 },
    { plus: 5, minus: 6, out: 7 },
  ],
  negativeSupply: 4,
  positiveSupply: 8,
};

/**
 * Operational amplifiers by name, with the pins of their package. Published data sheets, from
 * memory.
 */
// prettier-ignore
const AMPLIFIERS: ReadonlyMap<string, { readonly pins: number; readonly model: AmplifierModel }> = new Map([
  ['741', { pins: 8, model: { name: '741', ...SINGLE, ...OPAMP } }],
  ...['071', '081'].map((name): [string, { pins: number; model: AmplifierModel }] => [name, { pins: 8, model: { name, ...SINGLE, ...FET } }]),
  ...['072', '082'].map((name): [string, { pins: number; model: AmplifierModel }] => [name, { pins: 8, model: { name, ...DUAL, ...FET } }]),
  ...['074', '084'].map((name): [string, { pins: number; model: AmplifierModel }] => [name, { pins: 14, model: { name, ...QUAD, ...FET } }]),
  ['4558', { pins: 8, model: { name: '4558', ...DUAL, ...OPAMP } }],
  ['358', { pins: 8, model: { name: '358', ...DUAL, ...SINGLE_SUPPLY } }],
  ['324', { pins: 14, model: { name: '324', ...QUAD, ...SINGLE_SUPPLY } }],
  /** A power amplifier for motors and coils, two in a package. */
  ['POWERAMP2', { pins: 8, model: { name: 'POWERAMP2', ...DUAL, gain: 1e4, headroomHighVolt: 1.2, headroomLowVolt: 1, limitAmpere: 1, supplyAmpere: 10e-3, outputOhm: 0.7 } }],
]);

/** What a deck may name after an X beside the plain packages. */
export const LIBRARY: DeviceLibrary = {
  find(written) {
    const name = plainName(written);
    const regulator = findRegulator(name);
    if (regulator)
      return { pins: 3, make: (ref, pins) => ({ kind: 'regulator', ref, pins, model: regulator }) };
    const amplifier =
      AMPLIFIERS.get(name) ??
      AMPLIFIERS.get(name.replace(/^(0[78][124]|741|4558|358|324)(C|CN|CP|N|P|A|AC|ACN)$/, '$1'));
    if (amplifier)
      return {
        pins: amplifier.pins,
        make: (ref, pins) => ({ kind: 'amplifier', ref, pins, model: amplifier.model }),
      };
    const model = chipModel(name);
    if (model)
      return { pins: model.pins.length, make: (ref, pins) => ({ kind: 'chip', ref, pins, model }) };
    return undefined;
  },
  examples: ['74LS86', '7805', '358'],
};
