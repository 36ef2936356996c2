import { besideKey } from './beside';
import { BesideNote } from './BesideNote';
import { Button } from '../ui/Button';
import { Rows } from '../ui/Rows';
import { useBeside } from './use-beside';
import type { CaseState } from './use-case';
import { KIND_WORDS, pointsText, setupWords, valueText } from './wording';

/** Readings at points that no sheet of the case has, the newest first. */
export function LooseReadings({ state }: { state: CaseState }) {
  const { loose } = state.journal;
  const beside = useBeside(state.view.id);
  return (
    <Rows>
      {[...loose].reverse().map(({ entry: { id, body }, current }) => (
        <li key={id}>
          <span>
            <b className="mono">{pointsText(undefined, body.at, body.to)}</b>{' '}
            <span className="mono">{valueText(body.quantity, body.value)}</span>
            <small>
              {KIND_WORDS[body.quantity]}, {setupWords(body.setup)}
              {!current && ', before the repair'}
            </small>
            <BesideNote of={beside.get(besideKey(body))} value={body.value} />
          </span>
          <Button
            look="quiet"
            aria-label={`Take back: ${body.typed}`}
            onClick={() => state.append({ kind: 'retract', entry: id })}
          >
            Take back
          </Button>
        </li>
      ))}
    </Rows>
  );
}
