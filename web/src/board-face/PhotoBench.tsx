import { useQuery } from '@tanstack/react-query';
import { useMemo, useState, type KeyboardEvent } from 'react';
import { z } from 'zod';
import {
  applyAffine,
  alignPicture,
  changePartLines,
  footprintOf,
  invertAffine,
  nameKey,
  partLines,
  pinPlaces,
  usualPackage,
  worstTie,
  type Board,
  type Tie,
  type Turn,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { EntryForm } from '../form/EntryForm';
import { typedNumber, within } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import { ask, whyNot, withBody } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Field } from '../ui/Field';
import { Actions, FormRow } from '../ui/FormRow';
import { Notice } from '../ui/Notice';
import { TextField } from '../ui/TextField';
import { BoardFace } from './BoardFace';
import {
  type BoardPicture,
  boardPicturesQuery,
  pictureHref,
  pictureOf,
  sendBoardPicture,
  type Side,
} from './board-pictures';
import { boardFrame, cornersOf } from './face';
import { Markings } from './Markings';
import style from './PhotoBench.module.css';

const OutlineTyped = z.object({
  width: typedNumber({
    fits: within(0, 2000),
    words: 'no width; expected millimetres such as 160',
  }),
  height: typedNumber({
    fits: within(0, 2000),
    words: 'no height; expected millimetres such as 110',
  }),
});

/**
 * The board by position, made from its picture: the picture is laid on the outline by three corners,
 * then parts are tapped onto it one after the other. Each place stands on the line of its part.
 */
export function PhotoBench({
  text,
  board,
  boardId,
  onChange,
}: {
  text: string;
  board: Board;
  /** The id under which the sheet is stored; undefined where it is not yet. */
  boardId: string | undefined;
  onChange: (text: string) => void;
}) {
  const { queries } = store();
  const { data: pictures = [] } = useQuery(boardPicturesQuery(boardId ?? ''), queries);
  const [side, setSide] = useState<Side>('top');
  const [tapped, setTapped] = useState<readonly Tie[]>();
  const [chosen, setChosen] = useState<string>();
  const [turn, setTurn] = useState<Turn>(0);
  const [named, setNamed] = useState<Readonly<Record<string, string>>>({});
  const [failure, setFailure] = useState<string>();
  const picture = pictureOf(pictures, side);
  const frame = boardFrame(board);
  const lines = useMemo(() => partLines(text), [text]);
  const unplaced = lines.filter(({ attributes }) => !attributes.has('pos'));
  const line = lines.find(({ ref }) => chosen !== undefined && nameKey(ref) === nameKey(chosen));
  const next = line ?? unplaced[0];
  const part = board.parts.find(({ ref }) => next && nameKey(ref) === nameKey(next.ref));
  const called =
    next && (named[next.ref] ?? next.attributes.get('package') ?? (part ? usualPackage(part) : ''));

  async function keep(file: File | undefined): Promise<void> {
    if (!file || boardId === undefined) return;
    try {
      await sendBoardPicture(boardId, side, file);
      await queries.invalidateQueries({ queryKey: ['board-pictures', boardId] });
      setFailure(undefined);
      setTapped([]);
    } catch (error) {
      setFailure(whyNot(error));
    }
  }
  async function tie(ties: readonly Tie[]): Promise<void> {
    if (!alignPicture(ties)) {
      setFailure('these three lie on one line: tap three corners of the board');
      return setTapped([]);
    }
    try {
      await ask(`/api/board-pictures/${picture!.id}`, z.unknown(), withBody('PATCH', { ties }));
      await queries.invalidateQueries({ queryKey: ['board-pictures', boardId] });
      setFailure(undefined);
      setTapped(undefined);
    } catch (error) {
      setFailure(whyNot(error));
    }
  }
  function put(ref: string, attributes: Readonly<Record<string, string>>): void {
    const { text: changed, refused } = changePartLines(text, [ref], { attributes }, LIBRARY);
    if (refused[0]) return setFailure(`${ref}: ${refused[0].why}`);
    setFailure(undefined);
    onChange(changed);
  }
  function place([x, y]: readonly [number, number], turned = turn, as = called): void {
    if (!next) return;
    const at = [round(x), round(y)] as const;
    // An array's line stands for its elements, whose pins are not one package's.
    const shape = part && as ? footprintOf(as, part.pins.length) : undefined;
    put(next.ref, {
      pos: at.join(','),
      pins: shape
        ? pinPlaces(shape, at, turned, side)
            .map((pin) => pin.join(','))
            .join(';')
        : '',
      side: side === 'bottom' ? 'bottom' : '',
      ...(as ? { package: as } : {}),
    });
    // The next one without a place comes by itself; one that was chosen stays in hand.
    if (line === undefined) setTurn(0);
  }
  const placeOf = (): readonly [number, number] | undefined => {
    const at = next?.attributes.get('pos')?.split(',').map(Number);
    return at && at.length === 2 ? [at[0]!, at[1]!] : undefined;
  };
  function turnIt(): void {
    const turned = ((turn + 1) % 4) as Turn;
    setTurn(turned);
    const at = placeOf();
    if (at && line) place(at, turned);
  }
  function keys(event: KeyboardEvent): void {
    if ((event.target as Element).closest('input, select')) return;
    if (event.key === 'r') turnIt();
    else if (event.key === 'Escape') setChosen(undefined);
    else if (event.key === 'Delete' && line) put(line.ref, { pos: '', pins: '' });
    else return;
    event.preventDefault();
  }

  if (!frame || (!board.outlineMm && picture))
    return <Outline onOutline={(words) => onChange(`${words}\n${text}`)} />;
  if (tapped && picture && board.outlineMm)
    return (
      <CornerTaps
        picture={picture}
        corners={cornersOf(board, side)}
        tapped={tapped}
        onTap={(ties) => (ties.length < 3 ? setTapped(ties) : void tie(ties))}
        onLeave={() => setTapped(undefined)}
      />
    );
  const affine = picture && alignPicture(picture.ties);
  const at = placeOf();
  return (
    <div className={style.bench} onKeyDown={keys}>
      <div className={style.tools}>
        <Actions>
          <Button
            aria-pressed={side === 'bottom'}
            onClick={() => setSide(side === 'top' ? 'bottom' : 'top')}
          >
            {side === 'top' ? 'Turn it over' : 'Back to the top'}
          </Button>
          {boardId === undefined ? (
            <small>Store the sheet first: then its board takes a picture.</small>
          ) : (
            <label className={style.file}>
              {picture ? 'Another picture' : `Picture of the ${side}`}
              <input
                type="file"
                accept="image/jpeg,image/png,image/webp"
                onChange={(event) => {
                  void keep(event.target.files?.[0]);
                  event.target.value = '';
                }}
              />
            </label>
          )}
          {picture && <Button onClick={() => setTapped([])}>Lay it on the board</Button>}
        </Actions>
        {failure && (
          <Notice look="attention" live>
            {failure}
          </Notice>
        )}
        {lines.length > 0 && (
          <FormRow>
            <Field id="place-part" label="Part in hand">
              <select
                id="place-part"
                value={line?.ref ?? ''}
                onChange={(event) => {
                  setChosen(event.target.value || undefined);
                  setTurn(0);
                }}
              >
                <option value="">
                  {unplaced[0]
                    ? `next without a place: ${unplaced[0].ref}`
                    : 'none: all have a place'}
                </option>
                {lines.map(({ ref, attributes }) => (
                  <option key={ref} value={ref}>
                    {ref}
                    {attributes.has('pos') ? ', placed' : ''}
                  </option>
                ))}
              </select>
            </Field>
            <TextField
              id="place-package"
              label="Package"
              className="mono"
              value={called ?? ''}
              disabled={!next}
              onChange={(event) => {
                if (next) setNamed({ ...named, [next.ref]: event.target.value });
                if (line && at) place(at, turn, event.target.value);
              }}
            />
            <Button onClick={turnIt} disabled={!next}>
              Turn it (R)
            </Button>
          </FormRow>
        )}
        <p role="status" className={style.says}>
          {next && (line !== undefined || unplaced.length > 0)
            ? `${at ? 'Tap where' : 'Tap the middle of'} ${next.ref}${at ? ' goes, or move it by the arrow keys' : ''}: ${unplaced.length} of ${lines.length} without a place`
            : 'Every part has its place. Choose one to move it.'}
          {affine && worstTie(affine, picture.ties) > 1 && '. The picture is more than 1 mm off'}
        </p>
        {picture && affine && at && next && (
          <Markings
            key={next.ref}
            of={next.ref}
            picture={picture}
            at={applyAffine(invertAffine(affine), at)}
            mm={Math.hypot(affine.a, affine.b)}
            onTake={(words) => {
              const { text: changed, refused } = changePartLines(
                text,
                [next.ref],
                { words },
                LIBRARY,
              );
              if (refused[0]) setFailure(`${next.ref}: ${refused[0].why}`);
              else onChange(changed);
            }}
          />
        )}
      </div>
      <div className={style.face}>
        <BoardFace
          board={board}
          side={side}
          picture={picture}
          chosen={line?.ref}
          label={`The board, ${side} side: tap where the part in hand is, or move it by the arrow keys`}
          onPick={(ref) => {
            const own = lines.find((one) => nameKey(one.ref) === nameKey(ref));
            setChosen(own?.ref ?? ref);
            setTurn(0);
          }}
          onPlace={place}
          onMove={(dx, dy) => {
            const from = at ?? [frame.x + frame.width / 2, frame.y + frame.height / 2];
            place([from[0] + dx, from[1] + dy]);
            if (next) setChosen(next.ref);
          }}
        />
      </div>
    </div>
  );
}

const round = (mm: number): number => Math.round(mm * 10) / 10;

/** How large the board is, where nobody has said. */
function Outline({ onOutline }: { onOutline: (line: string) => void }) {
  const entry = useEntryForm(
    OutlineTyped,
    { width: '', height: '' },
    {
      enter: ({ width, height }) => {
        onOutline(`outline ${width} x ${height}`);
        return undefined;
      },
    },
  );
  return (
    <div className={style.outline}>
      <Notice title="How large is the board?">
        With its outline parts get a place on it, and a picture can be laid under them. Measure the
        board; a tenth of a millimetre does not matter.
      </Notice>
      <EntryForm label="Outline" entry={entry}>
        <FormRow>
          <TextField id="outline-width" label="Width, mm" {...entry.field('width')} />
          <TextField id="outline-height" label="Height, mm" {...entry.field('height')} />
          <Button type="submit" look="main">
            That is its outline
          </Button>
        </FormRow>
      </EntryForm>
    </div>
  );
}

/** The corners of the board, tapped on its picture one after the other. */
function CornerTaps({
  picture,
  corners,
  tapped,
  onTap,
  onLeave,
}: {
  picture: BoardPicture;
  corners: ReturnType<typeof cornersOf>;
  tapped: readonly Tie[];
  onTap: (ties: readonly Tie[]) => void;
  onLeave: () => void;
}) {
  const [cursor, setCursor] = useState({ x: 0.5, y: 0.5 });
  const corner = corners[tapped.length]!;
  const tap = (x: number, y: number): void =>
    onTap([...tapped, { onPicture: [x, y], onBoard: [...corner.onBoard] }]);
  const move = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 0.05 : 0.01;
    const by = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    }[event.key];
    if (event.key === 'Enter') tap(cursor.x, cursor.y);
    else if (by)
      setCursor(({ x, y }) => ({
        x: Math.min(1, Math.max(0, x + by[0]!)),
        y: Math.min(1, Math.max(0, y + by[1]!)),
      }));
    else return;
    event.preventDefault();
  };
  return (
    <div className={style.taps}>
      <p role="status">
        <b>Tap {corner.words}</b> ({tapped.length + 1} of 3); with the keyboard the arrow keys move
        the mark and Enter sets it.{' '}
        <Button look="quiet" onClick={onLeave}>
          Leave it
        </Button>
      </p>
      <div
        className={style.photo}
        role="application"
        tabIndex={0}
        aria-label={`Picture of the ${picture.side}: tap ${corner.words}`}
        onKeyDown={move}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          tap((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
        }}
        style={{ aspectRatio: `${picture.widthPx} / ${picture.heightPx}` }}
      >
        <img src={pictureHref(picture.id)} alt="" draggable={false} />
        {[...tapped.map(({ onPicture: [x, y] }) => ({ x, y })), cursor].map(({ x, y }, i) => (
          <span
            key={i}
            className={i < tapped.length ? style.tie : style.cursor}
            style={{ left: `${100 * x}%`, top: `${100 * y}%` }}
          >
            {i < tapped.length ? i + 1 : ''}
          </span>
        ))}
      </div>
    </div>
  );
}
