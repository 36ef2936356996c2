import { useState } from 'react';
import { wayBack } from '@hanzai/core/adjust';
import { adjustmentsOf, degreesWords } from '../../case/kind/adjusting';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { Button } from '../../ui/Button';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { Small } from '../../ui/Words';

/** How everything comes back to where it was found, and one press once it was done. */
export function WayBack({ state }: { state: CaseState }) {
  const { found, touches } = adjustmentsOf(state.journal);
  const [refusal, setRefusal] = useState<string>();
  const back = wayBack(found, touches);
  if (touches.length === 0) return null;
  const enter = (): void => {
    for (const { ref, degrees } of back) {
      const objection = state.append({
        kind: 'turned',
        ref,
        degrees,
        live: false,
        reason: 'the way back to as found',
      });
      setRefusal(objection);
      if (objection) return;
    }
  };
  return (
    <Panel
      title="The way back"
      aside={back.length === 0 ? 'all is as found' : 'last touched first'}
    >
      {back.length > 0 && (
        <>
          <Rows as="ol">
            {back.map(({ ref, degrees, to }) => (
              <li key={ref}>
                <span>
                  <b className="mono">{ref}</b> {degreesWords(degrees)}
                  {to && `, to ${to}`}
                </span>
              </li>
            ))}
          </Rows>
          <Small>By reading or mark where there is one: degrees are only as good as the eye.</Small>
          <Button disabled={state.journal.closed} onClick={enter}>
            All of it is turned back
          </Button>
          <Refused words={refusal} />
        </>
      )}
    </Panel>
  );
}
