import { FindingKind } from '@hanzai/core/bench';
import { RunMedium } from '@hanzai/core/block';
import { GROUND, pinName, setupNames } from '@hanzai/core/board';
import { RUN_STATES } from '@hanzai/core/prove';
import { COMMAND_WORDS, type StripContext } from './grammar';

/** Words of a value, a kind or what became of a part: what can follow a point. */
const AFTER_A_POINT = [
  'beep', 'open', 'ol', 'lo', 'hi', 'pulse', 'float', 'esr', 'diode', 'ohm', 'volts', 'logic', 'off', 'on', 'out',
] as const; // prettier-ignore
const MOST = 8;

/** What a word could become. `from`: where in the text it begins. */
export interface Completion {
  readonly from: number;
  readonly words: readonly string[];
}

/**
 * How the last word of a line can go on: parts, pins, nets and words of the grammar. Shortest first,
 * at most eight; none where nothing was begun.
 */
export function completions(context: StripContext, text: string): Completion {
  const from = Math.max(text.lastIndexOf(' '), text.lastIndexOf(';')) + 1;
  const begun = text.slice(from).toLowerCase();
  if (begun === '') return { from, words: [] };
  const line = text.slice(text.lastIndexOf(';') + 1).trimStart();
  const before = line
    .split(/\s+/)
    .slice(0, -1)
    .map((word) => word.toLowerCase());
  const words = candidates(context, begun, before).filter(
    (word) => word.toLowerCase().startsWith(begun) && word.toLowerCase() !== begun,
  );
  const shortest = [...new Set(words)].sort(
    (a, b) => a.length - b.length || a.localeCompare(b, 'en', { numeric: true }),
  );
  return { from, words: shortest.slice(0, MOST) };
}

function candidates(
  { index, model }: StripContext,
  begun: string,
  before: readonly string[],
): readonly string[] {
  const [first, second] = before;
  const refs = [...index.replaceable.keys()];
  if (first === 'start')
    return second === undefined
      ? ['ok', ...(model?.stages.map(({ name }) => name) ?? [])]
      : ['with', 'heard', ...(model?.conditions ?? []).map(({ name }) => name)];
  if (first === 'run') return ['errors', 'at', 'note', ...RunMedium.options, ...RUN_STATES];
  if (first === 'seen') return second === undefined ? FindingKind.options : refs;
  if (first === 'condemn' || first === 'clear') return second === undefined ? refs : [];
  // In words about what was found only parts are named.
  if (first === 'note' || first === 'symptom' || first === 'leave') return refs;
  const dot = begun.indexOf('.');
  if (dot > 0) {
    const part = index.partByKey.get(begun.slice(0, dot));
    return part ? part.pins.map((_, i) => `${part.ref}.${pinName(part, i)}`) : [];
  }
  const points = [...refs, ...index.nets.filter((net) => net !== GROUND), 'gnd'];
  const seen = (index.board.observables ?? []).map(({ name }) => name);
  return before.length === 0
    ? [...points, ...seen, ...COMMAND_WORDS]
    : [...AFTER_A_POINT, ...setupNames(index.board), ...points];
}
