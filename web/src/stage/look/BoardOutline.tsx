import { useQuery } from '@tanstack/react-query';
import type { BoardIndex } from '@hanzai/core/board';
import { reachShape, type PlacedFinding } from '@hanzai/core/bench';
import { BoardFace } from '../../board-face/BoardFace';
import { boardPicturesQuery, pictureOf } from '../../board-face/board-pictures';
import { boardFrame } from '../../board-face/face';
import { store } from '../../store/store';
import style from './BoardOutline.module.css';

interface Props {
  readonly index: BoardIndex;
  /** The id under which the board is stored: its pictures lie under it. */
  readonly boardId: string;
  readonly findings: readonly PlacedFinding[];
  readonly place: { readonly xMm: number; readonly yMm: number } | undefined;
  readonly onPlace: (place: { xMm: number; yMm: number }) => void;
  readonly pointed: string | undefined;
}

/**
 * The board by its own positions, over its picture where it has one, with findings and how far they
 * reach; a tap says where.
 */
export function BoardOutline({ index, boardId, findings, place, onPlace, pointed }: Props) {
  const frame = boardFrame(index.board)!;
  const text = Math.max(1.6, frame.width / 62);
  const { data: pictures = [] } = useQuery(boardPicturesQuery(boardId), store().queries);
  const move = (dx: number, dy: number): void => {
    const from = place ?? { xMm: frame.x + frame.width / 2, yMm: frame.y + frame.height / 2 };
    onPlace({
      xMm: Math.min(frame.x + frame.width, Math.max(frame.x, from.xMm + dx)),
      yMm: Math.min(frame.y + frame.height, Math.max(frame.y, from.yMm + dy)),
    });
  };
  return (
    <div className={style.frame}>
      <BoardFace
        board={index.board}
        side="top"
        picture={pictureOf(pictures, 'top')}
        label="Board outline: tap a place, or move the mark with the arrow keys"
        onPlace={([xMm, yMm]) => onPlace({ xMm, yMm })}
        onMove={move}
      >
        {findings.map((finding, i) => {
          const { id, xMm, yMm, sizeMm } = finding;
          return (
            <g key={id} className={id === pointed ? style.pointed : undefined}>
              <ellipse {...reachShape(finding)} className={style.reach} />
              <circle cx={xMm} cy={yMm} r={sizeMm / 2} className={style.finding} />
              <text x={xMm} y={yMm + text * 0.4} fontSize={text * 1.2} className={style.number}>
                {i + 1}
              </text>
            </g>
          );
        })}
        {place && (
          <path
            d={`M${place.xMm - 3} ${place.yMm}H${place.xMm + 3}M${place.xMm} ${place.yMm - 3}V${place.yMm + 3}`}
            className={style.place}
          />
        )}
      </BoardFace>
    </div>
  );
}
