import { useMemo } from 'react';
import {
  followed,
  lineHolders,
  truthTable,
  walkBack,
  type ChipUnit,
  type WalkedNet,
} from '@hanzai/core/bench';
import { supplyRails } from '@hanzai/core/device';
import { pinName, type BoardIndex } from '@hanzai/core/board';
import { Caution } from '../../../case/Caution';
import type { Journal } from '../../../case/journal';
import { minutesText, oddsWords } from '../../../case/wording';
import { Button } from '../../../ui/Button';
import type { LineUp } from '../../../workers/engine-messages';
import { partingTouches, readOnNet, type Chip, type PinView } from './chip-pins';
import style from './PinDetail.module.css';

interface Props {
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly part: Chip;
  readonly pin: PinView;
  readonly pins: readonly PinView[];
  readonly wanted: Readonly<Record<string, string>>;
  readonly lineUp: LineUp | undefined;
  readonly unit: ChipUnit | undefined;
  readonly onShow: (ref: string) => void;
  readonly onPlace: (text: string) => void;
}

/** What belongs to a pin: its unit's function, who else is on its net, and how to go on from it. */
export function PinDetail(props: Props) {
  const { part, pin, unit, index, onPlace } = props;
  return (
    <div className={style.detail} tabIndex={0} role="region" aria-label={`Pin ${pin.at + 1}`}>
      <h3>
        Pin {pin.at + 1} <span className="mono">{pin.name}</span>
      </h3>
      <OnNet {...props} />
      {pin.conflict && (
        <div className={style.conflict} role="status">
          <p>
            <b>
              By its inputs {part.ref} drives {pin.driven} here; {pin.read} was read.
            </b>{' '}
            Either this unit is dead, or something else holds the net.
          </p>
          <ol>
            {partingTouches(index, part, pin).map(({ title, tells, minutes }) => (
              <li key={title}>
                {title} <small>{minutesText(minutes)}</small>
                <small className={style.tells}>{tells}</small>
              </li>
            ))}
          </ol>
          <Caution of="before-ohms" again />
          <Caution of="iron" again />
        </div>
      )}
      {unit && <Function {...props} unit={unit} />}
      <Holders {...props} />
      <Back {...props} />
      <Button look="quiet" onClick={() => onPlace(`${part.ref}.${pin.at + 1}`)}>
        Type a reading here
      </Button>
    </div>
  );
}

function OnNet({ index, part, pin, onShow }: Props) {
  const others = (index.pinsOfNet.get(pin.net) ?? []).filter(
    (place) => !(place.part === part && place.index === pin.at),
  );
  return (
    <p>
      Net <b className="mono">{pin.net === '0' ? 'ground' : pin.net}</b>
      {others.length === 0
        ? ': nothing else on it'
        : `: with ${others.length > 6 ? `${others.length} others, among them ` : ''}`}
      {others.slice(0, 6).map(({ part: other, index: at }) => (
        <button
          key={`${other.ref}.${at}`}
          type="button"
          className={style.other}
          onClick={() => other.kind === 'chip' && onShow(other.ref)}
          disabled={other.kind !== 'chip'}
        >
          {other.ref}.{pinName(other, at)}
        </button>
      ))}
    </p>
  );
}

/** The function of the unit, with its truth table and the row that was read. */
function Function({ part, pins, unit }: Props & { unit: ChipUnit }) {
  const rows = useMemo(() => truthTable(part.model, unit), [part, unit]);
  const name = (at: number): string => part.model.pins[at]!.name;
  const read = unit.inputs.map((at) => pins[at]!.read);
  const taken = (level: string | undefined): string | undefined =>
    level === 'Z' && part.model.family.input.type === 'ttl' ? '1' : level;
  const isRead = (inputs: readonly string[]): boolean =>
    read.every((level, i) => taken(level) === inputs[i]);
  return (
    <details open={(rows?.length ?? 99) <= 8}>
      <summary>
        Function {unit.remembers ? '(it remembers: its inputs alone do not say its outputs)' : ''}
      </summary>
      <ul className={style.statements}>
        {unit.statements.map((text) => (
          <li key={text} className="mono">
            {text}
          </li>
        ))}
      </ul>
      {rows && (
        <table className={style.truth}>
          <thead>
            <tr>
              {[...unit.inputs, ...unit.outputs].map((at) => (
                <th key={at} scope="col">
                  {name(at)} <small>{at + 1}</small>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ inputs, outputs }) => (
              <tr key={inputs.join('')} className={isRead(inputs) ? style.row : undefined}>
                {inputs.map((level, i) => (
                  <td key={i}>{level}</td>
                ))}
                {outputs.map((level, i) => (
                  <td key={i} className={style.out}>
                    {level ?? '?'}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </details>
  );
}

/** Who can hold the line, with how likely each is by the readings. */
function Holders({ index, pin, lineUp }: Props) {
  const rails = useMemo(() => supplyRails(index), [index]);
  const holders = lineHolders(index, pin.net, rails);
  const chance = (ref: string): number =>
    lineUp?.entries.find((entry) => entry.ref === ref || ref.startsWith(`${entry.ref}.`))
      ?.probability ?? 0;
  const bridges = (lineUp?.entries ?? []).filter(
    ({ ref, probability }) =>
      ref.split('~').length === 2 && ref.split('~').includes(pin.net) && probability > 0.001,
  );
  if (pin.role === 'supply' || pin.role === 'ground' || holders.length === 0) return null;
  return (
    <details>
      <summary>Who can hold this line</summary>
      <ul className={style.holders}>
        {holders.slice(0, 12).map(({ ref, pin: name, how }) => (
          <li key={`${ref}.${name}`}>
            <b className="mono">
              {ref}.{name}
            </b>{' '}
            {how === 'outside' ? 'what is plugged in there' : how}{' '}
            <small>{oddsWords(chance(ref))}</small>
          </li>
        ))}
        {bridges.map(({ ref, probability }) => (
          <li key={ref}>
            <b className="mono">{ref.replace('~', ' to ')}</b> solder between them{' '}
            <small>{oddsWords(probability)}</small>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The way back from an output through what was read wrong. */
function Back({ index, journal, pin, wanted, onPlace }: Props) {
  const walked = useMemo(
    () =>
      walkBack(index, pin.net, (net) => ({ read: readOnNet(journal, net), wanted: wanted[net] })),
    [index, journal, pin.net, wanted],
  );
  if (walked.drivers.length === 0) return null;
  const end = followed(walked);
  return (
    <details open={walked.state === 'wrong'}>
      <summary>Walk back from here</summary>
      <p role="status">
        {end.kind === 'found' &&
          (end.ref === ''
            ? `${end.net} is wrong and no chip drives it: look at what else is on it.`
            : `${end.ref} pin ${end.pin}: its inputs are right and ${end.net} is not. It, or something that holds ${end.net}.`)}
        {end.kind === 'none' && 'Nothing wrong was read on the way.'}
        {end.kind === 'read' && (
          <>
            Read <b className="mono">{end.net}</b> next.{' '}
            <Button look="quiet" onClick={() => onPlace(end.net)}>
              Type it
            </Button>
          </>
        )}
      </p>
      <Walked walked={walked} />
    </details>
  );
}

const STATE_WORDS: Readonly<Record<WalkedNet['state'], string>> = {
  right: 'right',
  wrong: 'wrong',
  unread: 'not read',
  open: '',
};

function Walked({ walked: { net, state, read, wanted, drivers } }: { walked: WalkedNet }) {
  return (
    <ul className={style.walk}>
      <li>
        <b className="mono">{net}</b> {read ?? ''}{' '}
        <small>
          {STATE_WORDS[state]}
          {wanted !== undefined && state !== 'right' ? `, should be ${wanted}` : ''}
        </small>
        {drivers.map(({ ref, pin, inputs }) => (
          <div key={`${ref}.${pin}`}>
            <small>
              driven by {ref}.{pin}
            </small>
            {inputs.map((input) => (
              <Walked key={input.net} walked={input} />
            ))}
          </div>
        ))}
      </li>
    </ul>
  );
}
