import { useRef, type ReactNode } from 'react';
import { replaceableRef, type Board } from '@hanzai/core/board';
import { HatchPattern } from '../ui/HatchBar';
import style from './BoardFace.module.css';
import { pictureHref, type BoardPicture, type Side } from './board-pictures';
import { boardFrame, mirrored, partsOnSide, pictureMatrix, type PlacedOnBoard } from './face';

type Place = readonly [number, number];

interface Props {
  readonly board: Board;
  readonly side: Side;
  /** The picture that lies under it. */
  readonly picture?: BoardPicture | undefined;
  /** By replaceable part, 0 to 1. */
  readonly belief?: ReadonlyMap<string, number>;
  /** Where the probes go next, mm as seen from the top. */
  readonly glow?: readonly Place[];
  readonly chosen?: string | undefined;
  readonly onPick?: ((ref: string) => void) | undefined;
  /** A place that was tapped, mm as seen from the top. */
  readonly onPlace?: ((place: Place) => void) | undefined;
  /** What moves a mark by the arrow keys: steps of 1 mm, of 5 with Shift. */
  readonly onMove?: ((dx: number, dy: number) => void) | undefined;
  readonly label: string;
  /** Further marks, between the board and its parts: in mm as the side is seen. */
  readonly children?: ReactNode;
}

const NO_BELIEF: ReadonlyMap<string, number> = new Map();
const NOWHERE: readonly Place[] = [];
const ARROWS: Readonly<Record<string, Place>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const BELIEVED = 0.01;

/** A side of the board by position, over its picture where there is one. */
export function BoardFace({
  board,
  side,
  picture,
  belief = NO_BELIEF,
  glow = NOWHERE,
  chosen,
  onPick,
  onPlace,
  onMove,
  label,
  children,
}: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const frame = boardFrame(board) ?? { x: 0, y: 0, width: 100, height: 60 };
  const size = Math.max(1.5, frame.width / 75);
  const seen = (x: number): number => (side === 'top' ? x : mirrored(frame, x));
  const parts = partsOnSide(board, side);
  const matrix = picture && pictureMatrix(picture.ties, frame, side);
  const onPhoto = matrix !== undefined;
  return (
    <svg
      ref={svg}
      className={`${style.board} ${onPlace ? style.aims : ''} ${onPhoto ? style.onPhoto : ''}`}
      viewBox={`${frame.x - 2} ${frame.y - 2} ${frame.width + 4} ${frame.height + 4}`}
      role={onPlace ? 'application' : 'group'}
      aria-label={label}
      tabIndex={0}
      onKeyDown={(event) => {
        const step = ARROWS[event.key];
        if (!step || !onMove) return;
        event.preventDefault();
        const far = event.shiftKey ? 5 : 1;
        onMove((side === 'top' ? 1 : -1) * step[0] * far, step[1] * far);
      }}
      onClick={(event) => {
        const inverse = svg.current?.getScreenCTM()?.inverse();
        if (!onPlace || !inverse) return;
        const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(inverse);
        const clamp = (value: number, from: number, room: number): number =>
          Math.min(from + room, Math.max(from, value));
        onPlace([clamp(seen(at.x), frame.x, frame.width), clamp(at.y, frame.y, frame.height)]);
      }}
    >
      <defs>
        {parts.map(({ ref }) => (
          <HatchPattern
            key={ref}
            id={faceHatch(ref)}
            share={belief.get(replaceableRef(ref)) ?? 0}
          />
        ))}
      </defs>
      <rect
        x={frame.x}
        y={frame.y}
        width={frame.width}
        height={frame.height}
        rx={1.5}
        className={board.outlineMm ? style.outline : style.guessed}
      />
      {picture && matrix && (
        <image
          href={pictureHref(picture.id)}
          width={1}
          height={1}
          preserveAspectRatio="none"
          transform={matrix}
        />
      )}
      {children}
      {parts.map((placed) => (
        <PartOnBoard
          key={placed.ref}
          placed={placed}
          seen={seen}
          size={size}
          share={belief.get(replaceableRef(placed.ref)) ?? 0}
          chosen={chosen === placed.ref}
          onPick={onPick}
        />
      ))}
      {glow.map(([x, y], i) => (
        <circle key={i} cx={seen(x)} cy={y} r={size * 1.7} className={style.glow} />
      ))}
    </svg>
  );
}

const faceHatch = (ref: string): string => `face-${ref.replace(/\W/g, '_')}`;

function PartOnBoard({
  placed: { ref, body, pins, round, at, part },
  seen,
  size,
  share,
  chosen,
  onPick,
}: {
  placed: PlacedOnBoard;
  seen: (x: number) => number;
  size: number;
  share: number;
  chosen: boolean;
  onPick: Props['onPick'];
}) {
  const x = Math.min(seen(body.x), seen(body.x + body.width));
  const words = [ref, part.role, share > BELIEVED && `${Math.round(100 * share)} %`]
    .filter(Boolean)
    .join(', ');
  const shape = (fill?: string) =>
    round ? (
      <ellipse
        cx={x + body.width / 2}
        cy={body.y + body.height / 2}
        rx={body.width / 2}
        ry={body.height / 2}
        className={style.part}
        fill={fill}
      />
    ) : (
      <rect
        x={x}
        y={body.y}
        width={body.width}
        height={body.height}
        rx={0.4}
        className={style.part}
        fill={fill}
      />
    );
  const inside = body.width > ref.length * size * 0.75 && body.height > size;
  return (
    <g
      className={`${style.placed} ${chosen ? style.chosen : ''}`}
      role={onPick ? 'button' : undefined}
      tabIndex={onPick ? -1 : undefined}
      aria-label={onPick ? words : undefined}
      onClick={
        onPick &&
        ((event) => {
          event.stopPropagation();
          onPick(ref);
        })
      }
    >
      <title>{words}</title>
      {shape()}
      {share > BELIEVED && (
        <g transform={`translate(${x} ${body.y}) scale(${size / 12})`}>
          <rect
            className={style.believed}
            width={(12 / size) * body.width}
            height={(12 / size) * body.height}
            fill={`url(#${faceHatch(ref)})`}
          />
        </g>
      )}
      {pins.map((pin, i) =>
        pin ? (
          <circle
            key={i}
            cx={seen(pin[0])}
            cy={pin[1]}
            r={i === 0 ? 0.5 : 0.35}
            className={i === 0 ? style.first : style.pin}
          />
        ) : null,
      )}
      <text
        x={seen(at[0])}
        y={inside ? body.y + body.height / 2 + size * 0.35 : body.y - size * 0.25}
        fontSize={size}
        className={style.ref}
      >
        {ref}
      </text>
    </g>
  );
}
