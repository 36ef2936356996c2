import type { BoardIndex } from '@hanzai/core/board';
import type { ReadingKind } from '@hanzai/core/instrument';
import type { Journal } from '../../case/journal';
import { pointsText, SKIP_WORDS } from '../../case/wording';
import { Button } from '../../ui/Button';
import type { Limits } from '../../workers/engine-messages';
import { isLimited, NO_LIMITS } from './use-limits';
import style from './Bounds.module.css';

/** Instruments, and what each of them reads. */
const INSTRUMENTS: readonly (readonly [string, readonly ReadingKind[]])[] = [
  ['meter', ['voltage', 'resistance', 'continuity', 'diode']],
  ['ESR meter', ['esr']],
  ['logic probe', ['logic']],
  ['eyes and ears', ['symptom']],
];

/**
 * What may be proposed: instruments at hand, power, the side of the board that lies up, and what was
 * not taken before. onAgain: proposes a reading again that was skipped.
 */
export function Bounds({
  index,
  journal,
  limits,
  onLimits,
  onAgain,
}: {
  index: BoardIndex;
  journal: Journal;
  limits: Limits;
  onLimits: (limits: Limits) => void;
  onAgain: (entry: string) => void;
}) {
  const held = isLimited(limits) || journal.skips.length > 0;
  const toggle = (kinds: readonly ReadingKind[]): void =>
    onLimits({
      ...limits,
      kinds: kinds.every((kind) => limits.kinds.includes(kind))
        ? limits.kinds.filter((kind) => !kinds.includes(kind))
        : [...new Set([...limits.kinds, ...kinds])],
    });
  return (
    <details className={style.bounds}>
      <summary>What may be proposed{held && ' (not everything)'}</summary>
      <fieldset>
        <legend>At hand</legend>
        {INSTRUMENTS.map(([name, kinds]) => (
          <label key={name}>
            <input
              type="checkbox"
              checked={kinds.every((kind) => limits.kinds.includes(kind))}
              onChange={() => toggle(kinds)}
            />{' '}
            {name}
          </label>
        ))}
      </fieldset>
      <label>
        Power{' '}
        <select
          value={limits.power}
          onChange={(event) =>
            onLimits({ ...limits, power: event.target.value as Limits['power'] })
          }
        >
          <option value="any">on or off</option>
          <option value="off">off only</option>
          <option value="on">on only</option>
        </select>
      </label>
      <label>
        Side up{' '}
        <select
          value={limits.side}
          onChange={(event) => onLimits({ ...limits, side: event.target.value as Limits['side'] })}
        >
          <option value="any">either</option>
          <option value="top">top</option>
          <option value="bottom">bottom</option>
        </select>
      </label>
      <label>
        <input
          type="checkbox"
          checked={limits.open}
          onChange={(event) => onLimits({ ...limits, open: event.target.checked })}
        />{' '}
        only what is open already
      </label>
      <label>
        <input
          type="checkbox"
          checked={!limits.solder}
          onChange={(event) => onLimits({ ...limits, solder: !event.target.checked })}
        />{' '}
        no soldering
      </label>
      {isLimited(limits) && (
        <Button look="quiet" onClick={() => onLimits(NO_LIMITS)}>
          Everything again
        </Button>
      )}
      {journal.skips.length > 0 && (
        <ul aria-label="Not taken">
          {journal.skips.map(({ id, body: { at, to, why } }) => (
            <li key={id}>
              <span className="mono">{pointsText(index, at, to)}</span> {SKIP_WORDS[why]}{' '}
              <Button look="quiet" onClick={() => onAgain(id)} aria-label={`Propose ${at} again`}>
                Propose again
              </Button>
            </li>
          ))}
        </ul>
      )}
    </details>
  );
}
