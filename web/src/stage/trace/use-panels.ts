import { useCallback, useMemo, useState } from 'react';
import { nameKey } from '@hanzai/core/board';
import type { CaseState } from '../../case/use-case';
import type { LineUp, WhatIfAnswer } from '../../workers/engine-messages';
import { chipsOf } from './chip/chip-pins';
import type { NextState } from './use-next';
import { useWhatIf } from './use-what-if';
import { useWhy, type Sides } from './use-why';

/** What stands beside the map and in its place: arguments, copies, a chip, the trace, the sheet. */
export interface Panels {
  /** The faults of the copy of the board that is asked about; empty for a sound one. */
  readonly asked: string | undefined;
  readonly ask: (faults: string | undefined) => void;
  readonly answer: WhatIfAnswer | undefined;
  /** Volts of the copy on every net. */
  readonly volts: ReadonlyMap<string, string> | undefined;
  /** Asks about the leader, or puts the copy away. */
  readonly toggleAsked: () => void;
  /** The chip in view. */
  readonly chip: string | undefined;
  readonly showChip: (ref: string | undefined) => void;
  /** Shows the likeliest of the chips, or puts the chip away; undefined where the board has none. */
  readonly toggleChip: (() => void) | undefined;
  /** Shows a chip that goes by this name; false where it is none. */
  readonly pickChip: (name: string) => boolean;
  readonly sides: Sides | undefined;
  readonly setSides: (sides: Sides | undefined) => void;
  readonly why: ReturnType<typeof useWhy>;
  /** Why a part rather than the likeliest of the others. */
  readonly askWhy: (ref: string) => void;
  readonly toggleWhy: () => void;
  readonly trail: boolean;
  readonly openTrail: () => void;
  readonly closeTrail: () => void;
  /** Whether the guided checks stand there. */
  readonly checking: boolean;
  readonly toggleChecks: () => void;
  readonly writing: boolean;
  readonly write: (open: boolean) => void;
}

export function usePanels(
  state: CaseState,
  { engine: { lineUp }, circumstances, setMoment }: NextState,
): Panels {
  const { index } = state;
  const [asked, ask] = useState<string>();
  const answer = useWhatIf(state, asked);
  const volts = useMemo(
    () => (answer?.ok ? new Map(Object.entries(answer.volts)) : undefined),
    [answer],
  );
  const leader = lineUp?.entries[0]?.modes[0] ?? '';
  const toggleAsked = useCallback(
    () => ask((now) => (now === undefined ? leader : undefined)),
    [leader],
  );
  const [chip, showChip] = useState<string>();
  const chips = useMemo(() => (index ? chipsOf(index).map(({ ref }) => ref) : []), [index]);
  const toggleChip = useCallback(
    () => showChip((now) => (now === undefined ? likeliest(lineUp, chips) : undefined)),
    [chips, lineUp],
  );
  const pickChip = useCallback(
    (name: string): boolean => {
      const ref = chips.find((one) => nameKey(one) === nameKey(name));
      if (ref !== undefined) showChip(ref);
      return ref !== undefined;
    },
    [chips],
  );
  const [sides, setSides] = useState<Sides>();
  const why = useWhy(state, circumstances, sides);
  const askWhy = useCallback(
    (ref: string) => {
      const other = lineUp?.entries.find((entry) => entry.ref !== ref && !entry.cleared);
      setSides({ one: ref, other: other?.ref ?? '' });
    },
    [lineUp],
  );
  const toggleWhy = (): void => {
    const [first] = lineUp?.entries ?? [];
    if (sides || !first) setSides(undefined);
    else askWhy(first.ref);
  };
  const [trail, setTrail] = useState(false);
  const openTrail = useCallback(() => setTrail(true), []);
  const closeTrail = useCallback(() => {
    setTrail(false);
    setMoment(undefined);
  }, [setMoment]);
  const [checking, check] = useState(false);
  const toggleChecks = useCallback(() => check((now) => !now), []);
  const [writing, write] = useState(false);
  return {
    asked,
    ask,
    answer,
    volts,
    toggleAsked,
    chip,
    showChip,
    pickChip,
    toggleChip: chips.length > 0 ? toggleChip : undefined,
    sides,
    setSides,
    why,
    askWhy,
    toggleWhy,
    trail,
    openTrail,
    closeTrail,
    checking,
    toggleChecks,
    writing,
    write,
  };
}

const likeliest = (lineUp: LineUp | undefined, chips: readonly string[]): string | undefined =>
  lineUp?.entries.find(({ ref }) => chips.includes(ref))?.ref ?? chips[0];
