import type { BoardIndex, Part } from '@hanzai/core/board';
import { supplyRails } from '@hanzai/core/device';
import type { TourStep } from '../case/practice-link';
import { playJournal } from '../case/journal';
import type { Entry } from '../case/entry';

/** Something to try in the reading line, and by what it is seen to have been done. */
interface Lesson {
  readonly words: string;
  readonly example: string;
  readonly isDone: (entries: readonly Entry[], index: BoardIndex) => boolean;
}

const has = (entries: readonly Entry[], is: (body: Entry['body']) => boolean): boolean =>
  entries.some(({ body }) => is(body));

const first = (index: BoardIndex, ...kinds: readonly Part['kind'][]): Part | undefined =>
  kinds
    .map((kind) => index.board.parts.find((part) => part.kind === kind && part.pins.length === 2))
    .find(Boolean);

/**
 * The reading line in some minutes, with the points of a board; what the board has nothing for is
 * left out.
 */
function lessonsOn(index: BoardIndex): readonly Lesson[] {
  const [rail = index.nets.find((net) => net !== '0') ?? ''] = supplyRails(index);
  const plain = first(index, 'fuse', 'resistor');
  const capacitor = first(index, 'capacitor');
  const part = (plain ?? capacitor)?.ref.toLowerCase() ?? '';
  const low = rail.toLowerCase();
  return [
    {
      words: 'Volts at a net: its name alone.',
      example: low,
      isDone: (entries) =>
        has(entries, (body) => body.kind === 'reading' && body.quantity === 'voltage'),
    },
    {
      words: 'Ohms at the same net: power goes off for it, and that costs a minute.',
      example: `${low} ohms`,
      isDone: (entries) =>
        has(entries, (body) => body.kind === 'reading' && body.quantity === 'resistance'),
    },
    ...(capacitor
      ? [
          {
            words: 'Across a part: its name alone. A capacitor is read by its ESR.',
            example: capacitor.ref.toLowerCase(),
            isDone: (entries: readonly Entry[]) =>
              has(entries, (body) => body.kind === 'reading' && body.quantity === 'esr'),
          },
        ]
      : []),
    {
      words: 'What the eye finds goes in as words.',
      example: 'note flux under the connector',
      isDone: (entries) => has(entries, ({ kind }) => kind === 'finding'),
    },
    {
      words: 'Ctrl+Z in an empty line, or this, takes the last thing back.',
      example: 'back',
      isDone: (entries) => has(entries, ({ kind }) => kind === 'retract'),
    },
    {
      words: 'Who is guilty is condemned, with a reason if you have one.',
      example: `condemn ${part}`,
      isDone: (entries) => has(entries, ({ kind }) => kind === 'condemn'),
    },
    {
      words: 'What comes off is said when it comes off. Then nothing is forgotten.',
      example: `${part} off`,
      isDone: (entries) => has(entries, ({ kind }) => kind === 'removed'),
    },
    {
      words: 'And what goes on: the same value, or another.',
      example: `${part} on same`,
      isDone: (entries, own) =>
        has(entries, ({ kind }) => kind === 'fitted') &&
        playJournal(entries, own).missing.length === 0,
    },
  ];
}

/** The steps of the tour, with those that are done. */
export const tourOf = (entries: readonly Entry[], index: BoardIndex): readonly TourStep[] =>
  lessonsOn(index).map(({ words, example, isDone }) => ({
    words,
    example,
    isDone: isDone(entries, index),
  }));
