import { useEffect, useMemo, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { areasOf, otherAreas, type Area } from './areas';
import { flagWidth, voltsWidth, type FlagWords } from './flags';
import { layoutDrawing, type DrawingLayout, type Wanted } from './layout';

/** What a drawing shows, as its parts are told by whoever draws it. */
export interface View {
  readonly index: BoardIndex;
  /** drawnRefs to draw; undefined draws the whole sheet, area by area. */
  readonly refs: ReadonlySet<string> | undefined;
  readonly probed: ReadonlySet<string>;
  readonly flags: ReadonlyMap<string, FlagWords>;
  /** What nets would have, on the board that is asked about. */
  readonly volts: ReadonlyMap<string, string>;
  readonly packages: boolean;
}

/** What is laid out of a view: of a whole sheet the area with this number, from 0. */
export function wantedOf(
  { refs, probed, flags, volts, packages }: View,
  areas: readonly Area[],
  area: number,
): Wanted {
  const onBars = new Set([...probed, ...flags.keys()]);
  const shown = areas[area];
  return {
    refs,
    packages,
    // A mark on a net of another area is drawn there.
    marked: shown ? new Set([...onBars].filter((net) => shown.nets.has(net))) : onBars,
    flagWidth: (net) =>
      flagWidth(flags.get(net)) + voltsWidth(volts.get(net)) + (probed.has(net) ? 26 : 0),
    ...(shown && { keys: shown.keys, goesOn: (net) => otherAreas(areas, area, net) }),
  };
}

/** The areas of a whole sheet; none where a part of it is shown. */
export function useAreas({ index, refs, packages }: View): readonly Area[] {
  return useMemo(() => (refs ? [] : areasOf(index, packages)), [index, refs, packages]);
}

/** The layout of what is shown; the one before stays until the new one is there. */
export function useLayout(
  view: View,
  areas: readonly Area[],
  area: number,
): { readonly layout: DrawingLayout | undefined; readonly failed: boolean } {
  const [layout, setLayout] = useState<DrawingLayout>();
  const [failed, setFailed] = useState(false);
  const { index, refs, flags, volts, probed, packages } = view;
  const shown = refs ? [...refs].sort().join() : '*';
  const pinned = [...flags].map(([net, words]) => `${net}=${Math.round(flagWidth(words))}`).join();
  const asked = [...volts].map(([net, shown]) => `${net}=${shown.length}`).join();
  useEffect(() => {
    let stale = false;
    layoutDrawing(index, wantedOf(view, areas, area)).then(
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
  }, [index, shown, pinned, [...probed].join(), areas, area, packages, asked]);
  return { layout, failed };
}
