import style from './Drawing.module.css';
import { nameWidth, SIZE } from './graph';
import type { PlacedBus, PlacedNet } from './layout';
import { barKey } from './neighbour';
import { poleWidth, voltsWidth, type FlagWords } from './flags';

/** A net, drawn as the copper it is. next: the probe goes here. */
export function NetBar({
  place,
  next,
  volts,
  onPick,
  onPoint,
}: {
  place: PlacedNet;
  next: boolean;
  /** What it would have, on the board that is asked about. */
  volts: string | undefined;
  onPick: (text: string) => void;
  /** The net that is pointed at or in focus; undefined when it is left. */
  onPoint: (net: string | undefined) => void;
}) {
  const { net, x, y, width, onward } = place;
  const probe = x + 12;
  return (
    <g
      className={style.net}
      role="button"
      tabIndex={-1}
      data-item={barKey(place)}
      aria-label={[`net ${net}`, volts, next && 'the next reading is here']
        .filter(Boolean)
        .join(', ')}
      onClick={() => onPick(net.toLowerCase())}
      onMouseEnter={() => onPoint(net)}
      onMouseLeave={() => onPoint(undefined)}
      onFocus={() => onPoint(net)}
      onBlur={() => onPoint(undefined)}
    >
      <rect className={style.copper} x={x} y={y} width={width} height={SIZE.bar} rx="4" />
      <text className={style.netName} x={x + (next ? 28 : 2)} y={y - 6}>
        {net}
        {onward !== '' && (
          <tspan className={style.onward} data-onward={net}>
            {` ${onward}`}
          </tspan>
        )}
        {volts !== undefined && <tspan className={style.volts}>{` ${volts}`}</tspan>}
      </text>
      {next && (
        <g className={style.probe}>
          <circle cx={probe} cy={y + SIZE.bar / 2} r="11" />
          <path d={`M${probe} ${y - 22} v16`} />
        </g>
      )}
    </g>
  );
}

/** The thick line of a bus, with the name of its lines. */
export function BusBar({ place: { name, x, y, width } }: { place: PlacedBus }) {
  return (
    <g aria-label={`bus ${name}`}>
      <rect className={style.busBar} x={x} y={y} width={width} height={SIZE.bar} />
      <text className={style.netName} x={x + 2} y={y - 6}>
        {name}
      </text>
    </g>
  );
}

/** What was not judged looks like neither. */
const flagLook = ({ should, isJudged }: FlagWords): string | undefined =>
  should ? style.flagWrong : isJudged ? style.flag : style.flagUnjudged;

/** A pinned flag: what was read, and beside it what a sound board shows. */
export function Flag({
  place,
  words,
  next,
  volts,
}: {
  place: PlacedNet;
  words: FlagWords | undefined;
  next: boolean;
  volts: string | undefined;
}) {
  if (!words) return null;
  const [x, y] = [
    place.x + nameWidth(place.net + place.onward) + voltsWidth(volts) + (next ? 26 : 0),
    place.y - 8,
  ];
  const width = poleWidth(words);
  return (
    <g className={flagLook(words)}>
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
