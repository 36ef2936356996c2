import { memo, useCallback, useMemo, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import type { Expect } from '../../case/expectation';
import type { Journal } from '../../case/journal';
import { Drawing } from '../../drawing/Drawing';
import { ButtonLink } from '../../ui/Button';
import type { LineUp, Proposal } from '../../workers/engine-messages';
import { flagsOf } from './map-flags';
import { partsInQuestion, probedNets } from './map-focus';

interface Props {
  /** Where the sheet is written on, for this case. */
  readonly sheetHref: string;
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly lineUp: LineUp | undefined;
  readonly proposal: Proposal | undefined;
  readonly onPick: (text: string) => void;
  readonly expect: Expect;
}

/**
 * The circuit around the question: suspects hatched by belief, readings pinned as flags, the next
 * points marked. Drawn anew only where what it shows has changed: not at every step of the engine.
 */
export const CircuitMap = memo(function CircuitMap({
  sheetHref,
  index,
  journal,
  lineUp,
  proposal,
  onPick,
  expect,
}: Props) {
  const tell = useCallback(
    async (net: string) => {
      const sound = await expect('on', 'voltage', net, '');
      return sound && `${net}, sound board: ${sound.display}${sound.band && ` (${sound.band})`}`;
    },
    [expect],
  );
  const [whole, setWhole] = useState(false);
  const refs = useMemo(
    () => (whole ? undefined : partsInQuestion(index, lineUp, proposal, journal)),
    [whole, index, lineUp, proposal, journal],
  );
  const probed = useMemo(() => probedNets(proposal, index), [proposal, index]);
  const flags = useMemo(() => flagsOf(journal, lineUp), [journal, lineUp]);
  const belief = useMemo(
    () => new Map(lineUp?.entries.map((entry) => [entry.ref, entry.probability])),
    [lineUp],
  );
  return (
    <Drawing
      title="Map"
      scope={whole ? 'the whole sheet' : 'around the question'}
      index={index}
      refs={refs}
      probed={probed}
      flags={flags}
      belief={belief}
      absent={journal.absent}
      onPick={onPick}
      tell={tell}
    >
      <ButtonLink href={sheetHref}>Write on</ButtonLink>
      <button type="button" onClick={() => setWhole(!whole)} aria-pressed={whole}>
        {whole ? 'Around the question' : 'Whole sheet'}
      </button>
    </Drawing>
  );
});
