import { useMemo } from 'react';
import { ChargeLock } from '../../case/ChargeLock';
import { NewerSheet } from '../../case/NewerSheet';
import { Decision } from '../../case/Decision';
import { PowerAnyway } from '../../case/PowerAnyway';
import type { Circumstances } from '../../case/engine-request';
import type { LineUp } from '../../workers/engine-messages';
import { notCured, repairMove } from '../../case/unit';
import type { CaseState } from '../../case/use-case';
import { Notice } from '../../ui/Notice';
import { UsualEnd } from './UsualEnd';

/** What stands above the map: what has to be decided, what is locked, what moved since a repair. */
export function TraceNotices({
  state,
  lineUp,
  circumstances,
  failure,
}: {
  state: CaseState;
  lineUp: LineUp | undefined;
  circumstances: Circumstances;
  failure: string | undefined;
}) {
  const { journal, model } = state;
  const moved = useMemo(() => repairMove(model, journal), [model, journal]);
  const failed = useMemo(() => notCured(journal), [journal]);
  const simulated = journal.readings.filter(({ isSimulated }) => isSimulated).length;
  return (
    <>
      {failure && (
        <Notice look="attention" live>
          {failure}
        </Notice>
      )}
      {journal.closed && (
        <Notice look="good">This case is closed. Reopen it in Hand back to measure on.</Notice>
      )}
      {!state.practice && (
        <NewerSheet state={state} before={lineUp} circumstances={circumstances} />
      )}
      <UsualEnd state={state} />
      <Decision state={state} />
      {!state.practice && <PowerAnyway state={state} />}
      <ChargeLock state={state} />
      {simulated > 0 && !journal.closed && (
        <Notice look="attention" title="Of a simulated board:">
          {simulated} of {journal.readings.length} readings. They trace; they prove nothing and open
          no gate, and have to be taken back before the case is closed.
        </Notice>
      )}
      {moved?.move === 'back' && !journal.closed && (
        <Notice look="attention" title="It stops earlier than before the repair." live>
          What was just touched comes first: {moved.touched.join(', ')}. Ask the ledger: polarity,
          joints, a bridge of solder, a plug left off.
        </Notice>
      )}
      {moved?.move === 'further' && !journal.closed && (
        <Notice look="attention" title="It gets further than before the repair.">
          The chain has a next link: starts before the repair no longer count.
        </Notice>
      )}
      {failed && moved === undefined && !journal.closed && (
        <Notice look="attention" title="Not cured:" live>
          {failed.what.join(', ')}. Trace on from here; what was just touched comes first:{' '}
          {failed.touched.join(', ')}.
        </Notice>
      )}
      {journal.condemned.length > 0 && !journal.closed && (
        <Notice look="attention" live>
          Condemned: {journal.condemned.map(({ body }) => body.ref).join(', ')}.{' '}
          <a href={`${state.home}/repair`}>Go on to Repair</a>
        </Notice>
      )}
    </>
  );
}
