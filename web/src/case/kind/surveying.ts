import { GUIDED_CHECKS, type Given, type GuidedCheck } from '@hanzai/core/check';
import { isDesignator, replaceablePart, type BoardIndex } from '@hanzai/core/board';
import { formatQuantity } from '@hanzai/core/quantity';
import type { BodyOf, KindsOf } from './definition';

/** What was measured of a part by itself, in words. */
export function aloneWords(body: BodyOf<'offBoard'>): string {
  const { ref, farad, leakAmpere, dissipation, esrOhm } = body;
  return [
    ref,
    farad === undefined ? '' : formatQuantity(farad, 'F'),
    leakAmpere === undefined ? '' : `leaks ${formatQuantity(leakAmpere, 'A')}`,
    dissipation === undefined ? '' : `tan δ ${dissipation}`,
    esrOhm === undefined ? '' : `ESR ${formatQuantity(esrOhm, 'ohm', 2)}`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** How far a replacement goes, in words. */
export const EXTENT_WORDS: Readonly<Record<BodyOf<'extent'>['extent'], string>> = {
  bad: 'the bad ones',
  kind: 'the bad ones and their like',
  worth: 'those that are worth it',
  all: 'all that wear out',
};

const checkOf = (name: string): GuidedCheck | undefined =>
  GUIDED_CHECKS.find((one) => one.name === name);

/** What was given for a check, as the check takes it: OL is without end. */
export const givenOf = (given: BodyOf<'guided'>['given']): Given =>
  Object.fromEntries(
    Object.entries(given).map(([key, value]) => [key, value === 'OL' ? Infinity : value]),
  );

/** A guided check in one line. */
export function guidedWords({ check, ref, verdict, because }: BodyOf<'guided'>): string {
  const title = checkOf(check)?.title ?? check;
  return `${ref === '' ? '' : `${ref}, `}${title}: ${verdict}; ${because.join('; ')}`;
}

const isPart = (index: BoardIndex | undefined, ref: string): boolean =>
  index ? replaceablePart(index, ref) !== undefined : isDesignator(ref);

/** Capacitors one by one. */
export const SURVEYING_KINDS: KindsOf<
  'meter' | 'leadZero' | 'offBoard' | 'guided' | 'quickList' | 'extent'
> = {
  meter: {
    words: 'choice of a meter',
    said: ({ name }) => name,
    takeBack: 'free',
    objection: 'none',
    add: (draft, { body: { name, kinds, profile } }) => {
      for (const kind of kinds)
        if (profile) draft.meters.set(kind, { name, profile });
        else draft.meters.delete(kind);
    },
    report: 'none',
  },
  leadZero: {
    words: 'zero of the leads',
    said: ({ ohm }) => `leads ${formatQuantity(ohm, 'ohm', 2)}`,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.zeros.push(entry),
    report: 'none',
  },
  offBoard: {
    words: 'part measured by itself',
    said: aloneWords,
    takeBack: 'free',
    objection: (body, { index }) => {
      if (!isPart(index, body.ref)) return `the board has no part ${body.ref}`;
      const { farad, leakAmpere, dissipation, esrOhm } = body;
      return [farad, leakAmpere, dissipation, esrOhm].every((one) => one === undefined)
        ? 'nothing was measured: give farads, amperes of leakage, tan or esr'
        : undefined;
    },
    add: (draft, entry) => draft.offBoards.push(entry),
    report: { list: 'tried', line: (body) => `By itself: ${aloneWords(body)}` },
  },
  guided: {
    words: 'guided check',
    said: (body) => guidedWords(body),
    takeBack: 'free',
    gate: ({ check }) => (checkOf(check)?.power === 'on' ? 'power' : 'meter'),
    powered: ({ check }) => checkOf(check)?.power === 'on',
    objection: ({ check, ref, given, verdict }, { index }) => {
      const known = checkOf(check);
      if (!known) return `there is no check "${check}"`;
      if (ref !== '' && !isPart(index, ref)) return `the board has no part ${ref}`;
      // What it came to follows from what was given, and from nothing else.
      return known.judge(givenOf(given))?.verdict === verdict
        ? undefined
        : 'what was given does not come to this';
    },
    add: (draft, entry) => draft.guided.push(entry),
    report: { list: 'tried', line: (body) => guidedWords(body) },
  },
  quickList: {
    words: 'list of capacitors',
    said: ({ text }) => `${text.split('\n').length} lines`,
    takeBack: 'free',
    objection: 'none',
    add: (draft, { body }) => void (draft.quickList = body.text),
    report: 'none',
  },
  extent: {
    words: 'choice of how far to go',
    said: ({ extent, refs }) => `${EXTENT_WORDS[extent]}: ${refs.length}`,
    takeBack: 'free',
    objection: ({ refs }, { index }) => {
      const unknown = refs.find((ref) => !isPart(index, ref));
      return unknown === undefined ? undefined : `the board has no part ${unknown}`;
    },
    add: (draft, entry) => draft.extents.push(entry),
    report: {
      list: 'decided',
      line: ({ extent, refs, reason }) =>
        `Capacitors replaced: ${EXTENT_WORDS[extent]} (${refs.join(', ')}): ${reason}`,
    },
  },
};
