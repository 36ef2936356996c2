import { useMemo } from 'react';
import {
  nextTrials,
  type BlockEvidence,
  type ProposedTrial,
  type UnitModel,
} from '@hanzai/core/block';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { Decision } from '../../case/Decision';
import { NeedsUnit } from '../../case/NeedsUnit';
import { useCircumstances } from '../../case/engine-request';
import { blockEvidence, blocksWithReadings, unitBelief } from '../../case/unit';
import { useEngine } from '../../case/use-engine';
import type { CaseState } from '../../case/use-case';
import { minutesText, percent } from '../../case/wording';
import { Button, ButtonLink } from '../../ui/Button';
import { HatchBar } from '../../ui/HatchBar';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Column, Columns } from '../../ui/Columns';
import { Fold } from '../../ui/Fold';
import { Rows } from '../../ui/Rows';
import { Actions } from '../../ui/FormRow';
import { Small } from '../../ui/Words';
import tone from '../../ui/Words.module.css';
import { fileCompared } from './file-compared';
import { MediumCheck } from './MediumCheck';
import { PinOutCheck } from './PinOutCheck';
import { StartsAnalysis } from './StartsAnalysis';
import { TrialForm } from './TrialForm';

/** How many proposals are shown. */
const PROPOSALS = 5;

/**
 * Swaps: the tests of two minutes that can end the job, then halving by swaps; what each result
 * leaves of the blocks.
 */
export function SwapsStage({ state }: { state: CaseState }) {
  const { view } = state;
  const { model } = state;
  return (
    <CaseFrame state={state} stage="swaps">
      <Columns>
        <Column>
          <Decision state={state} />
          {model ? (
            <Proposals state={state} model={model} />
          ) : (
            <NeedsUnit number={view.number} what="What to swap" />
          )}
          {model && (
            <Panel title="A trial in one line" framed>
              <TrialForm state={state} model={model} />
            </Panel>
          )}
          {model && <Trials state={state} model={model} />}
        </Column>
        <Column>
          {model && <Blocks state={state} model={model} />}
          {model && <StartsAnalysis state={state} />}
          <Fold>
            <summary>Does the medium go with this drive?</summary>
            <MediumCheck onFile={(found) => fileCompared(state, 'layout', found)} />
          </Fold>
          <Fold>
            <summary>Do these two connectors go together?</summary>
            <PinOutCheck onFile={(found) => fileCompared(state, 'pin-out', found)} />
          </Fold>
          <p>
            <ButtonLink look="main" href={`${state.home}/make-safe`}>
              On to Make safe
            </ButtonLink>
          </p>
        </Column>
      </Columns>
      <Keys
        keys={[
          ['Tab', 'to the next proposal, field or result'],
          ['Enter', 'press what is in focus'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

function Proposals({ state, model }: { state: CaseState; model: UnitModel }) {
  const { journal } = state;
  const trials = useMemo(
    () => nextTrials(model, blockEvidence(model, journal).evidence).slice(0, PROPOSALS),
    [model, journal],
  );
  const file = (trial: ProposedTrial, outcome: BlockEvidence): void => {
    if (outcome.type === 'check')
      state.append({
        kind: 'check',
        title: trial.title,
        block: outcome.block,
        good: outcome.good,
        ...(trial.kills ? { kill: true } : {}),
      });
    if (outcome.type === 'trial')
      state.append({
        kind: 'trial',
        title: trial.title,
        exercised: [...outcome.exercised],
        passed: outcome.passed,
        failed: outcome.failed,
        note: '',
      });
  };
  return (
    <Panel
      title="Try next"
      aside="what can end the job first, then what tells most for its minutes"
    >
      <Caution of="reseat" />
      <Rows>
        {trials.map((trial, i) => (
          <li key={trial.title}>
            <span>
              {i === 0 ? <b>{trial.title}</b> : trial.title}
              <small>
                {trial.kills && <b className={tone.mark}>kill check</b>}{' '}
                {minutesText(trial.minutes)} · {trial.reason}
              </small>
              {trial.caution && <small className={tone.harm}>{trial.caution}</small>}
            </span>
            <Actions as="span">
              <Button onClick={() => file(trial, trial.good)} aria-label={`Good: ${trial.title}`}>
                Good
              </Button>
              <Button onClick={() => file(trial, trial.bad)} aria-label={`Bad: ${trial.title}`}>
                Bad
              </Button>
            </Actions>
          </li>
        ))}
      </Rows>
    </Panel>
  );
}

function Blocks({ state, model }: { state: CaseState; model: UnitModel }) {
  const { journal } = state;
  const belief = useMemo(() => unitBelief(model, journal), [model, journal]);
  const engine = useEngine(state, useCircumstances(state), journal.readings.length > 0);
  const byBlock = useMemo(
    () =>
      state.index && engine.lineUp
        ? blocksWithReadings(model, state.index, belief, engine.lineUp.entries)
        : belief.byBlock,
    [model, state.index, belief, engine.lineUp],
  );
  const { masked, evidence } = useMemo(() => blockEvidence(model, journal), [model, journal]);
  const title = (name: string): string =>
    model.blocks.find((block) => block.name === name)?.title ?? name;
  return (
    <Panel
      title="Blocks"
      aside={`all good ${percent(belief.healthy)} · more than one bad ${percent(belief.several)}`}
      framed
    >
      {belief.odd.length > 0 && (
        <Notice look="attention" title="This hardly fits the rest:">
          {belief.odd.map((i) => evidenceWords(model, evidence[i]!)).join('; ')}. Repeat it, or look
          for what was different in it.
        </Notice>
      )}
      {belief.intermittent > 0.5 && (
        <Notice look="attention" title="It comes and goes.">
          {percent(belief.intermittent)} that what is bad fails only now and then: one good try
          clears nothing. Write down the conditions of each start.
        </Notice>
      )}
      {masked.map(({ kind, name, because }) => (
        <Small key={`${kind} ${name}`}>
          Left out: {kind} “{name}”. {because}.
        </Small>
      ))}
      {engine.lineUp && (
        <Small>With what {journal.readings.length} readings on the board say of their parts.</Small>
      )}
      {byBlock.map(({ block, probability }) => (
        <div key={block}>
          <div className={tone.bar}>
            <span>{title(block)}</span>
            <span className={tone.figure}>{percent(probability)}</span>
          </div>
          <HatchBar
            share={probability}
            height={10}
            label={`${title(block)}: ${percent(probability)}`}
          />
        </div>
      ))}
    </Panel>
  );
}

/** A piece of evidence in words. */
function evidenceWords(model: UnitModel, one: BlockEvidence): string {
  const block = (name: string): string =>
    model.blocks.find((candidate) => candidate.name === name)?.title.toLowerCase() ?? name;
  switch (one.type) {
    case 'trial':
      return `${one.passed} good and ${one.failed} bad with ${one.exercised.length > 4 ? `${one.exercised.length} blocks of this unit` : one.exercised.map(block).join(', ')} in use`;
    case 'stage':
      return one.failedAt === undefined
        ? 'a start that came through'
        : `a start that did not reach “${model.stages.find(({ name }) => name === one.failedAt)?.title ?? one.failedAt}”`;
    case 'code':
      return `code ${one.code}`;
    case 'check':
      return `${block(one.block)} found ${one.good ? 'good' : 'bad'}`;
    case 'aid':
      return `first aid to ${block(one.block)} that ${one.cured ? 'cured it' : 'did not help'}`;
    case 'pattern':
      return one.name;
  }
}

function Trials({ state, model }: { state: CaseState; model: UnitModel }) {
  const done = state.journal.blockEvents.filter(
    ({ body }) => body.kind === 'trial' || body.kind === 'check',
  );
  if (done.length === 0)
    return (
      <Notice>
        Nothing tried yet. Prove the medium and the cable on a known-good unit first: then every
        later result speaks of this one.
      </Notice>
    );
  const title = (name: string): string =>
    model.blocks.find((block) => block.name === name)?.title.toLowerCase() ?? name;
  return (
    <Panel title="Tried">
      <Rows>
        {[...done].reverse().map(({ id, body }) => (
          <li key={id}>
            <span>
              {body.kind === 'check' && (
                <>
                  {body.title}:{' '}
                  <b className={body.good ? tone.good : tone.attention}>
                    {body.good ? 'good' : 'bad'}
                  </b>
                </>
              )}
              {body.kind === 'trial' && (
                <>
                  {body.title}: <b>{body.passed} good</b>, <b>{body.failed} bad</b>
                  <small>
                    in use of this unit:{' '}
                    {body.exercised.length > 5
                      ? `all but ${
                          model.blocks
                            .filter(({ name }) => !body.exercised.includes(name))
                            .map(({ name }) => title(name))
                            .join(', ') || 'nothing'
                        }`
                      : body.exercised.map(title).join(', ')}
                    {body.note && ` · ${body.note}`}
                  </small>
                </>
              )}
            </span>
            <Button
              look="quiet"
              onClick={() => state.append({ kind: 'retract', entry: id })}
              aria-label="Take back this trial"
            >
              Take back
            </Button>
          </li>
        ))}
      </Rows>
    </Panel>
  );
}
