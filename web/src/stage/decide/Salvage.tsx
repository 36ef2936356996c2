import { useMemo } from 'react';
import type { Need } from '@hanzai/core/decide';
import { failedKillChecks, keptParts } from '../../case/salvage';
import type { CaseState } from '../../case/use-case';
import type { LineUp } from '../../workers/engine-messages';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { Small } from '../../ui/Words';

const SHOWN = 12;

/** Where a unit is given up: what is finished, and what is worth keeping, by what other cases need. */
export function Salvage({
  state,
  lineUp,
  needs,
}: {
  state: CaseState;
  lineUp: LineUp | undefined;
  needs: readonly Need[];
}) {
  const { index, journal, model } = state;
  const isGivenUp = journal.decision?.body.course === 'give-up';
  const kept = useMemo(
    () => keptParts(index, journal, lineUp?.entries ?? [], needs),
    [index, journal, lineUp, needs],
  );
  if (!isGivenUp) return null;
  const failed = failedKillChecks(journal, model);
  return (
    <Panel title="Given up: what is kept" aside="what other cases wait for first">
      {failed.map(({ name, finished, worthSaving }) => (
        <p key={name}>
          Finished: {finished}. Worth saving: {worthSaving}.
        </p>
      ))}
      {kept.length === 0 ? (
        <Small>Nothing of this board is waited for, and nothing on it is hard to get.</Small>
      ) : (
        <Rows>
          {kept.slice(0, SHOWN).map(({ ref, text, for: cases, because }) => (
            <li key={ref}>
              <span>
                <b className="mono">{ref}</b> {text}
                {cases.length > 0 ? `: case ${cases.join(', ')} waits for one` : `: ${because}`}
              </span>
            </li>
          ))}
        </Rows>
      )}
      {kept.length > SHOWN && <Small>And {kept.length - SHOWN} more.</Small>}
      <Small>
        Nothing of it is proven: test each before it goes into another unit. The owner gets the unit
        back, or its parts, as agreed.
      </Small>
    </Panel>
  );
}
