import { NO_LIBRARY, replaceablePart, type BoardIndex, type DeviceLibrary } from '../board';
import { judgeFit, readSpec, saidMore, specOfParts, type FitnessRemark } from '../part';
import { placeOf } from './place-of';

/** Words for the very part that came off. */
const SAME = /^\s*(as before|the same( part| one)?|same( part| one)?|put back|refitted)\b/i;

const GOES_BACK: FitnessRemark = {
  level: 'warn',
  code: 'not-judged',
  text: 'the one that came off goes back: right only where it was measured good off the board',
};

/** The same where no sheet says what the part was: against what stood on the one that came off. */
export function remarksWithoutSheet(
  cameOff: string,
  text: string,
  library: DeviceLibrary = NO_LIBRARY,
): readonly FitnessRemark[] {
  if (SAME.test(text)) return [GOES_BACK];
  const was = readSpec(cameOff, library);
  return judgeFit(was, readSpec(text, library, was.kind));
}

/**
 * Judges what is written to go on for a part of a board, with the place it goes to. Empty for what
 * is no part of the board.
 * @param ref as it is replaced
 * @param library where numbers of chips and regulators are looked up
 * @param cameOff what was written down when it came off: it may say more than the sheet
 */
export function replacementRemarks(
  index: BoardIndex,
  ref: string,
  text: string,
  library: DeviceLibrary = NO_LIBRARY,
  cameOff = '',
): readonly FitnessRemark[] {
  const parts = replaceablePart(index, ref)?.parts;
  if (!parts) return [];
  if (SAME.test(text)) return [GOES_BACK];
  const sheet = specOfParts(parts);
  const was = saidMore(sheet, readSpec(cameOff, library, sheet.kind));
  return judgeFit(was, readSpec(text, library, was.kind), placeOf(index, parts));
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
  cameOff = '',
): string | undefined {
  return objectionOf(ref, replacementRemarks(index, ref, text, library, cameOff), note);
}

/** What can hurt somebody is refused; what else is wrong asks for a reason in the note. */
export function objectionOf(
  ref: string,
  remarks: readonly FitnessRemark[],
  note: string,
): string | undefined {
  const stops = remarks.filter(({ level }) => level === 'stop');
  const danger = stops.find(({ dangerous }) => dangerous === true);
  if (danger) return `${ref} may not go on like this: ${danger.text}`;
  if (stops.length > 0 && note.trim() === '')
    return `${stops.map((one) => one.text).join('; ')}: where it has to be all the same, say why in the note`;
  return undefined;
}
