import type { LedgerLine } from '@hanzai/core/bench';
import {
  findPoint,
  GROUND,
  partValue,
  type BoardIndex,
  type Part,
  type Setup,
} from '@hanzai/core/board';
import { siteKind, type SiteKind } from '@hanzai/core/fault';
import { unitOf, type ReadingKind, type ReadingValue, type Readout } from '@hanzai/core/instrument';
import { formatQuantity } from '@hanzai/core/quantity';

import type { DecisionCourse, SkipReason } from './entry';

export { tellsInWords as tellsWords } from '@hanzai/core/quantity';

export const KIND_WORDS: Readonly<Record<ReadingKind, string>> = {
  voltage: 'volts',
  resistance: 'ohms',
  continuity: 'continuity',
  diode: 'diode test',
  esr: 'ESR',
  logic: 'logic probe',
  current: 'current',
  symptom: 'seen or heard',
};
const COMMON_SETUP_WORDS: Readonly<Record<string, string>> = {
  on: 'power on',
  off: 'power off',
  unloaded: 'power on, loads unplugged',
};

/** A setup as people say it; one that the board names itself by its name. */
export function setupWords(setup: Setup): string {
  return COMMON_SETUP_WORDS[setup] ?? `power on, ${setup.replace(/-/g, ' ')}`;
}

/** A reading as people say it: `8.67 V`, `OL`, `beep`. */
export function valueText(kind: ReadingKind, value: ReadingValue): string {
  return typeof value === 'number' ? formatQuantity(value, unitOf(kind)) : value;
}

/** Two probe points as people say them: `VM to ground`, `across F1`, `Q1.B to Q1.E`. */
export function pointsText(index: BoardIndex | undefined, at: string, to: string): string {
  if (to === '')
    return (index?.board.observables ?? []).some(({ name }) => name === at)
      ? at
      : `${at} to ground`;
  // Without a sheet: the two ends of a part of two pins, by its letters.
  const [, ref] = index ? [] : (/^((?:R|C|L|D|F|S|SW|M|W)\d+[A-Z]?)\.1$/i.exec(at) ?? []);
  if (ref && to === `${ref}.2`) return `across ${ref}`;
  const [a, b] = index ? [findPoint(index, at)?.pin, findPoint(index, to)?.pin] : [];
  if (a && b && a.part === b.part && a.part.pins.length === 2)
    return a.index < b.index ? `across ${a.part.ref}` : `across ${a.part.ref}, reversed`;
  return `${at} to ${to === GROUND ? 'ground' : to}`;
}

/** The shorthand that files a value at these points: what stands before and after the value. */
export function shorthandAround(
  kind: ReadingKind,
  setup: Setup,
  at: string,
  to: string,
): readonly [string, string] {
  const word: Partial<Record<ReadingKind, string>> = {
    voltage: 'volts',
    resistance: 'ohm',
    diode: 'diode',
    esr: 'esr',
    logic: 'logic',
  };
  const points = kind === 'current' ? at : `${at} ${to === '' ? 'gnd' : to}`;
  return [
    points,
    [word[kind], setup === 'on' || setup === 'off' ? undefined : setup].filter(Boolean).join(' '),
  ];
}

/** Odds that people say where `1 in n` is too coarse: as `k in n`. */
const LIKELY_ODDS: readonly (readonly [number, number])[] = [
  [2, 5], [1, 2], [3, 5], [2, 3], [3, 4], [4, 5], [9, 10], [19, 20], [99, 100],
]; // prettier-ignore

/** A chance as people say it: `1 in 3`, `9 in 10`, `nearly sure`. */
export function oddsWords(share: number): string {
  if (share > 0.995) return 'nearly sure';
  if (share >= 0.367) {
    const [k, n] = LIKELY_ODDS.reduce((best, one) =>
      Math.abs(one[0] / one[1] - share) < Math.abs(best[0] / best[1] - share) ? one : best,
    );
    return `${k} in ${n}`;
  }
  if (share < 0.001) return 'less than 1 in 1000';
  const n = 1 / share;
  return `1 in ${n < 20 ? Math.round(n) : Number(n.toPrecision(1))}`;
}

export function percent(share: number): string {
  if (share > 0.995 && share < 1) return '>99 %';
  return share < 0.01
    ? share < 0.001
      ? '<0.1 %'
      : `${(share * 100).toFixed(1)} %`
    : `${Math.round(share * 100)} %`;
}

/** Weight of evidence with its sign: `+16 dB`. The unit is the deciban. */
export function decibanText(decibans: number): string {
  return `${decibans >= 0 ? '+' : '−'}${Math.abs(decibans).toFixed(Math.abs(decibans) < 10 ? 1 : 0)} dB`;
}

export function minutesText(minutes: number): string {
  if (minutes < 1) return `${Math.round(minutes * 60)} s`;
  return minutes < 90
    ? `${Number(minutes.toFixed(1))} min`
    : `${Math.floor(minutes / 60)} h ${Math.round(minutes % 60)} min`;
}

// prettier-ignore
const NOUN: Readonly<Record<Part['kind'], string>> = {
  resistor: 'resistor', capacitor: 'capacitor', inductor: 'choke', winding: 'winding', voltageSource: 'supply', currentSource: 'current source',
  diode: 'diode', transistor: 'transistor', fuse: 'fuse', switch: 'switch', connectorPin: 'connector', link: 'link', chip: 'chip', regulator: 'regulator',
  amplifier: 'amplifier', opto: 'opto-coupler', relay: 'relay', transformer: 'transformer', unspecified: 'part',
};

/**
 * A part in a few words: its role where it has one, else kind and value. elements: of one
 * replaceable part.
 */
export function partTitle(elements: readonly Part[]): string {
  const [first] = elements;
  if (!first) return '';
  if (first.kind === 'chip') return first.role ?? `${first.model.name}, ${first.model.title}`;
  if (first.role) return first.role.replace(/^load /, '');
  const value = partValue(first);
  return elements.length > 1
    ? /\.\D/.test(first.ref)
      ? 'driver chip'
      : `${NOUN[first.kind]}, ${elements.length} elements`
    : `${NOUN[first.kind]}${value ? ` ${value}` : ''}`;
}

/** The band of an expected reading: `8.42 V to 8.93 V`; empty where it is not a number. */
export function bandText(readout: Readout): string {
  if (typeof readout.low !== 'number') return '';
  const high =
    typeof readout.high === 'number' ? formatQuantity(readout.high, readout.unit, 3) : 'OL';
  return `${formatQuantity(readout.low, readout.unit, 3)} to ${high}`;
}

/** What places that are no parts are called. */
export const SITE_NOUN: Readonly<Record<SiteKind, string>> = {
  bridge: 'solder bridge',
  cut: 'cut track',
};

/** What a place that is no part is called: `solder bridge`; undefined for a part. */
export function siteTitle(index: BoardIndex | undefined, ref: string): string | undefined {
  const kind = index && siteKind(index, ref);
  return kind && SITE_NOUN[kind];
}

/** What was condemned or worked on, in words: `F1`, `solder bridge L1.2 to C1.1`. */
export function placeText(index: BoardIndex | undefined, ref: string): string {
  const title = siteTitle(index, ref);
  return title ? `${title} ${ref.replace('~', ' to ')}` : ref;
}

/**
 * Whether a ledger line is about a place between two points (a bridge, a cut) and not about a part.
 */
export function isMended({ ref }: LedgerLine): boolean {
  return ref.includes('~');
}

/** What a ledger line did, in words. */
export function ledgerWords(line: LedgerLine): string {
  if (isMended(line)) return 'mended';
  return { removed: 'came off', fitted: 'went on', leftOut: 'stays off on purpose' }[line.action];
}

/**
 * How loudly a reading speaks for a part being the guilty one, or against it, in words. decibans:
 * its weight of evidence.
 */
export function weightWords(decibans: number): string {
  const size = Math.abs(decibans);
  if (size < 1) return 'says nothing';
  const side = decibans > 0 ? 'for it' : 'against it';
  if (size < 5) return `a little ${side}`;
  if (size < 10) return `speaks ${side}`;
  return size < 20 ? `strongly ${side}` : `very strongly ${side}`;
}

/** How a job goes on after something that could have ended it. */
export const COURSE_WORDS: Readonly<Record<DecisionCourse, string>> = {
  'go-on': 'go on: the rest is worth repairing',
  measure: 'measure once more',
  test: 'take it off and test it',
  one: 'replace the one',
  like: 'replace it and its like',
  kind: 'replace all of its kind',
  undo: 'undo what an earlier visitor changed',
  donor: 'go on with a donor for what is finished',
  'give-up': 'give up: keep what is worth saving',
};

/** The beginning of a text, no longer than so many units and never half a character at its end. */
export function wholeCharacters(text: string, most: number): string {
  return text.slice(0, most).replace(/[\uD800-\uDBFF]$/, '');
}

/** Why a proposed reading is not taken. */
export const SKIP_WORDS: Readonly<Record<SkipReason, string>> = {
  reach: 'no probe comes there',
  unsafe: 'not safe with the power on',
  trust: 'would not be believed',
  instrument: 'no instrument for it',
};

/** The name of one fault or of several, in words: `L2:open + C4:high-esr` is L2 open and C4 high ESR. */
export function faultWords(names: string): string {
  return names
    .split(/\s\+\s/)
    .map((name) =>
      name
        .replace(':', ' ')
        .replace(/-/g, ' ')
        .replace(/\besr\b/, 'ESR')
        .replace(
          / short ([bceBCE])([bceBCE])$/,
          (_, one: string, other: string) =>
            ` short ${one.toUpperCase()} to ${other.toUpperCase()}`,
        ),
    )
    .join(' and ');
}

/** A price: with its small change only where it is small. */
export const moneyText = (value: number): string => value.toFixed(value < 10 ? 2 : 0);
