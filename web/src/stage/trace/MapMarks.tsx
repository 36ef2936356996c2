import { partValue } from '@hanzai/core/board';
import { hatchGap } from '../../ui/HatchBar';
import style from './CircuitMap.module.css';
import { poleWidth, type FlagWords } from './map-flags';
import { MAP, nameWidth, type PlacedNet, type PlacedPart } from './map-layout';

export const hatchId = (ref: string): string => `hatch-${ref.replace(/\W/g, '_')}`;

/** The pattern that a suspect is hatched with. */
export function Hatch({ id, share }: { id: string; share: number }) {
  const gap = hatchGap(share);
  return (
    <pattern
      id={id}
      width={gap}
      height={gap}
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <line x1="0" y1="0" x2="0" y2={gap} stroke="var(--hatch)" strokeWidth="2" />
    </pattern>
  );
}

/** A part: hanging from its net to ground, or standing between nets. */
export function PartBox({
  part,
  belief,
  off,
  onPick,
}: {
  part: PlacedPart;
  belief: number;
  off: boolean;
  onPick: (text: string) => void;
}) {
  const { x, y, width, height, form, ref, left } = part;
  const value = part.parts.length === 1 ? partValue(part.parts[0]!) : '';
  const top = form === 'leg' ? y + 10 : y;
  const boxHeight = form === 'leg' ? height - 24 : height;
  const middle = x + width / 2;
  return (
    <g
      className={`${style.part} ${off ? style.off : ''}`}
      role="button"
      tabIndex={-1}
      aria-label={`${ref}${off ? ', off the board' : ''}`}
      onClick={() => onPick(ref.toLowerCase())}
    >
      {form === 'leg' && (
        <>
          <line className={style.wire} x1={middle} y1={y} x2={middle} y2={top} />
          {part.grounded && (
            <path
              className={style.ground}
              d={`M${middle} ${top + boxHeight} v8 M${middle - 9} ${top + boxHeight + 8} h18`}
            />
          )}
        </>
      )}
      {form === 'bridge' && part.grounded && (
        <path
          className={style.ground}
          d={`M${middle} ${top + boxHeight} v8 M${middle - 9} ${top + boxHeight + 8} h18`}
        />
      )}
      <rect className={style.box} x={x} y={top} width={width} height={boxHeight} />
      {belief > 0.005 && (
        <rect
          x={x + 3}
          y={top + boxHeight - 12}
          width={Math.max(4, (width - 6) * belief)}
          height="9"
          fill={`url(#${hatchId(ref)})`}
          stroke="var(--hatch)"
          strokeWidth="1"
        />
      )}
      {left > 0 && (
        <text className={style.value} x={middle} y={top - 6}>
          {left} more net{left === 1 ? '' : 's'}
        </text>
      )}
      <text className={style.ref} x={middle} y={top + 19}>
        {ref}
      </text>
      <text className={style.value} x={middle} y={top + 35}>
        {off ? 'is off' : value.length > 9 ? `${value.slice(0, 8)}…` : value}
      </text>
    </g>
  );
}

/** A net, drawn as the copper it is. next: the probe goes here. */
export function NetBar({
  place,
  next,
  onPick,
}: {
  place: PlacedNet;
  next: boolean;
  onPick: (text: string) => void;
}) {
  const { net, x, y, width } = place;
  return (
    <g className={style.net} onClick={() => onPick(net.toLowerCase())}>
      <rect className={style.copper} x={x} y={y} width={width} height={MAP.barThickness} rx="4" />
      <text className={style.netName} x={x + 2} y={y - 6}>
        {net}
        {place.more ? ' …' : ''}
      </text>
      {next && (
        <g className={style.probe}>
          <circle cx={x + width - 10} cy={y + MAP.barThickness / 2} r="11" />
          <path d={`M${x + width - 10} ${y - 22} v16`} />
        </g>
      )}
    </g>
  );
}

/** A pinned flag: what was read, and beside it what a sound board shows. */
export function Flag({ place, words }: { place: PlacedNet; words: FlagWords | undefined }) {
  if (!words) return null;
  const [x, y] = [place.x + nameWidth(place.net), place.y - 8];
  const width = poleWidth(words);
  return (
    <g className={words.should ? style.flagWrong : style.flag}>
      <path d={`M${x} ${y + 8} v-26 h${width} l-6 9 l6 9 h-${width}`} />
      <text x={x + 5} y={y - 4}>
        {words.read}
      </text>
      {words.should && (
        <text className={style.should} x={x + width + 3} y={y - 4}>
          {words.should}
        </text>
      )}
    </g>
  );
}
