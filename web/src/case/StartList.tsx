import { expectedAnomalies, explainedBy, type UnitModel } from '@hanzai/core/block';
import { Button } from '../ui/Button';
import { Rows } from '../ui/Rows';
import tone from '../ui/Words.module.css';
import type { CaseState } from './use-case';

/**
 * The starts so far, newest first; what a condition explains by itself is greyed out with its
 * reason.
 */
export function StartList({ state, model }: { state: CaseState; model: UnitModel }) {
  const { starts } = state.journal;
  if (starts.length === 0) return null;
  const title = (name: string): string =>
    model.stages.find((stage) => stage.name === name)?.title ?? name;
  const condition = (name: string): string =>
    model.conditions?.find((one) => one.name === name)?.title ?? name;
  return (
    <Rows>
      {[...starts].reverse().map(({ id, body }, i) => {
        const explained =
          body.failedAt === null
            ? undefined
            : explainedBy(expectedAnomalies(model, body.conditions), 'stage', body.failedAt);
        const details = [
          body.seconds === undefined ? '' : `${body.seconds} s`,
          body.tries > 1 ? `${body.tries} tries` : '',
          body.sounds,
          ...body.conditions.map(condition),
        ].filter(Boolean);
        return (
          <li key={id} className={explained ? tone.done : undefined}>
            <span>
              {starts.length - i}.{' '}
              {body.failedAt === null ? (
                <b className={tone.good}>came through</b>
              ) : (
                <b>not reached: {title(body.failedAt)}</b>
              )}
              <small>
                {details.join(' · ')}
                {explained && ` · does not count: ${explained}`}
              </small>
            </span>
            <Button
              look="quiet"
              aria-label={`Take back start ${starts.length - i}`}
              onClick={() => state.append({ kind: 'retract', entry: id })}
            >
              Take back
            </Button>
          </li>
        );
      })}
    </Rows>
  );
}
