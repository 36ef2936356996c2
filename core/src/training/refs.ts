import { replaceableRef } from '../board';

/** The parts to be replaced, or the places to be mended, of named faults. */
export const refsOf = (faults: readonly string[]): readonly string[] => [
  ...new Set(
    faults.map((name) => {
      const place = name.slice(0, name.lastIndexOf(':'));
      return place.includes('~') ? place : replaceableRef(place);
    }),
  ),
];
