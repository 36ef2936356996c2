import { nameKey, type BoardIndex } from '../board';
import { judgeReplacement, parseOffered, type FitnessRemark } from '../part';
import { isOnMains } from './mains';
import { workingVolt } from './sound-board';

/** Words for the very part that came off. */
const SAME = /^\s*(as before|the same( part| one)?|same( part| one)?|put back|refitted)\b/i;

/**
 * Judges what is written to go on for a part of a board, with the place it goes to. ref: as it is
 * replaced. Empty for what is no part of the board.
 */
export function replacementRemarks(
  index: BoardIndex,
  ref: string,
  text: string,
): readonly FitnessRemark[] {
  const [, [part] = []] =
    [...index.replaceable].find(([known]) => nameKey(known) === nameKey(ref)) ?? [];
  if (!part) return [];
  if (SAME.test(text))
    return [
      {
        level: 'warn',
        code: 'not-judged',
        text: 'the one that came off goes back: right only where it was measured good off the board',
      },
    ];
  return judgeReplacement(part, parseOffered(text), {
    onMains: isOnMains(index, part),
    workingVolt: workingVolt(index, part),
  });
}

/**
 * Why a replacement may not be entered: what can hurt somebody never, what else is wrong only with
 * the reason in the note.
 */
export function replacementObjection(
  index: BoardIndex,
  ref: string,
  text: string,
  note: string,
): string | undefined {
  const stops = replacementRemarks(index, ref, text).filter(({ level }) => level === 'stop');
  const danger = stops.find(({ dangerous }) => dangerous === true);
  if (danger) return `${ref} may not go on like this: ${danger.text}`;
  if (stops.length > 0 && note.trim() === '')
    return `${stops.map((one) => one.text).join('; ')}: where it has to be all the same, say why in the note`;
  return undefined;
}
