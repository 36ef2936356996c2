import { useEffect, useMemo, useState, type KeyboardEvent } from 'react';
import { chipUnits, unitWith, type CautionedStep } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { parseShorthand } from '@hanzai/core/instrument';
import { Caution } from '../../../case/Caution';
import { carryOut } from '../../../case/strip/actions';
import type { CaseState } from '../../../case/use-case';
import { Button } from '../../../ui/Button';
import type { LineUp } from '../../../workers/engine-messages';
import { cautionFor } from '../caution-for';
import { Pane } from '../Pane';
import { ChipPackage } from './ChipPackage';
import { chipsOf, pinsOf, type Chip, type PinView } from './chip-pins';
import { ChipStock } from './ChipStock';
import { PinDetail } from './PinDetail';
import style from './ChipView.module.css';

interface Props {
  readonly state: CaseState;
  readonly index: BoardIndex;
  readonly lineUp: LineUp | undefined;
  /** The caution that stands on the screen already: it is not said twice. */
  readonly said: CautionedStep | undefined;
  /** The chip in view. */
  readonly shown: string;
  readonly onShow: (ref: string | undefined) => void;
  /** Puts a point into the reading line. */
  readonly onPlace: (text: string) => void;
}

const LEVEL_KEYS = /^[01pz]$/i;

/** A chip as it sits, every pin with the level it should have and the one that was read. */
export default function ChipView({ state, index, lineUp, said, shown, onShow, onPlace }: Props) {
  const { journal, engine } = state;
  const chips = useMemo(() => chipsOf(index), [index]);
  const part = chips.find(({ ref }) => ref === shown) ?? chips[0];
  const wanted = useLevels(state);
  const [below, setBelow] = useState(false);
  const [stock, setStock] = useState(false);
  const [at, setAt] = useState<number>();
  const [refusal, setRefusal] = useState<string>();
  const pins = useMemo(
    () => (part ? pinsOf(index, journal, part, wanted) : []),
    [index, journal, part, wanted],
  );
  if (!part) return null;
  const supplies = pins.filter(({ role }) => role === 'supply' || role === 'ground');
  const unread = supplies.filter(({ read }) => read === undefined);
  const chosen = pins[at ?? (unread[0] ?? pins[0])!.at]!;

  const caution = cautionFor(index, {
    setup: 'on',
    kind: 'logic',
    at: `${part.ref}.${chosen.at + 1}`,
    to: '',
  });

  /** Files a level at the pin, and goes on to the next that is not read. */
  function file(pin: PinView, level: string): void {
    const typed = `${part!.ref}.${pin.at + 1} ${level.toLowerCase()} logic`;
    const read = parseShorthand(index, typed);
    if (!read.ok) return setRefusal(read.expected);
    const { measurement, value } = read.reading;
    const outcome = carryOut(state, { kind: 'reading', measurement, value, typed });
    setRefusal(outcome.ok ? undefined : outcome.why);
    if (outcome.ok) setAt(next(pins, pin.at));
  }

  function onKey(event: KeyboardEvent): void {
    const move = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 'across', ArrowLeft: 'across' }[
      event.key
    ] as 1 | -1 | 'across' | undefined;
    if (move !== undefined) {
      event.preventDefault();
      setAt(moved(pins.length, chosen.at, move));
    } else if (LEVEL_KEYS.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault();
      event.stopPropagation();
      if (chosen.role === 'supply' || chosen.role === 'ground')
        setRefusal('a supply pin is read in volts: V puts it into the reading line');
      else file(chosen, event.key);
    } else if (event.key === 'v' || event.key === 'V') {
      event.preventDefault();
      onPlace(`${part!.ref}.${chosen.at + 1}`);
    }
  }

  return (
    <Pane
      title="Chip"
      fills
      onClose={() => onShow(undefined)}
      tools={
        <>
          <select
            aria-label="which chip"
            className="mono"
            value={part.ref}
            onChange={(event) => {
              setAt(undefined);
              onShow(event.target.value);
            }}
          >
            {chips.map(({ ref, model }) => (
              <option key={ref} value={ref}>
                {ref} {model.name}
              </option>
            ))}
          </select>
          <span className={style.title}>{part.model.title}</span>
          <Button look="quiet" aria-pressed={below} onClick={() => setBelow(!below)}>
            {below ? 'from below' : 'from above'}
          </Button>
          <Button look="quiet" aria-pressed={stock} onClick={() => setStock(!stock)}>
            Chips and swaps
          </Button>
        </>
      }
    >
      {stock ? (
        <ChipStock state={state} index={index} lineUp={lineUp} />
      ) : (
        <div className={style.halves}>
          <div>
            {unread.length > 0 && (
              <p className={style.first}>
                Supply and ground first:{' '}
                {unread.map(({ at: pin, name }) => `pin ${pin + 1} ${name}`).join(', ')}.
              </p>
            )}
            <ChipPackage
              part={part}
              pins={pins}
              below={below}
              chosen={chosen.at}
              onChoose={setAt}
              onKey={onKey}
            />
            <p className={style.keys}>
              <kbd>0</kbd> <kbd>1</kbd> <kbd>p</kbd> <kbd>z</kbd> file a level at the pin, arrows
              move, <kbd>V</kbd> volts
            </p>
            {caution !== said && <Caution of={caution} again={said !== undefined} />}
            <p role="status" className={style.refusal}>
              {refusal ?? ''}
            </p>
          </div>
          <PinDetail
            index={index}
            journal={journal}
            part={part}
            pin={chosen}
            pins={pins}
            wanted={wanted}
            lineUp={lineUp}
            unit={unitWith(part.model, chosen.at) ?? unitOfInput(part, chosen.at)}
            onShow={onShow}
            onPlace={onPlace}
          />
        </div>
      )}
      {!engine && <p role="status">The engine is being started; levels come with it.</p>}
    </Pane>
  );
}

/** The first unit that an input belongs to. */
const unitOfInput = ({ model }: Chip, at: number) =>
  chipUnits(model).find(({ inputs }) => inputs.includes(at));

/** The next pin after one that is not read, in the order of the package; the same where all are. */
function next(pins: readonly PinView[], from: number): number {
  const order = [...pins.slice(from + 1), ...pins.slice(0, from)];
  return (order.find(({ read, net }) => read === undefined && net !== pins[from]!.net) ?? order[0])!
    .at;
}

/** Up and down along a row of pins, or across the package. */
function moved(count: number, at: number, move: 1 | -1 | 'across'): number {
  const half = Math.ceil(count / 2);
  if (move === 'across') return Math.min(count - 1, Math.max(0, count - 1 - at));
  // On the right the numbers run upwards.
  const step = at < half ? move : -move;
  const to = at + step;
  return at < half ? Math.min(half - 1, Math.max(0, to)) : Math.min(count - 1, Math.max(half, to));
}

/** The levels of a sound board, with the parts off that are off. */
function useLevels({ engine, journal }: CaseState): Readonly<Record<string, string>> {
  const [levels, setLevels] = useState<Readonly<Record<string, string>>>({});
  const absent = journal.absent.join();
  useEffect(() => {
    let wanted = true;
    engine?.door.levels(absent === '' ? [] : absent.split(',')).then(
      (all) => wanted && setLevels(all),
      // That the engine stopped is told elsewhere.
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [engine, absent]);
  return levels;
}
