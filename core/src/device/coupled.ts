import type { Part } from '../board';
import { conductance, type Element } from './element';
import type { DeviceKind, FaultMode } from './kind';
import type { FreeCharacteristic } from './characteristic';
import { DEFAULT_TOLERANCE } from './passives';
import { SEVERITY } from './severity';
import { CONTACT_OHM } from './contacts';

/** Parts in which one side acts on another: light, magnetism, a moving contact. */

/**
 * The light source of an opto part: an infrared diode, 1.1 to 1.2 V at 10 mA. From memory of common
 * data sheets.
 */
const EMITTER = {
  name: 'opto-emitter',
  saturationCurrentAmpere: 1e-17,
  emissionCoefficient: 1.3,
  seriesResistanceOhm: 0,
  breakdownCurrentAmpere: 1e-3,
} as const;
/** Below this volt the detector saturates. */
const SATURATION_VOLT = 0.15;
const DARK_SIEMENS = 1e-9;
/** How much detector current rises for a volt more. */
const EARLY_SHARE = 0.02;

/**
 * Detector current: transfer ratio times the light source's current, less as the detector
 * saturates. Controls: collector, emitter, source's two nodes across the sense resistance.
 */
function detectorCharacteristic(ratio: number, senseOhm: number): FreeCharacteristic {
  const at: FreeCharacteristic['at'] = (v, out) => {
    const volt = v[0]! - v[1]!;
    const light = Math.max(0, v[2]! - v[3]!) / senseOhm;
    // Below saturation the detector is a resistance; above it gives what the light allows, rising a
    // little with the voltage.
    const saturated = volt < SATURATION_VOLT;
    const open = saturated ? volt / SATURATION_VOLT : 1 + EARLY_SHARE * (volt - SATURATION_VOLT);
    const full = ratio * light;
    out[0] = full * open + DARK_SIEMENS * volt;
    out[1] = 0.25 * Math.abs(full * open);
    const slope = full * (saturated ? 1 / SATURATION_VOLT : EARLY_SHARE) + DARK_SIEMENS;
    out[2] = slope;
    out[3] = -slope;
    const gain = light > 0 ? (ratio / senseOhm) * open : 0;
    out[4] = gain;
    out[5] = -gain;
  };
  return { kind: 'free', at };
}

/** Ohms in series with the light source at which its current is sensed; counts as its bulk. */
const SENSE_OHM = 2;

export const opto: DeviceKind<'opto'> = {
  kind: 'opto',
  openPin: (pin) => (pin < 2 ? 'emitter-open' : 'detector-open'),
  elements: (part) => {
    const [anode, cathode, collector, emitter] = part.pins as [string, string, string, string];
    const inner = `${part.ref}#light`;
    return [
      conductance(anode, inner, SENSE_OHM),
      { type: 'junction', anode: inner, cathode, model: EMITTER },
      {
        type: 'characteristic',
        a: collector,
        b: emitter,
        controls: [collector, emitter, anode, inner],
        characteristic: detectorCharacteristic(part.transferRatio, SENSE_OHM),
        holds: false,
      },
    ];
  },
  modes: (part) => {
    const [anode, cathode, collector, emitter] = part.pins as [string, string, string, string];
    const inner = `${part.ref}#light`;
    const isDetector = (element: Element): boolean => element.type === 'characteristic';
    const isFeed = (element: Element): boolean =>
      element.type === 'conductance' && element.b === inner;
    return [
      {
        name: 'emitter-open',
        severity: SEVERITY.open,
        changesDc: true,
        change: (all, ohm) =>
          all.map((e) => (isFeed(e) ? conductance(anode, inner, ohm) : isDetector(e) ? dim(e) : e)),
      },
      {
        name: 'emitter-short',
        severity: SEVERITY.short,
        changesDc: true,
        change: (all, ohm) => [...all, conductance(anode, cathode, ohm)],
      },
      {
        name: 'detector-open',
        severity: { low: 1, high: 1 },
        changesDc: true,
        change: (all) => all.filter((e) => !isDetector(e)),
      },
      {
        name: 'detector-short',
        severity: SEVERITY.short,
        changesDc: true,
        change: (all, ohm) => [...all, conductance(collector, emitter, ohm)],
      },
      {
        name: 'weak',
        severity: { low: 0.05, high: 0.5 },
        changesDc: true,
        change: (all, share) =>
          all.map((e) =>
            isDetector(e) && e.type === 'characteristic'
              ? {
                  ...e,
                  characteristic: detectorCharacteristic(part.transferRatio * share, SENSE_OHM),
                }
              : e,
          ),
      },
      {
        name: 'blocked',
        severity: { low: 1, high: 1 },
        changesDc: true,
        change: (all) => all.map((e) => (isDetector(e) ? dim(e) : e)),
      },
    ];
  },
};

/** The detector without light. */
export function dim(element: Element): Element {
  if (element.type !== 'characteristic') return element;
  return { ...element, characteristic: detectorCharacteristic(0, SENSE_OHM) };
}

/**
 * A relay's contacts follow its coil: worked out of the volts across the coil. Controls: contact
 * ends, coil ends.
 */
function contactCharacteristic(pullIn: number, work: boolean): FreeCharacteristic {
  const closed = 1 / CONTACT_OHM.switch;
  const at: FreeCharacteristic['at'] = (v, out) => {
    const pulled = Math.abs(v[2]! - v[3]!) >= pullIn;
    const siemens = pulled === work ? closed : 0;
    out[0] = siemens * (v[0]! - v[1]!);
    out[1] = 0;
    out[2] = siemens;
    out[3] = -siemens;
    out[4] = out[5] = 0;
  };
  return { kind: 'free', at };
}

/**
 * One contact of a relay. pullIn: volts across the coil from which it moves; Infinity for a coil
 * that carries nothing.
 */
function contact(part: Relay, to: 'rest' | 'work', pullIn: number): Element {
  const [coilA, coilB, common, rest, work] = part.pins as [string, string, string, string, string];
  const end = to === 'rest' ? rest : work;
  return {
    type: 'characteristic',
    a: common,
    b: end,
    controls: [common, end, coilA, coilB],
    characteristic: contactCharacteristic(pullIn, to === 'work'),
    holds: true,
  };
}

type Relay = Extract<Part, { kind: 'relay' }>;

export const relay: DeviceKind<'relay'> = {
  kind: 'relay',
  openPin: (pin) => ['coil-open', 'coil-open', undefined, 'rest-open', 'work-open'][pin],
  elements: (part) => {
    const [coilA, coilB] = part.pins as [string, string];
    const coil: Element = {
      type: 'coil',
      a: coilA,
      b: coilB,
      ohm: part.coilOhm,
      henry: 0.1,
      spread: DEFAULT_TOLERANCE.dcResistance / 2,
    };
    return [coil, contact(part, 'rest', part.pullInVolt), contact(part, 'work', part.pullInVolt)];
  },
  modes: (part) => {
    const [coilA, coilB, common, rest, work] = part.pins as [
      string,
      string,
      string,
      string,
      string,
    ];
    const ends = { rest, work };
    const withoutContact = (all: readonly Element[], to: 'rest' | 'work'): readonly Element[] =>
      all.filter((e) => e.type !== 'characteristic' || e.b !== ends[to]);
    const ofContact = (to: 'rest' | 'work'): FaultMode[] => [
      {
        name: `${to}-open`,
        severity: SEVERITY.open,
        changesDc: true,
        change: (all, ohm) => [...withoutContact(all, to), conductance(common, ends[to], ohm)],
      },
      {
        name: `${to}-welded`,
        severity: SEVERITY.short,
        changesDc: true,
        change: (all) => [...all, conductance(common, ends[to], CONTACT_OHM.switch)],
      },
    ];
    // An open coil has the volts across it but carries nothing: the contacts stay at rest.
    const openCoil = (all: readonly Element[], ohm: number): readonly Element[] => [
      ...all.flatMap((e): Element[] =>
        e.type === 'coil'
          ? [{ ...e, ohm: e.ohm + ohm, spread: 0 }]
          : e.type === 'characteristic'
            ? []
            : [e],
      ),
      ...(['rest', 'work'] as const)
        .filter((to) => all.some((e) => e.type === 'characteristic' && e.b === ends[to]))
        .map((to) => contact(part, to, Infinity)),
    ];
    return [
      { name: 'coil-open', severity: SEVERITY.open, changesDc: true, change: openCoil },
      {
        name: 'coil-short',
        severity: SEVERITY.short,
        changesDc: true,
        change: (all, ohm) => [...all, conductance(coilA, coilB, ohm)],
      },
      ...ofContact('rest'),
      ...ofContact('work'),
    ];
  },
};

export const transformer: DeviceKind<'transformer'> = {
  kind: 'transformer',
  openPin: (pin) => (pin < 2 ? 'primary-open' : 'secondary-open'),
  elements: (part) => {
    const [p1, p2, s1, s2] = part.pins as [string, string, string, string];
    return [
      {
        type: 'coil',
        a: p1,
        b: p2,
        ohm: part.primaryOhm,
        henry: 1,
        spread: DEFAULT_TOLERANCE.dcResistance / 2,
      },
      { type: 'branch', a: s1, b: s2, volt: part.peakVolt, ohm: part.secondaryOhm },
    ];
  },
  modes: (part) => {
    const [p1, p2, s1, s2] = part.pins as [string, string, string, string];
    const dead = (all: readonly Element[]): readonly Element[] =>
      all.map((e) => (e.type === 'branch' ? { ...e, volt: 0 } : e));
    return [
      {
        name: 'primary-open',
        severity: SEVERITY.open,
        changesDc: true,
        change: (all, ohm) =>
          dead(all).map((e) => (e.type === 'coil' ? { ...e, ohm: e.ohm + ohm, spread: 0 } : e)),
      },
      {
        name: 'secondary-open',
        severity: SEVERITY.open,
        changesDc: true,
        change: (all, ohm) =>
          all.map((e) => (e.type === 'branch' ? { ...e, ohm: e.ohm + ohm } : e)),
      },
      {
        name: 'primary-short',
        severity: SEVERITY.short,
        changesDc: true,
        change: (all, ohm) => [...dead(all), conductance(p1, p2, ohm)],
      },
      {
        name: 'secondary-short',
        severity: SEVERITY.short,
        changesDc: true,
        change: (all, ohm) => [...all, conductance(s1, s2, ohm)],
      },
    ];
  },
};
