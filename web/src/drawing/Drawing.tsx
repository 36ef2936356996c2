import { usePinch } from '@use-gesture/react';
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent as PointerAt,
  type ReactNode,
} from 'react';
import { nameKey, replaceableRef, type BoardIndex } from '@hanzai/core/board';
import { Button } from '../ui/Button';
import { More } from '../ui/More';
import { Notice } from '../ui/Notice';
import style from './Drawing.module.css';
import { DrawnSheet } from './DrawnSheet';
import type { FlagWords } from './flags';
import type { DrawingLayout } from './layout';
import { isWay, itemsOf, neighbour, type Way } from './neighbour';
import { PrintedSheets } from './PrintedSheets';
import { useAreas, useLayout, type View } from './use-layout';

interface Props {
  readonly title: string;
  /** Words beside the title: what part of the sheet this is. */
  readonly scope: string;
  readonly index: BoardIndex;
  /** drawnRefs to draw; undefined draws all, area by area. */
  readonly refs?: ReadonlySet<string> | undefined;
  /** A drawnRef whose area is turned to. */
  readonly at?: string | undefined;
  /** Nets that the next reading is on. */
  readonly probed?: ReadonlySet<string>;
  readonly flags?: ReadonlyMap<string, FlagWords>;
  /** What nets would have on the board that is asked about, behind their names. */
  readonly volts?: ReadonlyMap<string, string>;
  /** By replaceable part, 0 to 1. */
  readonly belief?: ReadonlyMap<string, number>;
  /** Parts that are off the board. */
  readonly absent?: readonly string[];
  readonly onPick: (text: string) => void;
  /** What is told of a net that one points at or goes to; undefined where nothing is known. */
  readonly tell?: (net: string) => Promise<string | undefined>;
  /** Further things to press, in the bar above. */
  readonly children?: ReactNode;
  /** What is pressed rarely, behind a button of the bar. */
  readonly more?: ReactNode;
}

/**
 * The drawing is never shown smaller than this, or its letters could not be read: it scrolls
 * instead.
 */
const LEAST_SCALE = 0.8;
/** A few parts are not blown up beyond this: the eye loses the net that it followed. */
const MOST_SCALE = 1.2;
/** How far the drawing is made smaller and larger by hand. */
const ZOOM = { min: 0.5, max: 3 } as const;

const NOTHING: ReadonlySet<string> = new Set();
const NO_FLAGS: ReadonlyMap<string, FlagWords> = new Map();
const NO_VOLTS: ReadonlyMap<string, string> = new Map();
const NO_BELIEF: ReadonlyMap<string, number> = new Map();
const NONE: readonly string[] = [];

/**
 * A sheet or a part of it, drawn: laid out in a worker, anew only where what it shows has changed. A
 * whole sheet is paged through by areas.
 */
export function Drawing({
  title,
  scope,
  index,
  refs,
  at,
  probed = NOTHING,
  flags = NO_FLAGS,
  volts = NO_VOLTS,
  belief = NO_BELIEF,
  absent = NONE,
  onPick,
  tell,
  children,
  more,
}: Props) {
  const { told, point } = useTold(tell);
  const [zoom, setZoom] = useState(1);
  const [packages, setPackages] = useState(false);
  const [printing, setPrinting] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const view = useMemo(
    (): View => ({ index, refs, probed, flags, volts, packages }),
    [index, refs, probed, flags, volts, packages],
  );
  const areas = useAreas(view);
  const [turned, setTurned] = useState(0);
  const area = Math.min(turned, Math.max(0, areas.length - 1));
  const { layout, failed } = useLayout(view, areas, area);
  const frame = useRef<HTMLDivElement>(null);
  const zoomNow = useRef(zoom);
  zoomNow.current = zoom;
  const enlarge = (times: number): void =>
    setZoom((z) => Math.min(ZOOM.max, Math.max(ZOOM.min, z * times)));
  const turn = (by: number): void => setTurned(Math.min(areas.length - 1, Math.max(0, area + by)));

  // What the cursor or a search is on is turned to.
  useEffect(() => {
    if (at === undefined) return;
    const found = areas.findIndex(({ keys }) =>
      [...keys].some((key) => key === at || key.startsWith(`${at}.`)),
    );
    if (found >= 0) setTurned(found);
  }, [at, areas]);

  // Two fingers, and a wheel with Ctrl, enlarge the drawing and not the page.
  usePinch(({ offset: [scale] }) => setZoom(scale), {
    target: frame,
    eventOptions: { passive: false },
    scaleBounds: ZOOM,
    from: () => [zoomNow.current, 0],
  });
  const isOff = useMemo(() => {
    const off = new Set(absent.map((ref) => nameKey(replaceableRef(ref))));
    return (ref: string) => off.has(nameKey(replaceableRef(ref)));
  }, [absent]);

  /** A name at the end of a lead, or the sign of where a net goes on, is pressed for itself. */
  function pressed(event: PointerAt): void {
    const target = event.target as Element;
    const onward = target.closest('[data-onward]')?.getAttribute('data-onward');
    const net = target.closest('[data-net]')?.getAttribute('data-net');
    if (onward) {
      const next = areas.findIndex(({ nets }, i) => i > area && nets.has(onward));
      const first = areas.findIndex(({ nets }) => nets.has(onward));
      if (first >= 0) setTurned(next >= 0 ? next : first);
    } else if (net) onPick(net.toLowerCase());
    else return;
    event.stopPropagation();
  }
  const pointedAt = (event: PointerAt): string | undefined =>
    (event.target as Element).closest('[data-net]')?.getAttribute('data-net') ?? undefined;

  const shown = areas[area];
  return (
    <section className={style.map} aria-label={`${title} of the circuit`}>
      <header className={style.bar}>
        <h2>{title}</h2>
        <span
          className={`${style.scope} ${areas.length > 1 ? style.ofAreas : ''}`}
          aria-live="polite"
        >
          {told ?? (areas.length > 1 ? shown?.name : scope)}
        </span>
        {areas.length > 1 && (
          <span className={style.turn} role="group" aria-label="Areas of the sheet">
            <button
              type="button"
              onClick={() => turn(-1)}
              disabled={area === 0}
              aria-label="Area before"
            >
              ‹
            </button>
            <span>
              {area + 1} of {areas.length}
            </span>
            <button
              type="button"
              onClick={() => turn(1)}
              disabled={area === areas.length - 1}
              aria-label="Next area"
            >
              ›
            </button>
          </span>
        )}
        {children}
        <button type="button" onClick={() => enlarge(1.3)} aria-label="Larger">
          +
        </button>
        <button type="button" onClick={() => enlarge(1 / 1.3)} aria-label="Smaller">
          −
        </button>
        <More label="More">
          {more}
          <Button aria-pressed={packages} onClick={() => setPackages(!packages)}>
            {packages ? 'Gates one by one' : 'Gates by package'}
          </Button>
          <Button onClick={() => setPrinting(true)} disabled={printing}>
            Print this
          </Button>
        </More>
      </header>
      {refusal && (
        <Notice look="attention" live>
          {refusal}
        </Notice>
      )}
      <div
        ref={frame}
        className={style.view}
        tabIndex={0}
        role="group"
        aria-label="Drawing. Enter goes to its first part, arrow keys from part to part, plus and minus change its size, page up and page down turn to another area"
        onKeyDown={(event) => layout && onKey(event, layout, enlarge, turn)}
        onClickCapture={pressed}
        onMouseOver={(event) => {
          const net = pointedAt(event);
          if (net) point(net);
        }}
        onMouseOut={(event) => pointedAt(event) && point(undefined)}
      >
        {failed && (
          <p className={style.failed} role="alert">
            This is too much to be drawn at once: look at a part of it.
          </p>
        )}
        {layout && !failed && (
          <DrawnSheet
            layout={layout}
            probed={probed}
            flags={flags}
            volts={volts}
            belief={belief}
            isOff={isOff}
            size={{
              width: `max(${100 * zoom}%, ${Math.round(layout.width * LEAST_SCALE * zoom)}px)`,
              maxWidth: `${Math.round(layout.width * MOST_SCALE * zoom)}px`,
              height: `max(${100 * zoom}%, ${Math.round(layout.height * LEAST_SCALE * zoom)}px)`,
            }}
            onPick={onPick}
            onPoint={point}
          />
        )}
      </div>
      {printing && (
        <PrintedSheets
          title={index.board.title}
          view={view}
          areas={areas}
          belief={belief}
          isOff={isOff}
          onDone={(words) => {
            setPrinting(false);
            setRefusal(words);
          }}
        />
      )}
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
  turn: (by: number) => void,
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
  else if (key === 'PageUp' || key === 'PageDown') turn(key === 'PageUp' ? -1 : 1);
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
