import type { DeviceLibrary } from '../../board';
import { said, type Fields } from './said';

/** Letters of who made it, series, family, number; letters of the package behind. */
const SERIES = /^(?:[A-Z]{1,3})?(?:74|54)(LS|ALS|AS|S|F|L|HCT|HC|H)?(\d{2,4})[A-Z]{0,3}$/i;
/** The first word that is a chip, by the library or as a number of the series. */
export function logicOf(text: string, library: DeviceLibrary): Fields<'logic'> | undefined {
  for (const word of text.split(/[\s,;]+/)) {
    const chip = libraryPart(word, library, 'chip');
    const series = SERIES.exec(word);
    if (!chip && !series) continue;
    return said<Fields<'logic'>>({
      name: word.toUpperCase(),
      family: series ? (series[1] ?? '').toUpperCase() : undefined,
      number: series?.[2],
      model: chip?.model,
    });
  }
  return undefined;
}

type LibraryPart<K extends string> = Extract<
  ReturnType<NonNullable<ReturnType<DeviceLibrary['find']>>['make']>,
  { kind: K }
>;
/** The first word that names a part of a kind in the library. */
export function libraryPart<K extends 'chip' | 'regulator' | 'amplifier'>(
  text: string,
  library: DeviceLibrary,
  kind: K,
): LibraryPart<K> | undefined {
  for (const word of text.split(/[\s,;]+/)) {
    const found = word === '' ? undefined : library.find(word);
    const part = found?.make(
      'X1',
      Array.from({ length: found.pins }, (_, i) => `n${i}`),
    );
    if (part?.kind === kind) return part as LibraryPart<K>;
  }
  return undefined;
}
