import { memo, useEffect, useMemo, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { nameKey, replaceableRef } from '@hanzai/core/board';
import type { Journal } from '../../case/journal';
import type { LineUp, Proposal } from '../../workers/engine-messages';
import style from './CircuitMap.module.css';
import { flagsOf, flagWidth } from './map-flags';
import { partsInQuestion, probedNets } from './map-focus';
import { layoutMap, type MapLayout } from './map-layout';
import { Flag, Hatch, hatchId, NetBar, PartBox } from './MapMarks';

interface Props {
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly lineUp: LineUp | undefined;
  readonly proposal: Proposal | undefined;
  readonly onPick: (text: string) => void;
}

/**
 * The drawing is never shown smaller than this, or its letters could not be read: it scrolls
 * instead.
 */
const LEAST_SCALE = 0.78;
/** A few parts are not blown up beyond this: the eye loses the net that it followed. */
const MOST_SCALE = 1.3;

/**
 * The circuit around the question: suspects hatched by belief, readings pinned as flags, the next
 * points marked. Drawn anew only where what it shows has changed: not at every step of the engine.
 */
export const CircuitMap = memo(function CircuitMap({
  index,
  journal,
  lineUp,
  proposal,
  onPick,
}: Props) {
  const [whole, setWhole] = useState(false);
  const [zoom, setZoom] = useState(1);
  const [layout, setLayout] = useState<MapLayout>();
  const refs = useMemo(
    () => (whole ? undefined : partsInQuestion(index, lineUp, proposal, journal)),
    [whole, index, lineUp, proposal, journal],
  );
  const probed = useMemo(() => probedNets(proposal, index), [proposal, index]);
  const flags = useMemo(() => flagsOf(journal, lineUp), [journal, lineUp]);
  const key = `${refs ? [...refs].sort().join() : '*'} ${[...probed].join()} ${[...flags].map(([net, words]) => `${net}=${Math.round(flagWidth(words))}`).join()}`;
  useEffect(() => {
    let stale = false;
    void layoutMap(index, refs, new Set([...probed, ...flags.keys()]), (net) =>
      flagWidth(flags.get(net)),
    ).then((result) => {
      if (!stale) setLayout(result);
    });
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for refs, probed nets and flags by value
  }, [index, key]);
  const belief = useMemo(
    () => new Map(lineUp?.entries.map((entry) => [entry.ref, entry.probability])),
    [lineUp],
  );

  return (
    <section className={style.map} aria-label="Map of the circuit">
      <header className={style.bar}>
        <h2>Map</h2>
        <span className={style.scope}>{whole ? 'the whole sheet' : 'around the question'}</span>
        <button type="button" onClick={() => setWhole(!whole)} aria-pressed={whole}>
          {whole ? 'Around the question' : 'Whole sheet'}
        </button>
        <button
          type="button"
          onClick={() => setZoom((z) => Math.min(3, z * 1.3))}
          aria-label="Larger"
        >
          +
        </button>
        <button
          type="button"
          onClick={() => setZoom((z) => Math.max(0.5, z / 1.3))}
          aria-label="Smaller"
        >
          −
        </button>
      </header>
      <div
        className={style.view}
        tabIndex={0}
        role="group"
        aria-label="Drawing, scroll with the arrow keys"
      >
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
                <Hatch
                  key={part.ref}
                  id={hatchId(part.ref)}
                  share={belief.get(replaceableRef(part.ref)) ?? 0}
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
              <PartBox
                key={part.ref}
                part={part}
                belief={belief.get(replaceableRef(part.ref)) ?? 0}
                off={journal.absent.some(
                  (ref) => nameKey(ref) === nameKey(replaceableRef(part.ref)),
                )}
                onPick={onPick}
              />
            ))}
            {layout.nets.map((net) => (
              <NetBar key={net.net} place={net} next={probed.has(net.net)} onPick={onPick} />
            ))}
            {layout.nets.map((net) => (
              <Flag key={net.net} place={net} words={flags.get(net.net)} />
            ))}
          </svg>
        )}
      </div>
    </section>
  );
});
