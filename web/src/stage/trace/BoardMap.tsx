import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { findPoint, GROUND, type BoardIndex } from '@hanzai/core/board';
import { BoardFace } from '../../board-face/BoardFace';
import { boardPicturesQuery, pictureOf, type Side } from '../../board-face/board-pictures';
import { partsOnSide, placesOfPoint } from '../../board-face/face';
import style from '../../drawing/Drawing.module.css';
import { store } from '../../store/store';
import type { LineUp, Proposal } from '../../workers/engine-messages';

/** The second face of the map: the board as it lies on the bench, over its picture. */
export function BoardMap({
  index,
  boardId,
  lineUp,
  proposal,
  onPick,
  onCircuit,
}: {
  index: BoardIndex;
  boardId: string;
  lineUp: LineUp | undefined;
  proposal: Pick<Proposal, 'at' | 'to'> | undefined;
  onPick: (text: string) => void;
  onCircuit: () => void;
}) {
  const { board } = index;
  const { data: pictures = [] } = useQuery(boardPicturesQuery(boardId), store().queries);
  const [side, setSide] = useState<Side>('top');
  const belief = useMemo(
    () => new Map(lineUp?.entries.map((entry) => [entry.ref, entry.probability])),
    [lineUp],
  );
  const glow = useMemo(
    () =>
      (proposal ? [proposal.at, proposal.to] : []).flatMap((name) => {
        const point = name === '' ? undefined : findPoint(index, name);
        if (!point || (point.net === GROUND && !point.pin)) return [];
        return placesOfPoint(
          board,
          point.pin ? [point.pin] : (index.pinsOfNet.get(point.net) ?? []),
        );
      }),
    [proposal, index, board],
  );
  const below = partsOnSide(board, 'bottom').length;
  return (
    <section className={style.map} aria-label="Board by position">
      <header className={style.bar}>
        <h2>Board</h2>
        <span className={style.scope}>
          {glow.length > 0
            ? `the rings are where the probes go next${glow.length > 1 ? ': any of them' : ''}`
            : 'no place is known of the next points'}
        </span>
        <button
          type="button"
          onClick={() => setSide(side === 'top' ? 'bottom' : 'top')}
          aria-pressed={side === 'bottom'}
        >
          {side === 'top' ? 'Turn it over' : 'Back to the top'}
          {side === 'top' && below > 0 ? ` (${below})` : ''}
        </button>
        <button type="button" onClick={onCircuit}>
          Circuit
        </button>
      </header>
      <div className={style.view}>
        <BoardFace
          board={board}
          side={side}
          picture={pictureOf(pictures, side)}
          belief={belief}
          glow={glow}
          onPick={(ref) => onPick(ref.toLowerCase())}
          label={`The board by position, ${side} side`}
        />
      </div>
    </section>
  );
}
