import { memo, type CSSProperties } from 'react';
import { replaceableRef } from '@hanzai/core/board';
import { HatchPattern } from '../ui/HatchBar';
import style from './Drawing.module.css';
import type { FlagWords } from './flags';
import type { DrawingLayout } from './layout';
import { barKey } from './neighbour';
import { BusBar, Flag, NetBar } from './NetMark';
import { hatchId, PartMark } from './PartMark';

interface Props {
  readonly layout: DrawingLayout;
  readonly probed: ReadonlySet<string>;
  readonly flags: ReadonlyMap<string, FlagWords>;
  /** What nets would have, on the board that is asked about. */
  readonly volts: ReadonlyMap<string, string>;
  /** By replaceable part, 0 to 1. */
  readonly belief: ReadonlyMap<string, number>;
  readonly isOff: (ref: string) => boolean;
  readonly size: CSSProperties;
  readonly onPick: (text: string) => void;
  readonly onPoint: (net: string | undefined) => void;
}

/** What was laid out, with what is believed and read on it. */
export const DrawnSheet = memo(function DrawnSheet({
  layout,
  probed,
  flags,
  volts,
  belief,
  isOff,
  size,
  onPick,
  onPoint,
}: Props) {
  const refs = [...new Set(layout.parts.map(({ ref }) => ref))];
  return (
    <svg
      className={style.svg}
      style={size}
      viewBox={`-8 -26 ${layout.width + 16} ${layout.height + 40}`}
      preserveAspectRatio="xMidYMid meet"
    >
      <defs>
        {refs.map((ref) => (
          <HatchPattern key={ref} id={hatchId(ref)} share={belief.get(replaceableRef(ref)) ?? 0} />
        ))}
      </defs>
      {layout.wires.map(({ points, isBus }, i) => (
        <polyline
          key={i}
          className={isBus ? style.bus : style.wire}
          points={points.map(({ x, y }) => `${x},${y}`).join(' ')}
        />
      ))}
      {layout.buses.map((bus) => (
        <BusBar key={bus.name} place={bus} />
      ))}
      {layout.parts.map((part) => (
        <PartMark
          key={part.key}
          part={part}
          belief={belief.get(replaceableRef(part.ref)) ?? 0}
          off={isOff(part.ref)}
          onPick={onPick}
        />
      ))}
      {layout.nets.map((net) => (
        <NetBar
          key={barKey(net)}
          place={net}
          next={probed.has(net.net)}
          volts={net.row === 0 ? volts.get(net.net) : undefined}
          onPick={onPick}
          onPoint={onPoint}
        />
      ))}
      {layout.nets
        .filter(({ row }) => row === 0)
        .map((net) => (
          <Flag
            key={net.net}
            place={net}
            words={flags.get(net.net)}
            next={probed.has(net.net)}
            volts={volts.get(net.net)}
          />
        ))}
    </svg>
  );
});
