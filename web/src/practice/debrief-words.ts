import type { Debrief, SeenMove } from '@hanzai/core/training';

/** What a reading told beside the best that could have been taken for the same minutes. */
export function worthWords({ worthBits, minutes, better }: SeenMove): string {
  if (worthBits === undefined) return '';
  if (!better) return 'none told more';
  const share = minutes > 0 ? worthBits / minutes / (better.bits / better.minutes) : 0;
  if (share >= 0.9) return 'as good as any';
  if (share >= 0.5) return 'more than half as good as the best';
  if (share >= 0.1) return `${Math.round(share * 10)} in 10 of the best`;
  return 'told next to nothing';
}

/** The moment it was decided, and the one at which that was noticed. */
export function noticedWords({ decidedAt, noticedAt, moves }: Debrief): string {
  if (decidedAt === undefined)
    return noticedAt === undefined
      ? 'It was never decided by readings.'
      : `What was bad was replaced at move ${noticedAt + 1} before any reading had decided it: a guess, and it was right.`;
  if (noticedAt === undefined)
    return `It was decided at move ${decidedAt + 1}, and nothing was done about it.`;
  const between = moves.slice(decidedAt + 1, noticedAt);
  if (noticedAt < decidedAt)
    return `What was bad was replaced at move ${noticedAt + 1}, before it was decided.`;
  const minutes = between.reduce((sum, move) => sum + move.minutes, 0);
  return between.length === 0
    ? `It was decided at move ${decidedAt + 1}, and acted on at once.`
    : `It was decided at move ${decidedAt + 1} and acted on at move ${noticedAt + 1}: ${between.length} ${between.length === 1 ? 'move' : 'moves'} and ${minutes.toFixed(1)} minutes that changed nothing.`;
}

/** Habits that cost something here, each named once. */
export function habitWords(said: Debrief): readonly string[] {
  const readings = said.moves.filter(({ worthBits }) => worthBits !== undefined);
  const idle = readings.filter((move) => worthWords(move) === 'told next to nothing').length;
  const early = said.wrong.some((words) => words.includes('was good'));
  return [
    ...(early
      ? ['A part that was good went: a reading that fits it is not one that condemns it.']
      : []),
    ...(idle >= 3
      ? [
          `${idle} readings told next to nothing: a value that is as it should be in circuit acquits only what it would have shown.`,
        ]
      : []),
    ...(said.wrong.some((words) => words.includes('ohms from the rails'))
      ? ['Ohms before power: a short shows in a minute, and costs no fuse.']
      : []),
  ];
}
