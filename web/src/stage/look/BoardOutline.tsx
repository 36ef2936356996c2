import { useRef } from 'react';
import { replaceableRef, type BoardIndex, type Part } from '@hanzai/core/board';
import { reachShape, type PlacedFinding } from '@hanzai/core/bench';
import style from './BoardOutline.module.css';

interface Props {
  readonly index: BoardIndex;
  readonly findings: readonly PlacedFinding[];
  readonly place: { readonly xMm: number; readonly yMm: number } | undefined;
  readonly onPlace: (place: { xMm: number; yMm: number }) => void;
  readonly pointed: string | undefined;
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The board by its own positions, with findings and how far they reach; a tap says where. */
export function BoardOutline({ index, findings, place, onPlace, pointed }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { width, height } = index.board.outlineMm!;
  const text = Math.max(1.6, width / 62);
  const seen = new Set<string>();
  const parts = index.board.parts.filter(
    (part) =>
      part.positionMm && !seen.has(replaceableRef(part.ref)) && seen.add(replaceableRef(part.ref)),
  );
  const move = (dx: number, dy: number): void => {
    const from = place ?? { xMm: width / 2, yMm: height / 2 };
    onPlace({
      xMm: Math.min(width, Math.max(0, from.xMm + dx)),
      yMm: Math.min(height, Math.max(0, from.yMm + dy)),
    });
  };
  return (
    <svg
      ref={svg}
      className={style.board}
      viewBox={`-2 -2 ${width + 4} ${height + 4}`}
      role="application"
      aria-label="Board outline: tap a place, or move the mark with the arrow keys"
      tabIndex={0}
      onKeyDown={(event) => {
        const step = ARROWS[event.key];
        if (!step) return;
        event.preventDefault();
        const far = event.shiftKey ? 5 : 1;
        move(step[0] * far, step[1] * far);
      }}
      onClick={(event) => {
        const matrix = svg.current?.getScreenCTM()?.inverse();
        if (!matrix) return;
        const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
        onPlace({
          xMm: Math.min(width, Math.max(0, at.x)),
          yMm: Math.min(height, Math.max(0, at.y)),
        });
      }}
    >
      <rect x={0} y={0} width={width} height={height} rx={1.5} className={style.outline} />
      {findings.map((finding) => {
        const { id, xMm, yMm, sizeMm } = finding;
        return (
          <g key={id} className={id === pointed ? style.pointed : undefined}>
            <ellipse {...reachShape(finding)} className={style.reach} />
            <circle cx={xMm} cy={yMm} r={sizeMm / 2} className={style.finding} />
          </g>
        );
      })}
      {parts.map((part) => (
        <g key={part.ref} transform={`translate(${part.positionMm!.join(' ')})`}>
          <Shape part={part} />
          <text
            y={isRound(part) ? text * 0.35 : -text * 0.75}
            fontSize={text}
            className={style.ref}
          >
            {replaceableRef(part.ref)}
          </text>
        </g>
      ))}
      {findings.map(({ id, xMm, yMm }, i) => (
        <text key={id} x={xMm} y={yMm + text * 0.4} fontSize={text * 1.2} className={style.number}>
          {i + 1}
        </text>
      ))}
      {place && (
        <path
          d={`M${place.xMm - 3} ${place.yMm}H${place.xMm + 3}M${place.xMm} ${place.yMm - 3}V${place.yMm + 3}`}
          className={style.place}
        />
      )}
    </svg>
  );
}

/** A can: its name fits into it. */
function isRound(part: Part): part is Extract<Part, { kind: 'capacitor' }> {
  return part.kind === 'capacitor' && part.capacitanceFarad >= 1e-6;
}

/** A part from above, drawn small: only so much that one finds it on the board. */
function Shape({ part }: { part: Part }) {
  if (part.kind === 'chip' || part.kind === 'amplifier') {
    const half = Math.max(4, part.pins.length * 0.64);
    return <rect x={-half} y={-2.4} width={2 * half} height={4.8} className={style.part} />;
  }
  if (isRound(part))
    return (
      <circle r={1.9 + 0.5 * Math.log10(part.capacitanceFarad / 1e-6 + 1)} className={style.part} />
    );
  return <rect x={-1.8} y={-0.8} width={3.6} height={1.6} className={style.part} />;
}
