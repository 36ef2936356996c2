import { GROUND, isBusyNet, nameKey, pinsOn, type BoardIndex, type Part } from '../board';
import { gaugeMm, jumperAmpere, wireHenry, wireOhm } from './copper';

/** The wire that repairs of pads are made with: 30 gauge. Common practice. */
export const JUMPER_GAUGE = 30;
/** A wire is never as short as the straight way. Common practice, no published source. */
const SLACK = 1.2;
/** Soldered ends, mm. */
const ENDS_MM = 4;

/** What a piece of wire is beside the part that it serves. */
export interface Jumper {
  readonly lengthMm: number;
  readonly ohm: number;
  readonly henry: number;
  /** Ohms of its inductance at 100 kHz, where a capacitor's ESR is read. */
  readonly reactanceOhm: number;
  readonly ampere: number;
}

const ESR_HERTZ = 100e3;

export function jumperOf(straightMm: number, gauge = JUMPER_GAUGE): Jumper {
  const lengthMm = straightMm * SLACK + ENDS_MM;
  const diameterMm = gaugeMm(gauge);
  const henry = wireHenry(lengthMm, diameterMm);
  return {
    lengthMm,
    ohm: wireOhm(lengthMm, diameterMm),
    henry,
    reactanceOhm: 2 * Math.PI * ESR_HERTZ * henry,
    ampere: jumperAmpere(diameterMm),
  };
}

/**
 * What a jumper means beside the ohms that its part has by itself: nothing below a tenth, to be
 * thought of up to as much, too long above. Common practice, no published source.
 */
export function besidePart(
  jumper: Jumper,
  partOhm: number | undefined,
): 'nothing' | 'mind' | 'too long' | 'not judged' {
  if (partOhm === undefined) return 'not judged';
  const own = Math.hypot(jumper.ohm, jumper.reactanceOhm);
  if (own < 0.1 * partOhm) return 'nothing';
  return own <= partOhm ? 'mind' : 'too long';
}

/** A place where a wire can go in place of a lost pad. */
export interface Landing {
  /** A pin of the same net, `U3.7`. */
  readonly pin: string;
  readonly straightMm: number;
  readonly jumper: Jumper;
  /** Pulling at a part that somebody has to lift later is no good place. */
  readonly isOnSuspect: boolean;
}

/** Where a pin lies, mm; its part's centre where its own place is not known. */
function placeOf(part: Part, pin: number): readonly [number, number] | undefined {
  return part.pinPositionsMm?.[pin] ?? part.positionMm;
}

/**
 * Where the net of a pin can be reached in its stead, the nearest first. Pins without a place on the
 * board are left out. suspects: designators that may come off themselves.
 */
export function landings(
  index: BoardIndex,
  part: Part,
  pin: number,
  suspects: ReadonlySet<string> = new Set(),
): readonly Landing[] {
  const here = placeOf(part, pin);
  const net = part.pins[pin];
  if (!here || net === undefined) return [];
  return pinsOn(index, net)
    .filter(({ part: other }) => nameKey(other.ref) !== nameKey(part.ref))
    .flatMap(({ part: other, index: at }): Landing[] => {
      const there = placeOf(other, at);
      if (!there) return [];
      const straightMm = Math.hypot(there[0] - here[0], there[1] - here[1]);
      return [
        {
          pin: `${other.ref}.${at + 1}`,
          straightMm,
          jumper: jumperOf(straightMm),
          isOnSuspect: suspects.has(other.ref),
        },
      ];
    })
    .sort((a, b) => Number(a.isOnSuspect) - Number(b.isOnSuspect) || a.straightMm - b.straightMm);
}

/** True where a pin lies on ground or a supply: much copper draws the heat away. */
export function isOnPlane(index: BoardIndex, part: Part, pin: number): boolean {
  const net = part.pins[pin];
  return net !== undefined && (nameKey(net) === GROUND || isBusyNet(index, net));
}

/** Neighbours that heat and tools reach, the nearest first, with why they need a shield. */
export function keepOut(
  index: BoardIndex,
  part: Part,
  reachMm: number,
): readonly { readonly ref: string; readonly mm: number; readonly why: string }[] {
  const here = part.positionMm;
  if (!here) return [];
  return index.board.parts
    .flatMap((other) => {
      if (other.ref === part.ref || !other.positionMm || other.side !== part.side) return [];
      const mm = Math.hypot(other.positionMm[0] - here[0], other.positionMm[1] - here[1]);
      return mm <= reachMm
        ? [{ ref: other.ref, mm, why: WHY[other.kind] ?? 'small parts go with the solder' }]
        : [];
    })
    .sort((a, b) => a.mm - b.mm);
}

const WHY: Partial<Record<Part['kind'], string>> = {
  capacitor: 'its sleeve and seal stand no hot air',
  connectorPin: 'its housing melts',
  switch: 'its housing melts',
  opto: 'clear plastic clouds and bends',
  relay: 'its case melts',
  chip: 'its joints come loose with the heat',
  resistor: 'the resistor that goes with it: hold it down',
  winding: 'its wires are thin and its enamel burns',
};
