import type { ReactNode } from 'react';
import { busEntries, busName } from './buses';
import type { DrawnPin } from './drawn';
import style from './Drawing.module.css';
import { busStub, entryHeight, isOwnName, pinName, SIZE } from './graph';
import type { PlacedPart } from './layout';
import {
  AmplifierSymbol,
  BODY,
  BoxGlyph,
  GateSymbol,
  GroundSign,
  RailSign,
  TransistorSymbol,
  TwoPinSymbol,
} from './Symbols';

export const hatchId = (key: string): string => `hatch-${key.replace(/\W/g, '_')}`;

interface Props {
  readonly part: PlacedPart;
  readonly belief: number;
  readonly off: boolean;
  readonly onPick: (text: string) => void;
}

/** Below this share nothing is shown. */
const BELIEVED = 0.01;

/** A part with its symbol, its name and value, and the signs at its ends. */
export function PartMark({ part, belief, off, onPick }: Props) {
  const { ref, x, y } = part;
  const words = [ref, part.value, off ? 'off the board' : ''].filter(Boolean).join(', ');
  return (
    <g
      className={`${style.part} ${off ? style.off : ''}`}
      role="button"
      tabIndex={-1}
      data-item={`p:${part.key}`}
      aria-label={belief > BELIEVED ? `${words}, ${Math.round(100 * belief)} %` : words}
      transform={`translate(${x} ${y})`}
      onClick={() => onPick(ref.toLowerCase())}
    >
      <title>{words}</title>
      {part.form === 'block' ? (
        <Block part={part} belief={belief} off={off} />
      ) : part.form === 'across' ? (
        <Across part={part} belief={belief} off={off} />
      ) : (
        <Hung part={part} belief={belief} off={off} />
      )}
    </g>
  );
}

/**
 * What is believed of a part: a strip beside its symbol, hatched as far and as densely as it is
 * believed. upright: it fills from its foot.
 */
function Believed({
  at,
  of,
  belief,
  upright = false,
}: {
  at: readonly [number, number, number, number];
  of: string;
  belief: number;
  upright?: boolean;
}) {
  if (belief <= BELIEVED) return null;
  const [x, y, width, height] = at;
  const filled = Math.max(3, belief * (upright ? height : width));
  return (
    <>
      <rect className={style.strip} x={x} y={y} width={width} height={height} />
      <rect
        className={style.believed}
        x={x}
        y={upright ? y + height - filled : y}
        width={upright ? width : filled}
        height={upright ? filled : height}
        fill={`url(#${hatchId(of)})`}
      />
    </>
  );
}

const short = (text: string, most: number): string =>
  text.length > most ? `${text.slice(0, most - 1)}…` : text;

interface Own<F extends PlacedPart['form']> {
  readonly part: Extract<PlacedPart, { form: F }>;
  readonly belief: number;
  readonly off: boolean;
}

function Across({ part, belief, off }: Own<'across'>) {
  const { ref, symbol, value, width, height, turned, nets, labels } = part;
  const middle = height / 2;
  return (
    <>
      <Believed at={[width / 2 - 30, height + 2, 60, 9]} of={ref} belief={belief} />
      <g
        transform={`translate(${width / 2} ${middle}) scale(${turned ? -1 : 1} ${symbol === 'led' ? -1 : 1})`}
      >
        <TwoPinSymbol symbol={symbol} half={width / 2} />
      </g>
      {nets.map((net, i) =>
        labels[i] !== undefined ? (
          <NetLabel
            key={i}
            net={net}
            label={labels[i]}
            x={(i === 0) !== turned ? 0 : width}
            y={middle}
            east={(i === 0) === turned}
          />
        ) : null,
      )}
      <text className={style.ref} x={width / 2} y={12}>
        {ref}
      </text>
      <text className={style.value} x={width / 2} y={symbol === 'led' ? height + 5 : height - 1}>
        {off ? 'is off' : short(value, 12)}
      </text>
    </>
  );
}

/** The name of a net at the end of a lead: its bar is elsewhere. */
function NetLabel({
  net,
  label,
  x,
  y,
  east,
}: {
  net: string;
  label: string;
  x: number;
  y: number;
  east: boolean;
}) {
  const out = east ? 1 : -1;
  return (
    <>
      <circle className={style.tie} cx={x + out * 3} cy={y} r={3} />
      <text
        className={`${east ? style.numberEast : style.numberWest} ${style.label}`}
        x={x + out * 10}
        y={y + 5}
        data-net={net}
      >
        {label}
      </text>
    </>
  );
}

/** Hanging from its net to ground, or standing on it under a supply. */
function Hung({ part, belief, off }: Own<'leg' | 'hat'>) {
  const { ref, symbol, value, form, end, turned } = part;
  const half = 40;
  const x = 38;
  const middle = form === 'leg' ? half : SIZE.hat - half;
  // A leg's first end is up, on the bar; a hat's is down.
  const down = form === 'leg' ? !turned : turned;
  return (
    <>
      <Believed at={[x - 32, middle - 30, 9, 60]} of={ref} belief={belief} upright />
      <g
        transform={`translate(${x} ${middle}) rotate(${down ? 90 : -90})${down && symbol === 'led' ? ' scale(1 -1)' : ''}`}
      >
        <TwoPinSymbol symbol={symbol} half={half} turn={down ? 90 : -90} />
      </g>
      {form === 'leg' && end !== undefined && (
        <g transform={`translate(${x} ${2 * half})`}>
          <GroundSign />
        </g>
      )}
      {form === 'leg' && end === undefined && (
        <circle className={style.openEnd} cx={x} cy={2 * half + 4} r={4} />
      )}
      {form === 'hat' && end !== undefined && <RailSign name={end} x={x} y={SIZE.hat - 2 * half} />}
      <text className={style.refBeside} x={x + BODY - 1} y={middle - 3}>
        {ref}
      </text>
      <text className={style.valueBeside} x={x + BODY - 1} y={middle + 13}>
        {off ? 'is off' : short(value, 6)}
      </text>
    </>
  );
}

function Block({ part, belief, off }: Own<'block'>) {
  const { ref, symbol, value, width, height, pins, spots, gate, left, lead } = part;
  if (symbol === 'npn' || symbol === 'pnp')
    return <Transistor part={part} belief={belief} off={off} />;
  const inner = symbol === 'box' ? 0 : 16;
  const isGate = symbol === 'gate' || symbol === 'amplifier';
  const output = pins.findIndex(({ side }) => side === 'east');
  return (
    <>
      <Believed
        at={isGate ? [16, height + 3, 58, 9] : [0, height + 4, width, 9]}
        of={ref}
        belief={belief}
      />
      {symbol === 'box' && <rect className={style.body} width={width} height={height} />}
      {symbol === 'gate' && gate && (
        <GateSymbol gate={gate} height={height} out={spots[output]?.y ?? height / 2} />
      )}
      {part.glyph && (
        <g transform={`translate(${width / 2} ${(SIZE.blockHead + height - 8) / 2})`}>
          <BoxGlyph glyph={part.glyph} />
        </g>
      )}
      {symbol === 'amplifier' && <AmplifierSymbol height={height} />}
      <text className={style.ref} x={isGate ? width / 2 - 3 : width / 2} y={isGate ? 12 : 18}>
        {ref}
        {isGate && off ? ' is off' : ''}
      </text>
      {!isGate && (
        <text className={style.value} x={width / 2} y={35}>
          {off ? 'is off' : short(value, 14)}
        </text>
      )}
      {pins.map((pin, i) => (
        <Pin
          key={i}
          pin={pin}
          x={spots[i]!.x}
          y={spots[i]!.y}
          inner={inner}
          isGate={isGate}
          lead={lead}
        />
      ))}
      <Bundles part={part} />
      {left > 0 && (
        <text className={style.left} x={width / 2} y={height - 4}>
          and {left} more
        </text>
      )}
    </>
  );
}

/** A pin: its number, its name inside, and where it does not go to a bar the sign of where it goes. */
function Pin({
  pin,
  x,
  y,
  inner,
  isGate,
  lead,
}: {
  pin: DrawnPin;
  x: number;
  y: number;
  inner: number;
  isGate: boolean;
  lead: PlacedPart['lead'];
}) {
  const out = pin.side === 'west' ? -1 : 1;
  const stub = SIZE.stub - 12;
  return (
    <>
      {isGate && pin.side === 'west' && <path className={style.lead} d={`M${x} ${y}h${inner}`} />}
      {isGate && pin.side === 'east' && <path className={style.lead} d={`M${x - 14} ${y}h14`} />}
      {pin.name !== '' && (
        <text
          className={pin.side === 'west' ? style.pinWest : style.pinEast}
          x={x - out * (inner + 6)}
          y={y + 5}
        >
          {pin.name}
        </text>
      )}
      {pin.pin !== '' && (
        <text
          className={pin.side === 'west' ? style.numberWest : style.numberEast}
          x={x + out * (isGate ? -inner + 4 : 3)}
          y={y - 4}
        >
          {pin.pin}
        </text>
      )}
      {pin.by === 'label' && (
        <NetLabel net={pin.net} label={pinName(pin)} x={x + out * 12} y={y} east={out > 0} />
      )}
      {pin.by === 'wire' && lead[pin.side] > 0 && (
        <path className={style.wire} d={`M${x} ${y}h${out * lead[pin.side]}`} />
      )}
      {pin.by !== 'wire' && pin.by !== 'bus' && (
        <path className={style.lead} d={`M${x} ${y}h${out * (pin.by === 'label' ? 12 : stub)}`} />
      )}
      {pin.by === 'ground' && (
        <path
          className={style.ground}
          d={`M${x + out * stub} ${y - 8}v16 M${x + out * (stub + 5)} ${y - 4}v8`}
        />
      )}
      {pin.by === 'rail' && (
        <>
          <path className={style.rail} d={`M${x + out * stub} ${y - 8}v16`} />
          <text
            className={pin.side === 'west' ? style.numberWest : style.numberEast}
            x={x + out * (stub + 4)}
            y={y + 5}
          >
            {pin.net}
          </text>
        </>
      )}
    </>
  );
}

/** The buses that enter a box: a lead with its net's name for each line, to one thick line. */
function Bundles({ part }: { part: Own<'block'>['part'] }) {
  const { pins, spots, lead } = part;
  return busEntries(pins).map((entry) => {
    const at = entry.pins.map((i) => ({ net: pins[i]!.net, ...spots[i]! }));
    const out = entry.side === 'west' ? -1 : 1;
    const stub = busStub(part, entry);
    const x = at[0]!.x + out * stub;
    const middle = entryHeight(entry, spots);
    const name = busName(at.map(({ net }) => net));
    const isWired = !lead.named.includes(entry.bus);
    return (
      <g key={`${entry.side} ${entry.bus}`}>
        {at.map(({ net, x: from, y }) => (
          <g key={net}>
            <path className={style.lead} d={`M${from} ${y}h${out * stub}`} />
            {!isOwnName(entry, pins) && (
              <text
                className={out < 0 ? style.numberWest : style.numberEast}
                x={from + out * SIZE.busStub}
                y={y - 4}
                data-net={net}
              >
                {net}
              </text>
            )}
          </g>
        ))}
        <path className={style.bus} d={`M${x} ${at[0]!.y}V${at.at(-1)!.y}`} />
        {isWired ? (
          <path className={style.bus} d={`M${x} ${middle}h${out * (lead[entry.side] - stub)}`} />
        ) : (
          <text
            className={`${out < 0 ? style.numberWest : style.numberEast} ${style.label}`}
            x={x + out * 8}
            y={middle + 5}
          >
            {name}
          </text>
        )}
      </g>
    );
  });
}

function Transistor({ part, belief, off }: Own<'block'>) {
  const { ref, symbol, value, pins, width, lead } = part;
  const polarity = symbol === 'pnp' ? 'pnp' : 'npn';
  const [upper, lower] = polarity === 'npn' ? ['c', 'e'] : ['e', 'c'];
  const pinOf = (name: string | undefined) => pins.find((pin) => pin.name === name);
  const sign = (pin: DrawnPin | undefined, up: boolean): ReactNode => {
    if (!pin || pin.by === 'wire') return null;
    const [x, y] = [58, up ? 20 : 88];
    if (pin.by === 'rail' && up) return <RailSign name={pin.net} x={x} y={y} />;
    if (pin.by === 'ground' && !up)
      return (
        <g transform={`translate(${x} ${y})`}>
          <GroundSign />
        </g>
      );
    return (
      <text className={style.numberEast} x={x + 6} y={y + (up ? -2 : 12)}>
        {pin.by === 'ground' ? 'ground' : pinName(pin)}
      </text>
    );
  };
  const base = pinOf('b');
  return (
    <>
      <Believed at={[76, 73, 48, 9]} of={ref} belief={belief} />
      <TransistorSymbol
        polarity={polarity}
        up={pinOf(upper)?.by === 'wire'}
        down={pinOf(lower)?.by === 'wire'}
      />
      {pinOf(upper)?.by === 'wire' && (
        <path className={style.wire} d={`M${width} 20h${lead.east}`} />
      )}
      {pinOf(lower)?.by === 'wire' && (
        <path className={style.wire} d={`M${width} 88h${lead.east}`} />
      )}
      {sign(pinOf(upper), true)}
      {sign(pinOf(lower), false)}
      {base && base.by !== 'wire' && (
        <text className={style.numberWest} x={-2} y={58}>
          {base.by === 'ground' ? 'ground' : pinName(base)}
        </text>
      )}
      <text className={style.refBeside} x={76} y={52}>
        {ref}
      </text>
      <text className={style.valueBeside} x={76} y={67}>
        {off ? 'is off' : short(value, 8)}
      </text>
    </>
  );
}
