import { useEffect, useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import type { Area } from './areas';
import { DrawnSheet } from './DrawnSheet';
import style from './PrintedSheets.module.css';
import { layoutDrawing, type DrawingLayout } from './layout';
import { wantedOf, type View } from './use-layout';

interface Props {
  readonly title: string;
  readonly view: View;
  /** Empty where a part of a sheet is shown: that is one page. */
  readonly areas: readonly Area[];
  readonly belief: ReadonlyMap<string, number>;
  readonly isOff: (ref: string) => boolean;
  readonly onDone: (refusal?: string) => void;
}

const nothing = (): void => undefined;

/**
 * The drawing on paper, a page an area: laid out, given to the browser's print dialog, and gone
 * again.
 */
export function PrintedSheets({ title, view, areas, belief, isOff, onDone }: Props) {
  const [pages, setPages] = useState<readonly DrawingLayout[]>();
  const date = useMemo(() => new Date().toISOString().slice(0, 10), []);
  useEffect(() => {
    const numbers = areas.length > 0 ? areas.map((_, i) => i) : [0];
    let stale = false;
    Promise.all(numbers.map((area) => layoutDrawing(view.index, wantedOf(view, areas, area)))).then(
      (all) => !stale && setPages(all),
      () => !stale && onDone('This is too much to be drawn at once: print a part of it.'),
    );
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is printed is what was shown when it was asked for
  }, []);
  useEffect(() => {
    if (!pages) return;
    window.print();
    onDone();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the pages are there
  }, [pages]);
  if (!pages) return null;
  return createPortal(
    <div className={style.sheets}>
      {pages.map((layout, i) => (
        <section key={i} className={style.sheet}>
          <h2>
            {title}
            {areas[i] && ` · area ${i + 1} of ${areas.length}: ${areas[i].name}`}
            <span>{date}</span>
          </h2>
          <DrawnSheet
            layout={layout}
            probed={view.probed}
            flags={view.flags}
            volts={view.volts}
            belief={belief}
            isOff={isOff}
            size={{}}
            onPick={nothing}
            onPoint={nothing}
          />
        </section>
      ))}
    </div>,
    document.body,
  );
}
