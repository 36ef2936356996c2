import type { BoardIndex } from '@hanzai/core/board';
import { Caution } from '../../case/Caution';
import { KIND_WORDS, minutesText, pointsText, setupWords, valueText } from '../../case/wording';
import { Button } from '../../ui/Button';
import type { LineUp, Proposal } from '../../workers/engine-messages';
import { cautionFor } from './caution-for';
import type { RunningSequence } from './use-sequence';
import style from './SequenceCard.module.css';

/**
 * A ready list that is being gone through: the step at hand in large, what was read of the others,
 * and where one is off the next good thing to do.
 */
export function SequenceCard({
  index,
  running: { sequence, steps, left },
  lineUp,
  best,
  onLeave,
}: {
  index: BoardIndex;
  running: RunningSequence;
  lineUp: LineUp | undefined;
  /** What is proposed by the readings so far. */
  best: Proposal | undefined;
  onLeave: () => void;
}) {
  const [now] = left;
  const off = steps.filter(
    ({ taken }) => taken && lineUp?.expected[taken.entry.id]?.within === false,
  );
  return (
    <section className={style.card} aria-label="List of readings">
      <header>
        <h2>{sequence.title}</h2>
        <Button look="quiet" onClick={onLeave}>
          Leave the list
        </Button>
      </header>
      {now ? (
        <>
          <p className={style.points}>{pointsText(index, now.at, now.to)}</p>
          <p>
            <b>{KIND_WORDS[now.kind]}</b>, {setupWords(now.setup)}
            {sequence.before && ` · ${sequence.before}`} · {steps.length - left.length + 1} of{' '}
            {steps.length}
            {now.kind === 'logic' && (
              <>
                {' '}
                · one key: <kbd>0</kbd> <kbd>1</kbd> <kbd>p</kbd> <kbd>z</kbd>
              </>
            )}
          </p>
          <Caution of={cautionFor(index, now)} />
        </>
      ) : (
        <p role="status">
          The list is read{off.length === 0 ? ': everything is in its band' : ''}.
        </p>
      )}
      {off.length > 0 && (
        <p className={style.off} role="status">
          Off: {off.map(({ at, to }) => pointsText(index, at, to)).join(', ')}.{' '}
          {best && (
            <>
              The next good thing is {KIND_WORDS[best.kind]}{' '}
              <b>{pointsText(index, best.at, best.to)}</b>, {minutesText(best.minutes)}.{' '}
              <Button look="quiet" onClick={onLeave}>
                Go to it
              </Button>
            </>
          )}
        </p>
      )}
      <ol className={style.steps}>
        {steps.map(({ key, at, to, taken }) => {
          const expected = taken && lineUp?.expected[taken.entry.id];
          return (
            <li key={key} aria-current={key === now?.key ? 'step' : undefined}>
              <span className="mono">{pointsText(index, at, to)}</span>
              <span>
                {taken ? valueText(taken.measurement.kind, taken.value) : ''}{' '}
                <small>
                  {expected ? (expected.within ? 'in band' : `off, sound ${expected.display}`) : ''}
                </small>
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
