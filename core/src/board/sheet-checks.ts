import { countParts, nameKey } from './nets';
import { isUnsaid } from './part-words';
import { ringContradictions } from './ring-through';
import type { Board, Part } from './schema';

/** Something that is legal and probably not meant. */
export interface SheetRemark {
  /** The part on whose line it stands; undefined where it is the whole sheet's. */
  readonly ref?: string;
  readonly what: string;
  readonly remedy: string;
}

/**
 * What a second pair of eyes would ask about a sheet: nets of one pin whose name is almost that of
 * another, chips without supply, no ground, nothing that feeds the board.
 */
export function sheetRemarks(board: Board): SheetRemark[] {
  const remarks: SheetRemark[] = [];
  const places = new Map<string, { net: string; refs: string[] }>();
  for (const part of board.parts)
    part.pins.forEach((net, i) => {
      const key = nameKey(net);
      const place = places.get(key) ?? { net, refs: [] };
      places.set(key, place);
      place.refs.push(`${part.ref}.${i + 1}`);
    });
  if (board.parts.length > 0 && !places.has('0'))
    remarks.push({ what: 'no net is ground', remedy: 'call ground 0' });
  if (board.parts.length > 0 && !board.parts.some(isSource))
    remarks.push({
      what: 'nothing feeds this sheet',
      remedy: 'say what does, for example J1 9V in: 1=SUP9 2=0, or V1 VCC 0 5V',
    });
  remarks.push(...ringContradictions(board));
  remarks.push(...lonelyNets(board, places), ...board.parts.flatMap(supplyRemarks));
  return remarks;
}

/** A board with so many times as many numbers as drawn parts has some that are not drawn. */
const CLEARLY_MORE = 1.2;
/** A number far beyond the rest counts its own way (R901 on a board with R1 to R30): it is left out. */
const FAR_BEYOND = 6;

/**
 * How many parts a board has by the numbers of its designators: R82 says that there are 82 resistors.
 * Boards that number by sheet (R101, R201) say too much this way and are counted as drawn.
 */
function partsByNumber({ parts }: Board): number {
  const numbers = new Map<string, Set<number>>();
  for (const { ref, kind } of parts) {
    if (kind === 'voltageSource' || kind === 'currentSource') continue;
    const [, letters, digits] = /^([A-Za-z]+)(\d{1,4})/.exec(ref) ?? [];
    if (letters === undefined) continue;
    const key = letters.toUpperCase();
    numbers.set(key, (numbers.get(key) ?? new Set()).add(Number(digits)));
  }
  return [...numbers.values()].reduce((sum, own) => {
    const sorted = [...own].sort((a, b) => a - b);
    const likely = sorted.filter((n, i) => n <= FAR_BEYOND * (i + 1));
    return sum + Math.max(own.size, likely.at(-1) ?? 0);
  }, 0);
}

const isSource = ({ kind }: Part): boolean =>
  kind === 'voltageSource' || kind === 'currentSource' || kind === 'transformer';

/** A pin that nobody has said has a net of its own, which is no question of spelling. */
const isIdle = (net: string): boolean => isUnsaid(net) || /^NC\d*$/i.test(net);

function lonelyNets(
  board: Board,
  places: ReadonlyMap<string, { readonly net: string; readonly refs: readonly string[] }>,
): SheetRemark[] {
  const edges = new Set((board.edges ?? []).map(({ net }) => nameKey(net)));
  const points = new Set((board.testPoints ?? []).map(({ net }) => nameKey(net)));
  const shared = [...places.values()].filter(({ refs }) => refs.length > 1).map(({ net }) => net);
  return [...places].flatMap(([key, { net, refs }]) => {
    if (refs.length > 1 || isIdle(net) || edges.has(key) || points.has(key)) return [];
    const alike = shared.find((other) => isAlmost(key, nameKey(other)));
    const [pin] = refs;
    return [
      {
        ref: pin!.slice(0, pin!.lastIndexOf('.')),
        what: `only ${pin} is on ${net}`,
        remedy: alike
          ? `is it ${alike}?`
          : `draw what else is on it, or say edge ${net} where the sheet ends there`,
      },
    ];
  });
}

/** One letter more, less or other, or two changed places; or the same but for dashes. */
export function isAlmost(a: string, b: string): boolean {
  if (a === b) return false;
  const plain = (text: string): string => text.replace(/[-_./]/g, '');
  if (plain(a) === plain(b)) return true;
  if (Math.min(a.length, b.length) < 3 || Math.abs(a.length - b.length) > 1) return false;
  // D1 and D2, PH0 and PH1 are meant to differ.
  if (a.replace(/\d+/g, '#') === b.replace(/\d+/g, '#')) return false;
  let at = 0;
  while (at < a.length && a[at] === b[at]) at += 1;
  const [restA, restB] = [a.slice(at), b.slice(at)];
  return (
    restA.slice(1) === restB ||
    restA === restB.slice(1) ||
    (restA.slice(1) === restB.slice(1) && !/\d/.test(`${restA[0]}${restB[0]}`)) ||
    (restA[0] === restB[1] && restA[1] === restB[0] && restA.slice(2) === restB.slice(2))
  );
}

function supplyRemarks(part: Part): SheetRemark[] {
  const needed =
    part.kind === 'chip'
      ? part.model.pins.flatMap(({ role, name }, i) =>
          role === 'supply' || role === 'ground' ? [{ pin: i, name }] : [],
        )
      : part.kind === 'amplifier'
        ? [part.model.positiveSupply, part.model.negativeSupply].map((pin) => ({
            pin: pin - 1,
            name: 'supply',
          }))
        : [];
  return needed.flatMap(({ pin, name }) =>
    isIdle(part.pins[pin]!)
      ? [
          {
            ref: part.ref,
            what: `${part.ref} has nothing on its pin ${pin + 1}, ${name}`,
            remedy: `say it: ${pin + 1}=NET; without it the chip is taken as not fed`,
          },
        ]
      : [],
  );
}

/** `37 parts, 21 nets; edges at VREF, PH1` */
export function sheetSummary(board: Board): string {
  const nets = new Set(
    board.parts.flatMap(({ pins }) => pins.filter((net) => !isIdle(net)).map(nameKey)),
  );
  const parts = countParts(board);
  const edges = (board.edges ?? []).map(({ net }) => net);
  const shown =
    edges.slice(0, 6).join(', ') + (edges.length > 6 ? ` and ${edges.length - 6} more` : '');
  const about = partsByNumber(board);
  const of = about > CLEARLY_MORE * parts ? ` of about ${about}` : '';
  return `${parts}${of} ${parts === 1 && of === '' ? 'part' : 'parts'}, ${nets.size} ${nets.size === 1 ? 'net' : 'nets'}${edges.length > 0 ? `; edges at ${shown}` : ''}`;
}
