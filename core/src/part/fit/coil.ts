import { atLeast, atMost, nearly, sameWord, whereSaid } from '../compare';
import { type FitnessRemark } from '../remark';
import type { CrystalSpec, InductorSpec } from '../spec';
import { judgeSize } from './size';
import type { Place } from '../place';

/** Henries by which a choke may differ. Common practice, no published source. */
const HENRY_MARGIN = 0.2;
/** Copper may be so much more than it was. Common practice, no published source. */
const COPPER_MARGIN = 1.5;

/** Judges a choke: henries, what current it carries, ohms of its copper. */
export function judgeInductor(
  was: InductorSpec,
  offered: InductorSpec,
  place: Place,
): readonly FitnessRemark[] {
  const carries = was.ampere ?? place.workingAmpere;
  return [
    nearly({ code: 'value', what: 'henries', unit: 'H' }, was.henry, offered.henry, HENRY_MARGIN),
    atLeast(
      { code: 'current', what: 'current before it saturates', unit: 'A' },
      carries,
      offered.ampere,
    ),
    atMost(
      { code: 'copper', what: 'ohms of its copper', unit: 'ohm' },
      was.copperOhm,
      offered.copperOhm,
      COPPER_MARGIN,
    ),
    ...judgeSize(was.size, offered.size, place.room, 'where known'),
  ];
}

/**
 * A quartz holds some 50 parts in a million, a ceramic resonator half a per cent. Common practice,
 * from memory of data sheets.
 */
const QUARTZ_SHARE = 100e-6;
const RESONATOR_SHARE = 5e-3;

/** Judges a crystal or resonator: frequency, kind, load capacitance, fundamental or overtone. */
export function judgeCrystal(was: CrystalSpec, offered: CrystalSpec): readonly FitnessRemark[] {
  const near = was.type === 'resonator' ? RESONATOR_SHARE : QUARTZ_SHARE;
  return [
    nearly({ code: 'frequency', what: 'frequency', unit: 'Hz' }, was.hertz, offered.hertz, near),
    sameWord(
      'kind',
      'kind',
      was.type,
      // A quartz is better than a resonator at what a resonator does.
      was.type === 'resonator' && offered.type === 'crystal' ? 'resonator' : offered.type,
      offered.type === 'resonator'
        ? 'a resonator is off by half a per cent'
        : 'other pins, another circuit',
    ),
    nearly(
      { code: 'load-capacitance', what: 'load capacitance', unit: 'F' },
      was.loadFarad,
      offered.loadFarad,
      0.1,
      0.7,
    ),
    ...whereSaid(was.cut, () =>
      sameWord('frequency', 'fundamental or overtone', was.cut, offered.cut),
    ),
  ];
}
