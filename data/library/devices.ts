import type { AmplifierModel, ChipModel, DeviceLibrary, RegulatorModel } from '@hanzai/core/board';
import { chipFromRow, type ChipRow } from '@hanzai/core/device';
import { BUS } from './chips/bus';
import { COMBINATIONAL } from './chips/combinational';
import { COUNTERS } from './chips/counters';
import { GATES } from './chips/gates';
import { OTHERS } from './chips/others';
import { REGISTERS } from './chips/registers';
import { FAMILIES } from './families';

/** Every chip of the 7400 series that the library knows. */
export const SERIES_74: readonly ChipRow[] = [...GATES, ...REGISTERS, ...COUNTERS, ...COMBINATIONAL, ...BUS];
export { OTHERS as OTHER_CHIPS } from './chips/others';
export { FAMILIES } from './families';

const SERIES_NAME = /^(74|75|26)(LS|S|ALS|AS|F|L|H|HC|HCT)?(\d{2,3})([A-Z]{0,3})$/;

/** The row and family of a chip's name, with or without suffix letters: `74LS86`, `74LS86AN`, `7404N`, `4011B`. */
function findRow(name: string): { row: ChipRow; family: string } | undefined {
  const plain = OTHERS.find(({ number }) => name === number || new RegExp(`^${number}(B|UB|A|N|P)?[A-Z]?$`).test(name));
  if (plain) return { row: plain, family: plain.family };
  const match = SERIES_NAME.exec(name);
  if (!match) return undefined;
  const [, series, letters = '', digits] = match as unknown as [string, string, string | undefined, string];
  const number = series === '74' ? digits : `${series}${letters}${digits}`;
  const row = SERIES_74.find((candidate) => candidate.number === number && (candidate.families?.includes(letters) ?? true));
  return row && { row, family: series === '74' ? letters : series === '26' ? 'LS' : '' };
}

const MODELS = new Map<string, ChipModel>();

/** The chip of this name, or undefined where the library does not have it. */
export function chipModel(written: string): ChipModel | undefined {
  const name = written.toUpperCase();
  const known = MODELS.get(name);
  if (known) return known;
  const found = findRow(name);
  if (!found) return undefined;
  const model = chipFromRow(found.row, FAMILIES[found.family]!, name);
  MODELS.set(name, model);
  return model;
}

const regulator = (name: string, roles: RegulatorModel['roles'], volt: number, polarity: RegulatorModel['polarity'], limitAmpere = 1.5): [string, RegulatorModel] => [
  name,
  { name, roles, volt, polarity, dropoutVolt: limitAmpere < 0.5 ? 1.7 : 2, limitAmpere, quiescentAmpere: 5e-3 },
]; // prettier-ignore

const POSITIVE: RegulatorModel['roles'] = ['in', 'ground', 'out'];
const NEGATIVE: RegulatorModel['roles'] = ['ground', 'in', 'out'];
const SMALL: RegulatorModel['roles'] = ['out', 'ground', 'in'];
const ADJUSTABLE: RegulatorModel['roles'] = ['ground', 'out', 'in'];

/** Series regulators by name. Pins, drop-out and limits: published data sheets, from memory. The adjustable one holds 1.25 V between output and adjust. */
const REGULATORS: ReadonlyMap<string, RegulatorModel> = new Map([
  ...[5, 6, 8, 9, 12, 15, 18, 24].flatMap((volt) => {
    const digits = String(volt).padStart(2, '0');
    return [
      regulator(`78${digits}`, POSITIVE, volt, 'positive'),
      regulator(`78L${digits}`, SMALL, volt, 'positive', 0.14),
      regulator(`79${digits}`, NEGATIVE, volt, 'negative'),
    ];
  }),
  ['317', { ...regulator('317', ADJUSTABLE, 1.25, 'positive')[1], quiescentAmpere: 50e-6 }],
]);

const OPAMP = { gain: 1e5, headroomHighVolt: 1.5, headroomLowVolt: 1.5, limitAmpere: 0.02, supplyAmpere: 2e-3 };
const SINGLE_SUPPLY = { ...OPAMP, headroomLowVolt: 0.02 };
const DUAL = { units: [{ out: 1, minus: 2, plus: 3 }, { plus: 5, minus: 6, out: 7 }], negativeSupply: 4, positiveSupply: 8 }; // prettier-ignore

/** Operational amplifiers by name, with the pins of their package. Published data sheets, from memory. */
const AMPLIFIERS: ReadonlyMap<string, { readonly pins: number; readonly model: AmplifierModel }> = new Map([
  ['741', { pins: 8, model: { name: '741', units: [{ minus: 2, plus: 3, out: 6 }], negativeSupply: 4, positiveSupply: 7, ...OPAMP } }],
  ['4558', { pins: 8, model: { name: '4558', ...DUAL, ...OPAMP } }],
  ['358', { pins: 8, model: { name: '358', ...DUAL, ...SINGLE_SUPPLY } }],
  [
    '324',
    {
      pins: 14,
      model: {
        name: '324', positiveSupply: 4, negativeSupply: 11, ...SINGLE_SUPPLY,
        units: [{ out: 1, minus: 2, plus: 3 }, { plus: 5, minus: 6, out: 7 }, { out: 8, minus: 9, plus: 10 }, { plus: 12, minus: 13, out: 14 }],
      },
    },
  ],
  /** A power amplifier for motors and coils, two in a package. */
  ['POWERAMP2', { pins: 8, model: { name: 'POWERAMP2', ...DUAL, gain: 1e4, headroomHighVolt: 1.2, headroomLowVolt: 1, limitAmpere: 1, supplyAmpere: 10e-3 } }],
]); // prettier-ignore

/** What a deck may name after an X beside the plain packages. */
export const LIBRARY: DeviceLibrary = {
  find(written) {
    const name = written.toUpperCase();
    const regulator = REGULATORS.get(name.replace(/^(78\d\d|79\d\d|317)(C|CT|T|A|K)$/, '$1'));
    if (regulator) return { pins: 3, make: (ref, pins) => ({ kind: 'regulator', ref, pins, model: regulator }) };
    const amplifier = AMPLIFIERS.get(name);
    if (amplifier) return { pins: amplifier.pins, make: (ref, pins) => ({ kind: 'amplifier', ref, pins, model: amplifier.model }) };
    const model = chipModel(name);
    if (model) return { pins: model.pins.length, make: (ref, pins) => ({ kind: 'chip', ref, pins, model }) };
    return undefined;
  },
  examples: ['74LS86', '7805', '358'],
};
