import type { Board, DiodeModel, Part, TransistorModel } from '../schema';
import { NO_LIBRARY, type DeviceLibrary } from '../library';
import { printAnnotation } from './deck-annotations';
import { DIODE_DEFAULT } from './deck-models';
import { printDeckNumber } from './deck-number';
import { NOT_KNOWN } from './not-known';
import { printSheetLines } from './deck-sheet';

const PACKAGE_OF: Partial<Record<Part['kind'], string>> = {
  fuse: 'FUSE',
  connectorPin: 'PIN',
  link: 'LINK',
  winding: 'WINDING',
  opto: 'OPTO',
  relay: 'RELAY',
  transformer: 'TRANSFORMER',
};

// prettier-ignore
const LETTER_OF: Partial<Record<Part['kind'], string>> = {
  resistor: 'R', capacitor: 'C', inductor: 'L', voltageSource: 'V', currentSource: 'I', diode: 'D', transistor: 'Q',
};

/**
 * Writes a board as a circuit deck. What a deck cannot hold (parts of unspecified kind) is left as
 * a comment.
 * library: a black box that does what the library says is not written in full. Reading the result
 * gives the same parts, nets and values back.
 */
export function writeDeck(board: Board, library: DeviceLibrary = NO_LIBRARY): string {
  const lines = [board.title.replace(/[\r\n]/g, ' ')];
  for (const part of board.parts) {
    const annotation = printAnnotation(part, library);
    lines.push(element(part));
    if (annotation && part.kind !== 'unspecified') lines.push(annotation);
  }
  lines.push(...printSheetLines(board), ...modelCards(board), '.end', '');
  return lines.join('\n');
}

/**
 * The element's name: its designator, with the letter the format asks for put in front where it
 * starts with another one.
 */
function deckName(part: Part): string {
  const letter = LETTER_OF[part.kind];
  return letter === undefined || part.ref[0]!.toUpperCase() === letter
    ? part.ref
    : letter + part.ref;
}

const valueOr = ({ unknown }: { readonly unknown?: true | undefined }, value: number): string =>
  unknown ? NOT_KNOWN : printDeckNumber(value);

function element(part: Part): string {
  const nets = part.pins.join(' ');
  const name = deckName(part);
  switch (part.kind) {
    case 'resistor':
      return `${name} ${nets} ${valueOr(part, part.resistanceOhm)}`;
    case 'capacitor':
      return `${name} ${nets} ${valueOr(part, part.capacitanceFarad)}`;
    case 'inductor':
      return `${name} ${nets} ${valueOr(part, part.inductanceHenry)}`;
    case 'voltageSource':
      return `${name} ${nets} DC ${printDeckNumber(part.volt)}`;
    case 'currentSource':
      return `${name} ${nets} DC ${printDeckNumber(part.ampere)}`;
    case 'diode':
    case 'transistor':
      return `${name} ${nets} ${part.model.name}`;
    case 'chip':
    case 'regulator':
    case 'amplifier':
      return `X${part.ref} ${nets} ${part.model.name}`;
    case 'switch':
      return `X${part.ref} ${nets} ${part.rest === 'open' ? 'SWITCH_OPEN' : 'SWITCH'}`;
    case 'unspecified':
      return `* ${part.ref} ${nets} (kind not known)`;
    default:
      return `X${part.ref} ${nets} ${PACKAGE_OF[part.kind]}`;
  }
}

/** A `.model` card for every model that the board's diodes and transistors name. */
export function modelCards(board: Pick<Board, 'parts'>): string[] {
  const cards = new Map<string, string>();
  for (const part of board.parts) {
    if (part.kind === 'diode') cards.set(part.model.name.toLowerCase(), diodeCard(part.model));
    if (part.kind === 'transistor')
      cards.set(part.model.name.toLowerCase(), transistorCard(part.model));
  }
  return [...cards.values()];
}

const keys = (pairs: readonly (readonly [string, number | undefined])[]): string =>
  pairs
    .flatMap(([key, value]) => (value === undefined ? [] : [`${key}=${printDeckNumber(value)}`]))
    .join(' ');

function diodeCard(model: DiodeModel): string {
  const {
    saturationCurrentAmpere: is,
    emissionCoefficient: n,
    seriesResistanceOhm: rs,
    breakdownVolt: bv,
  } = model;
  const ibv =
    model.breakdownCurrentAmpere === DIODE_DEFAULT.breakdownCurrentAmpere
      ? undefined
      : model.breakdownCurrentAmpere;
  return `.model ${model.name} D (${keys([
    ['IS', is],
    ['N', n],
    ['RS', rs || undefined],
    ['BV', bv],
    ['IBV', ibv],
  ])})`;
}

function transistorCard(model: TransistorModel): string {
  const {
    saturationCurrentAmpere: is,
    forwardGain: bf,
    reverseGain: br,
    forwardEmission: nf,
    reverseEmission: nr,
  } = model;
  return `.model ${model.name} ${model.polarity.toUpperCase()} (${keys([
    ['IS', is],
    ['BF', bf],
    ['BR', br],
    ['NF', nf],
    ['NR', nr],
  ])})`;
}
