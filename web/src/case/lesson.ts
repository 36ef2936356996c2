import { blocksOfParts, type UnitModel } from '@hanzai/core/block';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { kindOfPart, type Lesson } from '@hanzai/core/learn';
import { RATES } from '@hanzai/data';
import { changesMade, type ChangeMade } from './after-repair';
import type { Journal } from './journal';

/** How a part was bad, by the words that it was condemned with. From memory of bench practice. */
const MODE_WORDS: readonly (readonly [mode: string, words: RegExp])[] = [
  ['high-esr', /\besr\b/i],
  ['dry', /\b(joint|dry|ring|cracked)\b/i],
  ['short', /\bshort(ed|s)?\b|\b0(\.0*\d)? ?(Ω|ohm)/i],
  ['leaky', /\bleak(s|y|ing|age)?\b/i],
  ['open', /\b(open|blown|no continuity|ol|broken|cut)\b/i],
  ['low-capacitance', /\b(low capacitance|dried|lost its value)\b/i],
  ['drift-high', /\b(drift(ed)?|too high)\b/i],
];

/** The fault mode that somebody’s words speak of; empty where none. */
export const modeSaid = (words: string): string =>
  MODE_WORDS.find(([, pattern]) => pattern.test(words))?.[0] ?? '';

/**
 * What a case tells when it is closed; undefined where it tells nothing: it is open, it was given up,
 * or nothing was changed in it.
 */
export function lessonOf(
  journal: Journal,
  index: BoardIndex | undefined,
  model: UnitModel | undefined,
  proven: boolean,
): Lesson | undefined {
  if (!journal.closed || journal.decision?.body.course === 'give-up') return undefined;
  const changes = changesMade(journal);
  if (changes.length === 0) return undefined;
  const blocks =
    model && index ? blocksOfParts(model, index) : new Map<string, readonly string[]>();
  return {
    unit: model?.name ?? '',
    board: index?.board.title.slice(0, 200) ?? '',
    patterns: journal.blockEvents.flatMap(({ body }) =>
      body.kind === 'pattern' ? [body.name.slice(0, 60)] : [],
    ),
    // What came back was no cure.
    grade:
      proven && journal.followUps.at(-1)?.body.runs !== false
        ? changes.length === 1
          ? 'whole'
          : 'shared'
        : 'unproven',
    changes: changes.slice(0, 60).map((change) => changeOf(change, journal, index, blocks)),
  };
}

function changeOf(
  { kind, ref, words, block }: ChangeMade,
  journal: Journal,
  index: BoardIndex | undefined,
  blocks: ReadonlyMap<string, readonly string[]>,
): Lesson['changes'][number] {
  if (kind !== 'fitted')
    return {
      ref: kind === 'turned' ? ref.slice(0, 80) : '',
      of: kind === 'turned' ? 'a setting' : words.slice(0, 160),
      role: '',
      mode: '',
      blocks: block === undefined ? [] : [block],
    };
  const because = journal.condemned.find(({ body }) => nameKey(body.ref) === nameKey(ref));
  const { of, role } = index ? kindOfPart(index, RATES, ref) : { of: 'without a sheet', role: '' };
  return {
    ref: ref.slice(0, 80),
    of,
    role: role.slice(0, 200),
    mode: modeSaid(because?.body.reason ?? ''),
    blocks: [...(blocks.get(ref) ?? [])].slice(0, 20),
  };
}
