import { NO_LIBRARY, nameKey, type BoardIndex, type DeviceLibrary } from '../board';
import { judgeFit, readSpec, specOfParts, type FitnessRemark, type Place } from '../part';
import { placeOf } from './place-of';

/** Words for the very part that came off. */
const SAME = /^\s*(as before|the same( part| one)?|same( part| one)?|put back|refitted)\b/i;

/**
 * Judges what is written to go on for a part of a board, with the place it goes to. Empty for what
 * is no part of the board.
 * @param ref as it is replaced
 * @param library where numbers of chips and regulators are looked up
 * @param more what is known of the place beside the sheet: room, role
 */
export function replacementRemarks(
  index: BoardIndex,
  ref: string,
  text: string,
  library: DeviceLibrary = NO_LIBRARY,
  more: Partial<Place> = {},
): readonly FitnessRemark[] {
  const [, parts] = [...index.replaceable].find(([known]) => nameKey(known) === nameKey(ref)) ?? [];
  if (!parts?.[0]) return [];
  if (SAME.test(text))
    return [
      {
        level: 'warn',
        code: 'not-judged',
        text: 'the one that came off goes back: right only where it was measured good off the board',
      },
    ];
  const was = specOfParts(parts);
  return judgeFit(was, readSpec(text, library, was.kind), { ...placeOf(index, parts), ...more });
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
  library: DeviceLibrary = NO_LIBRARY,
): string | undefined {
  const stops = replacementRemarks(index, ref, text, library).filter(
    ({ level }) => level === 'stop',
  );
  const danger = stops.find(({ dangerous }) => dangerous === true);
  if (danger) return `${ref} may not go on like this: ${danger.text}`;
  if (stops.length > 0 && note.trim() === '')
    return `${stops.map((one) => one.text).join('; ')}: where it has to be all the same, say why in the note`;
  return undefined;
}
