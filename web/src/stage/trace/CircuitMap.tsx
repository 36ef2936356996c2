import { useEffect, useMemo, useRef, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { nameKey, partValue, replaceableRef } from '@hanzai/core/board';
import type { Journal } from '../../case/journal';
import { valueText } from '../../case/wording';
import { hatchGap } from '../../ui/HatchBar';
import type { LineUp, Proposal } from '../../workers/engine-messages';
import style from './CircuitMap.module.css';
import { layoutMap, MAP, nameWidth, type MapLayout, type PlacedNet, type PlacedPart } from './map-layout';

interface Props {
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly lineUp: LineUp | undefined;
  readonly proposal: Proposal | undefined;
  readonly onPick: (text: string) => void;
}

/** Parts above this belief are what the question is about. */
const IN_QUESTION = 0.04;
const MOST_FOCUSED = 9;
/** The drawing is never shown smaller than this, or its letters could not be read: it scrolls instead. */
const LEAST_SCALE = 0.78;
/** A few parts are not blown up beyond this: the eye loses the net that it followed. */
const MOST_SCALE = 1.3;
/** More elements than this are too many to read at arm's length. */
const MOST_DRAWN = 26;

/** The circuit around the question: suspects hatched by belief, readings pinned as flags, the next points marked. */
export function CircuitMap({ index, journal, lineUp, proposal, onPick }: Props) {
  const [whole, setWhole] = useState(false);
  const [zoom, setZoom] = useState(1);
  const [layout, setLayout] = useState<MapLayout>();
  const box = useRef<HTMLDivElement>(null);
  const refs = useMemo(() => (whole ? undefined : partsInQuestion(index, lineUp, proposal, journal)), [whole, index, lineUp, proposal, journal]);
  const flags = useMemo(() => flagsOf(journal, lineUp), [journal, lineUp]);
  const key = `${refs ? [...refs].sort().join() : '*'} ${[...flags].map(([net, words]) => `${net}=${Math.round(flagWidth(words))}`).join()}`;
  useEffect(() => {
    let stale = false;
    void layoutMap(index, refs, (net) => flagWidth(flags.get(net))).then((result) => {
      if (!stale) setLayout(result);
    });
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for refs and flags by value
  }, [index, key]);
  const belief = useMemo(() => new Map(lineUp?.entries.map((entry) => [entry.ref, entry.probability])), [lineUp]);

  return (
    <section className={style.map} aria-label="Map of the circuit">
      <header className={style.bar}>
        <h2>Map</h2>
        <span className={style.scope}>{whole ? 'the whole sheet' : 'around the question'}</span>
        <button type="button" onClick={() => setWhole(!whole)} aria-pressed={whole}>
          {whole ? 'Around the question' : 'Whole sheet'}
        </button>
        <button type="button" onClick={() => setZoom((z) => Math.min(3, z * 1.3))} aria-label="Larger">
          +
        </button>
        <button type="button" onClick={() => setZoom((z) => Math.max(0.5, z / 1.3))} aria-label="Smaller">
          −
        </button>
      </header>
      <div className={style.view} ref={box} tabIndex={0} role="group" aria-label="Drawing, scroll with the arrow keys">
        {layout && (
          <svg
            className={style.svg}
            style={{
              width: `max(${100 * zoom}%, ${Math.round(layout.width * LEAST_SCALE * zoom)}px)`,
              maxWidth: `${Math.round(layout.width * MOST_SCALE * zoom)}px`,
              height: `max(${100 * zoom}%, ${Math.round(layout.height * LEAST_SCALE * zoom)}px)`,
            }}
            viewBox={`-8 -26 ${layout.width + 16} ${layout.height + 40}`}
            preserveAspectRatio="xMidYMid meet"
          >
            <defs>
              {layout.parts.map((part) => (
                <Hatch key={part.ref} id={hatchId(part.ref)} share={belief.get(replaceableRef(part.ref)) ?? 0} />
              ))}
            </defs>
            {layout.wires.map(({ points }, i) => (
              <polyline key={i} className={style.wire} points={points.map(({ x, y }) => `${x},${y}`).join(' ')} />
            ))}
            {layout.parts.map((part) => (
              <PartBox
                key={part.ref}
                part={part}
                belief={belief.get(replaceableRef(part.ref)) ?? 0}
                off={journal.absent.some((ref) => nameKey(ref) === nameKey(replaceableRef(part.ref)))}
                onPick={onPick}
              />
            ))}
            {layout.nets.map((net) => (
              <NetBar key={net.net} place={net} next={proposalTouches(proposal, net.net, index)} onPick={onPick} />
            ))}
            {layout.nets.map((net) => (
              <Flag key={net.net} place={net} words={flags.get(net.net)} />
            ))}
          </svg>
        )}
      </div>
    </section>
  );
}

const hatchId = (ref: string): string => `hatch-${ref.replace(/\W/g, '_')}`;

function Hatch({ id, share }: { id: string; share: number }) {
  const gap = hatchGap(share);
  return (
    <pattern id={id} width={gap} height={gap} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2={gap} stroke="var(--hatch)" strokeWidth="2" />
    </pattern>
  );
}

function PartBox({ part, belief, off, onPick }: { part: PlacedPart; belief: number; off: boolean; onPick: (text: string) => void }) {
  const { x, y, width, height, form, ref } = part;
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
          {part.grounded && <path className={style.ground} d={`M${middle} ${top + boxHeight} v8 M${middle - 9} ${top + boxHeight + 8} h18`} />}
        </>
      )}
      {form === 'bridge' && part.grounded && <path className={style.ground} d={`M${middle} ${top + boxHeight} v8 M${middle - 9} ${top + boxHeight + 8} h18`} />}
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
      <text className={style.ref} x={middle} y={top + 19}>
        {ref}
      </text>
      <text className={style.value} x={middle} y={top + 35}>
        {off ? 'off the board' : value.length > 9 ? `${value.slice(0, 8)}…` : value}
      </text>
    </g>
  );
}

function NetBar({ place, next, onPick }: { place: PlacedNet; next: boolean; onPick: (text: string) => void }) {
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

/** What a flag says: what was read, and where that is wrong what a sound board shows. */
interface FlagWords {
  readonly read: string;
  readonly should: string;
}

/** The newest voltage of each net against ground, in words. */
function flagsOf(journal: Journal, lineUp: LineUp | undefined): ReadonlyMap<string, FlagWords> {
  const flags = new Map<string, FlagWords>();
  for (const { current, measurement: m, value, entry } of journal.readings) {
    if (!current || m.kind !== 'voltage' || m.to.net !== '0') continue;
    const expected = lineUp?.expected[entry.id];
    flags.set(m.at.net, { read: valueText('voltage', value), should: expected && !expected.within ? `not ${expected.display}` : '' });
  }
  return flags;
}

const poleWidth = ({ read }: FlagWords): number => read.length * 9.5 + 16;
const flagWidth = (words: FlagWords | undefined): number => (words ? poleWidth(words) + words.should.length * 9.5 + 8 : 0);

function Flag({ place, words }: { place: PlacedNet; words: FlagWords | undefined }) {
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

function proposalTouches(proposal: Proposal | undefined, net: string, index: BoardIndex): boolean {
  if (!proposal) return false;
  const netOf = (point: string): string | undefined => {
    const direct = index.netByKey.get(nameKey(point));
    if (direct) return direct;
    const dot = point.lastIndexOf('.');
    const part = index.partByKey.get(nameKey(point.slice(0, dot)));
    const label = point.slice(dot + 1).toUpperCase();
    const pin = part?.kind === 'transistor' ? 'CBE'.indexOf(label) : part?.kind === 'diode' ? 'AK'.indexOf(label) : Number(label) - 1;
    const written = part?.pins[pin];
    return written === undefined ? undefined : index.netByKey.get(nameKey(written));
  };
  return netOf(proposal.at) === net || (proposal.to !== '' && netOf(proposal.to) === net);
}

/** The leading suspects, what shares a net with the next points, and the way from the supply to them. */
function partsInQuestion(index: BoardIndex, lineUp: LineUp | undefined, proposal: Proposal | undefined, journal: Journal): ReadonlySet<string> | undefined {
  if (!lineUp) return undefined;
  const leading = lineUp.entries.filter(({ probability }) => probability >= IN_QUESTION).slice(0, MOST_FOCUSED).map(({ ref }) => ref); // prettier-ignore
  const wanted = new Set([...leading, ...journal.absent, ...journal.condemned.map(({ body }) => body.ref)].map(nameKey));
  // Of an array or a connector, only the elements that the suspicion is about.
  const named = new Set(lineUp.entries.filter(({ ref }) => wanted.has(nameKey(ref))).flatMap(({ modes }) => modes.map((mode) => nameKey(mode.split(':')[0]!))));
  const inQuestion = (ref: string): boolean =>
    wanted.has(nameKey(replaceableRef(ref))) &&
    (!/\.\d+$/.test(ref) || [...named].some((name) => name === nameKey(ref) || name.startsWith(`${nameKey(ref)}.`)));
  const nets = new Set(index.nets.filter((net) => proposalTouches(proposal, net, index)));
  const chosen = index.board.parts.filter((part) => inQuestion(part.ref));
  chosen.forEach((part) => part.pins.forEach((net) => nets.add(index.netByKey.get(nameKey(net))!)));
  nets.delete('0');
  const around = index.board.parts.filter((part) => part.pins.some((net) => nets.has(index.netByKey.get(nameKey(net))!)));
  const fitting = around.length <= MOST_DRAWN ? around : chosen.length > 0 ? chosen : around.slice(0, MOST_DRAWN);
  return fitting.length === 0 ? undefined : new Set(fitting.map(({ ref }) => (/\.\d+$/.test(ref) ? ref : replaceableRef(ref))));
}
