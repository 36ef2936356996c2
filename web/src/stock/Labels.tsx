import QRCode from 'qrcode';
import { useEffect, useState } from 'react';
import { Printed } from '../ui/Printed';
import type { Lot } from './stock';
import style from './Stock.module.css';

export interface Label {
  readonly title: string;
  readonly lines: readonly string[];
  /** What the QR code says. */
  readonly code: string;
}

export const labelOf = (lot: Lot, origin: string): Label => ({
  title: lot.text,
  lines: [lot.bin && `bin ${lot.bin}`, lot.supplier, lot.boughtOn ?? '', lot.donor].filter(Boolean),
  code: `${origin}/stock?lot=${lot.id}`,
});

/** Labels for bags and bins, printed as soon as their codes are drawn. */
export function PrintedLabels({
  labels,
  onDone,
}: {
  readonly labels: readonly Label[];
  readonly onDone: () => void;
}) {
  const [codes, setCodes] = useState<readonly string[]>();
  useEffect(() => {
    let wanted = true;
    void Promise.all(
      labels.map(({ code }) => QRCode.toDataURL(code, { margin: 1, width: 160 })),
    ).then((drawn) => wanted && setCodes(drawn));
    return () => {
      wanted = false;
    };
  }, [labels]);
  if (!codes) return null;
  return (
    <Printed onDone={onDone}>
      <div className={style.labels}>
        {labels.map(({ title, lines }, i) => (
          <div key={i} className={style.label}>
            <img src={codes[i]} alt="" />
            <div>
              <strong>{title}</strong>
              {lines.map((line) => (
                <div key={line}>{line}</div>
              ))}
            </div>
          </div>
        ))}
      </div>
    </Printed>
  );
}

export function Labels({ lots, onDone }: { lots: readonly Lot[]; onDone: () => void }) {
  const [labels] = useState(() => lots.map((lot) => labelOf(lot, window.location.origin)));
  return <PrintedLabels labels={labels} onDone={onDone} />;
}
