import { useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { engineRequest, type Circumstances } from '../../case/engine-request';
import type { CaseState } from '../../case/use-case';
import { KIND_WORDS, minutesText, oddsWords, pointsText } from '../../case/wording';
import { Button } from '../../ui/Button';
import type { AheadStep } from '../../workers/engine-messages';
import style from './Ahead.module.css';

/** What would follow a proposed reading, a few steps on, once it is asked for. */
export function Ahead({
  state,
  circumstances,
  proposal,
}: {
  state: CaseState;
  circumstances: Circumstances;
  /** Its key. */
  proposal: string;
}) {
  const { engine, index, journal } = state;
  const [asked, setAsked] = useState<{
    key: string;
    step?: AheadStep | undefined;
    failure?: string;
  }>();
  const request = engineRequest(0, journal, circumstances);
  const key = `${proposal} ${JSON.stringify(request.readings)}`;
  if (!engine || !index) return null;
  const ask = (): void => {
    setAsked({ key });
    engine.door.ahead({ request, key: proposal }).then(
      (step) =>
        setAsked({ key, step, ...(step ? {} : { failure: 'it was not worked out to its end' }) }),
      (error: unknown) => setAsked({ key, failure: String((error as Error).message) }),
    );
  };
  if (asked?.key !== key)
    return (
      <button type="button" className={style.ask} onClick={ask} aria-label="A few steps ahead">
        Ahead
      </button>
    );
  if (asked.failure)
    return (
      <p role="status">
        {asked.failure}{' '}
        <Button look="quiet" onClick={ask}>
          Ask again
        </Button>
      </p>
    );
  if (!asked.step) return <p role="status">Looking ahead …</p>;
  return (
    <div className={style.ahead} role="region" aria-label="A few steps ahead" tabIndex={0}>
      <Step index={index} step={asked.step} />
    </div>
  );
}

function Step({ index, step: { measurement, outcomes } }: { index: BoardIndex; step: AheadStep }) {
  const { kind, at, to, minutes } = measurement;
  return (
    <>
      <p>
        {KIND_WORDS[kind]} <b className="mono">{pointsText(index, at, to)}</b>{' '}
        <small>{minutesText(minutes)}</small>
      </p>
      {outcomes.length > 0 && (
        <ul>
          {outcomes.map(({ display, probability, then }) => (
            <li key={display}>
              <span>
                if <b className="mono">{display}</b> <small>{oddsWords(probability)}</small>
              </span>
              {then.kind === 'replace' && (
                <p>
                  enough: <b className="mono">{then.ref}</b> {oddsWords(then.probability)}
                </p>
              )}
              {then.kind === 'verify' && <p>then nothing looks wrong</p>}
              {then.kind === 'stop' && <p>then no reading tells more</p>}
              {then.kind === 'measure' && <Step index={index} step={then.node} />}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
