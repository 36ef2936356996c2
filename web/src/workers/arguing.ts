import type { BoardIndex } from '@hanzai/core/board';
import { whatIf, type Argument, type Side, type WhatIfReading } from '@hanzai/core/diagnosis';
import { parseFaults } from '@hanzai/core/fault';
import type { Reading } from '@hanzai/core/instrument';
import { inWords, type JudgedExpectation } from '../case/expectation';
import type { WhyAnswer } from './engine-messages';

/** A side as it is written in a message: empty for "nothing is wrong". */
export const sideOf = (ref: string): Side => (ref === '' ? 'healthy' : { ref });

/**
 * An argument in words: what either side's likeliest fault would show at each reading. absent: the
 * parts that are off the board. sides: designators, empty for "nothing is wrong".
 */
export function whyAnswer(
  index: BoardIndex,
  { before, after, steps, turnsOn, history }: Argument,
  known: readonly { readonly id: string; readonly reading: Reading }[],
  absent: readonly string[],
  sides: readonly [string, string],
): WhyAnswer {
  const suspects = history.at(-1)?.suspects ?? [];
  const given = known.map(({ reading }) => reading);
  const [one, other] = sides.map((ref) => {
    const fault =
      ref === ''
        ? ''
        : (suspects.find(({ hypothesis: { refs } }) => refs.includes(ref))?.hypothesis.name ?? '');
    const read = fault === '' ? { ok: true as const, faults: [] } : parseFaults(index, fault);
    // A part that no fault of the sheet is about shows nothing.
    const shown =
      read.ok && (ref === '' || fault !== '')
        ? whatIf(index, read.faults, given, absent).readings
        : [];
    return { fault, shown };
  });
  return {
    one: one!.fault,
    other: other!.fault,
    before,
    after,
    turnsOn: turnsOn === undefined ? undefined : known[turnsOn]!.id,
    rows: steps.map((step, i) => {
      const shown = one!.shown[i]?.shown.value;
      return {
        id: known[i]!.id,
        ...step,
        one: words(one!.shown[i]),
        other: words(other!.shown[i]),
        shown: typeof shown === 'number' ? shown : undefined,
      };
    }),
  };
}

const words = (one: WhatIfReading | undefined): JudgedExpectation | undefined =>
  one && { ...inWords(one.shown), within: one.fits };
