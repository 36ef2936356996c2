import type { KeyboardEvent } from 'react';
import type { Chip, PinView } from './chip-pins';
import style from './ChipPackage.module.css';

/** The package with its pins, from above or, mirrored, from the solder side. */
export function ChipPackage({
  part,
  pins,
  below,
  chosen,
  onChoose,
  onKey,
}: {
  part: Chip;
  pins: readonly PinView[];
  below: boolean;
  chosen: number;
  onChoose: (at: number) => void;
  onKey: (event: KeyboardEvent) => void;
}) {
  const half = Math.ceil(pins.length / 2);
  const [down, up] = [pins.slice(0, half), pins.slice(half).reverse()];
  const [left, right] = below ? [up, down] : [down, up];
  return (
    <div
      className={style.package}
      role="listbox"
      tabIndex={0}
      aria-label={`${part.ref} ${part.model.name}, seen from ${below ? 'below' : 'above'}`}
      aria-activedescendant={`pin-${part.ref}-${chosen}`}
      onKeyDown={onKey}
    >
      <Side {...{ part, chosen, onChoose }} pins={left} side="left" />
      <div className={style.body} aria-hidden>
        <span className={style.notch} />
        <b>{part.ref}</b>
        <small>{part.model.name}</small>
        <small>{below ? 'from below' : 'from above'}</small>
      </div>
      <Side {...{ part, chosen, onChoose }} pins={right} side="right" />
    </div>
  );
}

function Side({
  part,
  pins,
  side,
  chosen,
  onChoose,
}: {
  part: Chip;
  pins: readonly PinView[];
  side: 'left' | 'right';
  chosen: number;
  onChoose: (at: number) => void;
}) {
  return (
    <div className={`${style.side} ${style[side]}`} role="group">
      {pins.map((pin) => (
        <div
          key={pin.at}
          id={`pin-${part.ref}-${pin.at}`}
          role="option"
          aria-selected={pin.at === chosen}
          aria-label={pinWords(pin)}
          className={`${style.pin} ${pin.conflict ? style.conflict : ''}`}
          onClick={() => onChoose(pin.at)}
        >
          <span className={style.number}>{pin.at + 1}</span>
          <span className={style.name}>{pin.name}</span>
          <span className={style.net}>{pin.net === '0' ? 'ground' : pin.net}</span>
          <span className={style.levels}>
            <b>{pin.read ?? '·'}</b>
            <small>{pin.wanted ?? ''}</small>
          </span>
        </div>
      ))}
    </div>
  );
}

/** A pin in words, for who does not see the package. */
export function pinWords({ at, name, net, read, wanted, conflict }: PinView): string {
  return [
    `pin ${at + 1} ${name}`,
    net === '0' ? 'ground' : `net ${net}`,
    wanted === undefined ? '' : `should be ${wanted}`,
    read === undefined ? 'not read' : `read ${read}`,
    conflict ? 'conflict' : '',
  ]
    .filter(Boolean)
    .join(', ');
}
