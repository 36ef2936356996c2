import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { nameKey, replaceableRef, type BoardIndex } from '@hanzai/core/board';
import style from './Drawing.module.css';
import { flagWidth, type FlagWords } from './flags';
import { layoutDrawing, type DrawingLayout } from './layout';
import { isWay, itemsOf, neighbour, type Way } from './neighbour';
import { Flag, NetBar } from './NetMark';
import { HatchPattern } from '../ui/HatchBar';
import { hatchId, PartMark } from './PartMark';

interface Props {
  readonly title: string;
  /** Words beside the title: what part of the sheet this is. */
  readonly scope: string;
  readonly index: BoardIndex;
  /** drawnRefs to draw; undefined draws all. */
  readonly refs?: ReadonlySet<string> | undefined;
  /** Nets that the next reading is on. */
  readonly probed?: ReadonlySet<string>;
  readonly flags?: ReadonlyMap<string, FlagWords>;
  /** By replaceable part, 0 to 1. */
  readonly belief?: ReadonlyMap<string, number>;
  /** Parts that are off the board. */
  readonly absent?: readonly string[];
  readonly onPick: (text: string) => void;
  /** What is told of a net that one points at or goes to; undefined where nothing is known. */
  readonly tell?: (net: string) => Promise<string | undefined>;
  /** Further things to press, in the bar above. */
  readonly children?: ReactNode;
}

/**
 * The drawing is never shown smaller than this, or its letters could not be read: it scrolls
 * instead.
 */
const LEAST_SCALE = 0.8;
/** A few parts are not blown up beyond this: the eye loses the net that it followed. */
const MOST_SCALE = 1.2;

const NOTHING: ReadonlySet<string> = new Set();
const NO_FLAGS: ReadonlyMap<string, FlagWords> = new Map();
const NO_BELIEF: ReadonlyMap<string, number> = new Map();
const NONE: readonly string[] = [];

/** A sheet or a part of it, drawn: laid out in a worker, anew only where what it shows has changed. */
export function Drawing({
  title,
  scope,
  index,
  refs,
  probed = NOTHING,
  flags = NO_FLAGS,
  belief = NO_BELIEF,
  absent = NONE,
  onPick,
  tell,
  children,
}: Props) {
  const { told, point } = useTold(tell);
  const [zoom, setZoom] = useState(1);
  const { layout, failed } = useLayout(index, refs, probed, flags);
  const view = useRef<HTMLDivElement>(null);
  const enlarge = (times: number): void => setZoom((z) => Math.min(3, Math.max(0.5, z * times)));

  // A wheel with Ctrl, which is what two fingers on a touch pad are too, would zoom the page.
  useEffect(() => {
    const element = view.current;
    const turned = (event: WheelEvent): void => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      enlarge(Math.exp(-event.deltaY / 300));
    };
    element?.addEventListener('wheel', turned, { passive: false });
    return () => element?.removeEventListener('wheel', turned);
  }, []);
  const isOff = useMemo(() => {
    const off = new Set(absent.map((ref) => nameKey(replaceableRef(ref))));
    return (ref: string) => off.has(nameKey(replaceableRef(ref)));
  }, [absent]);

  return (
    <section className={style.map} aria-label={`${title} of the circuit`}>
      <header className={style.bar}>
        <h2>{title}</h2>
        <span className={style.scope} aria-live="polite">
          {told ?? scope}
        </span>
        {children}
        <button type="button" onClick={() => enlarge(1.3)} aria-label="Larger">
          +
        </button>
        <button type="button" onClick={() => enlarge(1 / 1.3)} aria-label="Smaller">
          −
        </button>
      </header>
      <div
        ref={view}
        className={style.view}
        tabIndex={0}
        role="group"
        aria-label="Drawing. Enter goes to its first part, arrow keys from part to part, plus and minus change its size"
        onKeyDown={(event) => layout && onKey(event, layout, enlarge)}
      >
        {failed && (
          <p className={style.failed} role="alert">
            This is too much to be drawn at once: look at a part of it.
          </p>
        )}
        {layout && !failed && (
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
              {[...new Set(layout.parts.map(({ ref }) => ref))].map((ref) => (
                <HatchPattern
                  key={ref}
                  id={hatchId(ref)}
                  share={belief.get(replaceableRef(ref)) ?? 0}
                />
              ))}
            </defs>
            {layout.wires.map(({ points }, i) => (
              <polyline
                key={i}
                className={style.wire}
                points={points.map(({ x, y }) => `${x},${y}`).join(' ')}
              />
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
                key={net.net}
                place={net}
                next={probed.has(net.net)}
                onPick={onPick}
                onPoint={point}
              />
            ))}
            {layout.nets.map((net) => (
              <Flag
                key={net.net}
                place={net}
                words={flags.get(net.net)}
                next={probed.has(net.net)}
              />
            ))}
          </svg>
        )}
      </div>
    </section>
  );
}

/**
 * Keys of a drawing: Enter goes into it, arrows from part to part, Enter on one picks it, Escape
 * leaves; plus and minus change the size.
 */
function onKey(
  event: KeyboardEvent<HTMLDivElement>,
  layout: DrawingLayout,
  enlarge: (times: number) => void,
): void {
  const { key, currentTarget: view, target } = event;
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const focus = (item: string): void => {
    const element = view.querySelector<SVGElement>(`[data-item="${CSS.escape(item)}"]`);
    element?.focus();
    element?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  };
  const items = itemsOf(layout);
  const here = (target as Element).closest('[data-item]')?.getAttribute('data-item');
  const from = items.find((item) => item.key === here);
  if (key === '+' || key === '-') enlarge(key === '+' ? 1.3 : 1 / 1.3);
  else if (!from && key === 'Enter' && items[0]) focus(items[0].key);
  else if (from && isWay(key)) {
    const next = neighbour(items, from, key as Way);
    if (next) focus(next.key);
  } else if (from && key === 'Enter')
    (target as Element).dispatchEvent(new MouseEvent('click', { bubbles: true }));
  else if (from && key === 'Escape') view.focus();
  else return;
  event.preventDefault();
}

/** What is told of the net that is pointed at: of the last one, however long the answers take. */
function useTold(tell: Props['tell']): {
  readonly told: string | undefined;
  readonly point: (net: string | undefined) => void;
} {
  const [told, setTold] = useState<string>();
  const at = useRef<string>(undefined);
  const point = useCallback(
    (net: string | undefined): void => {
      at.current = net;
      if (net === undefined || !tell) return setTold(undefined);
      tell(net).then(
        (words) => {
          if (at.current === net) setTold(words);
        },
        () => undefined,
      );
    },
    [tell],
  );
  return { told, point };
}

/** The layout of what is shown; the one before stays until the new one is there. */
function useLayout(
  index: BoardIndex,
  refs: ReadonlySet<string> | undefined,
  probed: ReadonlySet<string>,
  flags: ReadonlyMap<string, FlagWords>,
): { readonly layout: DrawingLayout | undefined; readonly failed: boolean } {
  const [layout, setLayout] = useState<DrawingLayout>();
  const [failed, setFailed] = useState(false);
  const shown = refs ? [...refs].sort().join() : '*';
  const pinned = [...flags].map(([net, words]) => `${net}=${Math.round(flagWidth(words))}`).join();
  useEffect(() => {
    let stale = false;
    void layoutDrawing(
      index,
      refs,
      new Set([...probed, ...flags.keys()]),
      (net) => flagWidth(flags.get(net)) + (probed.has(net) ? 26 : 0),
    ).then(
      (result) => {
        if (stale) return;
        setLayout(result);
        setFailed(false);
      },
      () => {
        if (!stale) setFailed(true);
      },
    );
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the texts stand for refs, probed nets and flags by value
  }, [index, shown, pinned, [...probed].join()]);
  return { layout, failed };
}
