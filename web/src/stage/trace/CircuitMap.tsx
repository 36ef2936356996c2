import { memo, useCallback, useDeferredValue, useMemo, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { partsOnSide } from '../../board-face/face';
import type { Expect } from '../../case/expectation';
import type { Journal } from '../../case/journal';
import { Drawing } from '../../drawing/Drawing';
import { focusOn } from '../../drawing/focus';
import { Button, ButtonLink } from '../../ui/Button';
import type { LineUp, Proposal } from '../../workers/engine-messages';
import { BoardMap } from './BoardMap';
import style from './CircuitMap.module.css';
import { flagsOf } from './map-flags';
import { partsInQuestion, probedNets } from './map-focus';

interface Props {
  /** Where the sheet is written on, for this case. */
  readonly sheetHref: string;
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly lineUp: LineUp | undefined;
  readonly proposal: Pick<Proposal, 'at' | 'to'> | undefined;
  readonly onPick: (text: string) => void;
  readonly expect: Expect;
  /** What nets would have on the board that is asked about. */
  readonly volts: ReadonlyMap<string, string> | undefined;
  /** Asks what a copy of the board would show; undefined where nobody is to be told. */
  readonly onWhatIf: (() => void) | undefined;
  /** Opens the sheet's text beside the map; undefined where it is not written on. */
  readonly onWrite: (() => void) | undefined;
  /** Shows a chip pin by pin; undefined where the board has none. */
  readonly onChip: (() => void) | undefined;
  /** The id under which the board is stored. */
  readonly boardId: string;
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
  volts,
  onWhatIf,
  onWrite,
  onChip,
  boardId,
}: Props) {
  const tell = useCallback(
    async (net: string) => {
      const sound = await expect('on', 'voltage', net, '');
      return sound && `${net}, sound board: ${sound.display}${sound.band && ` (${sound.band})`}`;
    },
    [expect],
  );
  const [whole, setWhole] = useState(false);
  const [wish, setWish] = useState('');
  const asked = useDeferredValue(wish.trim());
  const focus = useMemo(() => (asked === '' ? undefined : focusOn(index, asked)), [index, asked]);
  const refs = useMemo(
    () =>
      focus?.ok
        ? focus.refs
        : whole
          ? undefined
          : partsInQuestion(index, lineUp, proposal, journal),
    [focus, whole, index, lineUp, proposal, journal],
  );
  const probed = useMemo(() => probedNets(proposal, index), [proposal, index]);
  const flags = useMemo(() => flagsOf(journal, lineUp), [journal, lineUp]);
  const belief = useMemo(
    () => new Map(lineUp?.entries.map((entry) => [entry.ref, entry.probability])),
    [lineUp],
  );
  const [byPosition, setByPosition] = useState(false);
  const hasPlaces = useMemo(() => partsOnSide(index.board, 'top').length > 0, [index]);
  if (byPosition)
    return (
      <BoardMap
        index={index}
        boardId={boardId}
        lineUp={lineUp}
        proposal={proposal}
        onPick={onPick}
        onCircuit={() => setByPosition(false)}
      />
    );
  return (
    <Drawing
      title="Map"
      scope={
        focus
          ? focus.ok
            ? focus.words
            : focus.why
          : whole
            ? 'the whole sheet'
            : 'around the question'
      }
      index={index}
      refs={refs}
      probed={probed}
      flags={flags}
      belief={belief}
      absent={journal.absent}
      onPick={onPick}
      tell={tell}
      more={
        <>
          {onWrite && (
            <>
              <Button onClick={onWrite}>Write the sheet here</Button>
              <ButtonLink href={sheetHref}>Sheet bench</ButtonLink>
            </>
          )}
        </>
      }
      {...(volts && { volts })}
    >
      <input
        className={style.show}
        aria-label="Show on the map: a part, a net, or one to another"
        placeholder="show: vm to p5"
        value={wish}
        onChange={(event) => setWish(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setWish('');
        }}
      />
      {hasPlaces && (
        <button type="button" onClick={() => setByPosition(true)}>
          Board
        </button>
      )}
      {onChip && (
        <button type="button" onClick={onChip}>
          Chip
        </button>
      )}
      {onWhatIf && (
        <button type="button" onClick={onWhatIf} aria-pressed={volts !== undefined}>
          What if
        </button>
      )}
      <button
        type="button"
        onClick={() => setWhole(!whole)}
        aria-label={whole ? 'Around the question' : 'Whole sheet'}
      >
        {whole ? 'Question' : 'Whole'}
      </button>
    </Drawing>
  );
});
