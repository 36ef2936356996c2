import { useMemo } from 'react';
import { rankAids, type RankedAid, type UnitModel } from '@hanzai/core/block';
import { shareCredit } from '@hanzai/core/plan';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import type { Of } from '../../case/journal';
import { NeedsUnit } from '../../case/NeedsUnit';
import { StartForm } from '../../case/StartForm';
import { aidsSinceTest, unitBelief } from '../../case/unit';
import type { CaseState } from '../../case/use-case';
import { minutesText, percent } from '../../case/wording';
import { Button, ButtonLink } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Column, Columns } from '../../ui/Columns';
import { Rows } from '../../ui/Rows';
import tone from '../../ui/Words.module.css';
import { Timers } from './Timers';

/**
 * Below this chance of a cure first aid is hardly worth its minutes. From memory of bench practice.
 */
const WORTH = 0.02;

/**
 * First aid: what is cheap and can be taken back, by chance of a cure over minutes; one change at a
 * time, and a test after each.
 */
export function FirstAidStage({ state }: { state: CaseState }) {
  const { view } = state;
  const { model } = state;
  return (
    <CaseFrame state={state} stage="first-aid">
      <Columns>
        <Column>
          <Caution of="first-aid" />
          {model ? (
            <Aids state={state} model={model} />
          ) : (
            <NeedsUnit number={view.number} what="First aid" />
          )}
          {model && <Given state={state} model={model} />}
        </Column>
        <Column>
          {model && (
            <Panel title="Then a start" aside="it is the test of what was done" framed>
              <StartForm state={state} model={model} />
            </Panel>
          )}
          <Timers state={state} />
          <p>
            <ButtonLink look="main" href={`${state.home}/trace`}>
              On to Trace
            </ButtonLink>
          </p>
        </Column>
      </Columns>
      <Keys
        keys={[
          ['Tab, Enter', 'to an action and do it'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

function Aids({ state, model }: { state: CaseState; model: UnitModel }) {
  const { journal } = state;
  const done = useMemo(
    () =>
      new Set(journal.blockEvents.flatMap(({ body }) => (body.kind === 'aid' ? [body.name] : []))),
    [journal],
  );
  const ranked = useMemo(
    () => rankAids(model, unitBelief(model, journal), done),
    [model, journal, done],
  );
  const untested = aidsSinceTest(journal);
  const file = ({ name, title, block, cures }: RankedAid, own: number): void =>
    void state.append({ kind: 'aid', name, title, block, cures: own || cures });
  const shares = new Map((model.firstAid ?? []).map(({ name, cures }) => [name, cures]));
  return (
    <Panel title="Cheap and reversible" aside="by chance of a cure for each minute">
      {untested.length === 1 && (
        <Notice look="attention" title="Test it first:">
          “{untested[0]}” has had no start yet. A second change now and nobody knows which of them
          did it: they would share the credit.
        </Notice>
      )}
      {untested.length > 1 && (
        <Notice look="attention" title={`${untested.length} changes without a start between them:`}>
          {untested.join('; ')}. If it works now, each has earned a part of the credit.
        </Notice>
      )}
      {ranked.length > 0 && ranked[0]!.cures < WORTH && (
        <Notice>
          None of these is likely to help now: what is known points elsewhere. Trace tells more for
          its minutes.
        </Notice>
      )}
      <Rows>
        {ranked.map((aid, i) => (
          <li key={aid.name} className={aid.done ? tone.done : undefined}>
            <span>
              {i === 0 && !aid.done ? <b>{aid.title}</b> : aid.title}
              <small>
                {minutesText(aid.minutes)} · cures with {percent(aid.cures)} ·{' '}
                {model.blocks.find(({ name }) => name === aid.block)?.title.toLowerCase()}
                {aid.done && ' · done'}
              </small>
              {aid.caution && <small className={tone.harm}>{aid.caution}</small>}
            </span>
            <Button
              look={aid.done ? 'quiet' : 'plain'}
              onClick={() => file(aid, shares.get(aid.name) ?? aid.cures)}
              aria-label={`Done: ${aid.title}`}
            >
              {aid.done ? 'Done again' : 'Done'}
            </Button>
          </li>
        ))}
      </Rows>
    </Panel>
  );
}

/** What was done, with the start that came after it. */
function Given({ state, model }: { state: CaseState; model: UnitModel }) {
  const events = state.journal.blockEvents;
  const given = events.flatMap((entry, i) => {
    if (entry.body.kind !== 'aid') return [];
    const at = events.findIndex(({ body }, k) => k > i && body.kind === 'start');
    const test = at < 0 ? undefined : (events[at] as Of<'start'>);
    const from = events.slice(0, i).findLastIndex(({ body }) => body.kind === 'start');
    const together = events
      .slice(from + 1, at < 0 ? undefined : at)
      .filter((one): one is Of<'aid'> => one.body.kind === 'aid');
    return [{ entry: entry as Of<'aid'>, test, together }];
  });
  if (given.length === 0) return null;
  return (
    <Panel title="Done so far">
      <Rows>
        {given.map(({ entry: { id, body }, test, together }) => (
          <li key={id}>
            <span>
              {body.title}
              <small>{resultWords(model, body, test, together)}</small>
            </span>
            <Button
              look="quiet"
              aria-label={`Take back: ${body.title}`}
              onClick={() => state.append({ kind: 'retract', entry: id })}
            >
              Take back
            </Button>
          </li>
        ))}
      </Rows>
    </Panel>
  );
}

function resultWords(
  model: UnitModel,
  body: Of<'aid'>['body'],
  test: Of<'start'> | undefined,
  together: readonly Of<'aid'>[],
): string {
  if (!test) return 'not tested yet';
  if (test.body.failedAt !== null)
    return `no cure: in the start after it, not reached: ${model.stages.find(({ name }) => name === test.body.failedAt)?.title ?? test.body.failedAt}`;
  if (together.length === 1) return 'the start after it came through: the credit is its own';
  const credit = shareCredit(
    together.map(({ body: one }) => ({ ref: one.name, believed: one.cures })),
  ).find(({ ref }) => ref === body.name);
  return `the start after it came through: ${percent(credit?.share ?? 0)} of the credit, ${together.length} changes share it`;
}
