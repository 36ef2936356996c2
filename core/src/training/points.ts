import { nameKey, replaceablePart, type BoardIndex, type Part } from '../board';
import { resolveMeasurement, type MeasurementResult, type ReadingKind } from '../instrument';

/** How a kind of reading is called where points are typed and the meter gives the value. */
const KIND_WORDS: Readonly<Record<string, ReadingKind>> = {
  v: 'voltage',
  volts: 'voltage',
  ohm: 'resistance',
  ohms: 'resistance',
  beep: 'continuity',
  d: 'diode',
  diode: 'diode',
  esr: 'esr',
  logic: 'logic',
  amps: 'current',
  see: 'symptom',
};
const KINDS_EXPECTED = 'v, ohms, beep, d, esr, logic, amps or see';

/** What one would read of a part without saying how. */
function usualKind({ kind }: Part): ReadingKind {
  if (kind === 'capacitor') return 'esr';
  if (kind === 'fuse' || kind === 'switch') return 'continuity';
  return kind === 'diode' ? 'diode' : 'resistance';
}

/**
 * Reads points without a value, for a meter that gives it: `vm`, `vm p5 ohms`, `c6`, `u7.3 logic`,
 * `l1 amps`. A part with two pins stands for both of them. setup: a state of the board other than
 * the one that the kind is read in as a rule.
 */
export function readPoints(index: BoardIndex, text: string, setup = ''): MeasurementResult {
  const words = text.trim().split(/\s+/).filter(Boolean);
  const kindAt = words.findIndex((word) => Object.hasOwn(KIND_WORDS, word.toLowerCase()));
  // A net may be called D or V: a word that is a point of the board is one.
  const said =
    kindAt < 0 || (isPoint(index, words[kindAt]!) && words.length === 1) ? undefined : kindAt;
  const kind = said === undefined ? undefined : KIND_WORDS[words[said]!.toLowerCase()]!;
  const points = words.filter((_, i) => i !== said);
  const [first, second, ...more] = points;
  if (first === undefined || more.length > 0)
    return {
      ok: false,
      what: first === undefined ? 'no point' : `${points.length} points`,
      expected: `one point or two, and ${KINDS_EXPECTED}`,
    };
  if (kind === 'current' || kind === 'symptom')
    return resolveMeasurement(index, setup, kind, first, '');
  const part = second === undefined ? index.partByKey.get(nameKey(first)) : undefined;
  if (!part) {
    const usual = first.includes('.') && isChipPin(index, first) ? 'logic' : 'voltage';
    return resolveMeasurement(index, setup, kind ?? usual, first, second ?? '');
  }
  if (part.pins.length !== 2)
    return {
      ok: false,
      what: `${part.ref} has ${part.pins.length} pins`,
      expected: `which of them, such as ${part.ref}.1`,
    };
  return resolveMeasurement(
    index,
    setup,
    kind ?? usualKind(part),
    `${part.ref}.1`,
    `${part.ref}.2`,
  );
}

const isPoint = (index: BoardIndex, word: string): boolean =>
  index.netByKey.has(nameKey(word)) || index.partByKey.has(nameKey(word));

const isChipPin = (index: BoardIndex, word: string): boolean =>
  replaceablePart(index, word.slice(0, word.indexOf('.')))?.parts[0].kind === 'chip';
