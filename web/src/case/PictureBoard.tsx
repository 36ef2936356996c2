import { usePictureSource } from './picture-source';
import style from './Pictures.module.css';

/** A place on a picture, 0 to 1 from left and top. */
export interface Mark {
  readonly x: number;
  readonly y: number;
  readonly fresh?: boolean;
}

/**
 * A picture with numbered marks on it; a tap says where. With the keyboard the place is moved by
 * the arrow keys.
 */
export function PictureBoard({
  picture,
  title,
  marks,
  onPlace,
}: {
  picture: string;
  title: string;
  marks: readonly Mark[];
  onPlace?: (place: { x: number; y: number }) => void;
}) {
  const source = usePictureSource(picture);
  const fresh = marks.find((mark) => mark.fresh);
  const move = (dx: number, dy: number): void => {
    const from = fresh ?? { x: 0.5, y: 0.5 };
    onPlace?.({
      x: Math.min(1, Math.max(0, from.x + dx)),
      y: Math.min(1, Math.max(0, from.y + dy)),
    });
  };
  const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
    ArrowLeft: [-0.02, 0],
    ArrowRight: [0.02, 0],
    ArrowUp: [0, -0.02],
    ArrowDown: [0, 0.02],
  };
  return (
    <div
      className={style.board}
      role={onPlace ? 'application' : undefined}
      aria-label={onPlace ? `${title}: tap a place, or move it with the arrow keys` : title}
      tabIndex={onPlace ? 0 : undefined}
      onKeyDown={(event) => {
        const step = ARROWS[event.key];
        if (!step || !onPlace) return;
        event.preventDefault();
        move(...step);
      }}
      onClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        onPlace?.({
          x: (event.clientX - box.left) / box.width,
          y: (event.clientY - box.top) / box.height,
        });
      }}
    >
      <img src={source} alt={title} draggable={false} />
      {marks.map((mark, i) => (
        <span
          key={i}
          className={mark.fresh ? style.fresh : style.pin}
          style={{ left: `${100 * mark.x}%`, top: `${100 * mark.y}%` }}
        >
          {mark.fresh ? '' : i + 1}
        </span>
      ))}
    </div>
  );
}
