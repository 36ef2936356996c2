import { useMemo } from 'react';
import { isProven, powerAllowed, type ProofStage, type ProofStep } from '@hanzai/core/bench';
import { Predictor } from '@hanzai/core/diagnosis';
import { pointText } from '@hanzai/core/instrument';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { readingEntry } from '../../case/file-reading';
import { caseProgress, caseProof } from '../../case/progress';
import { Strip } from '../../case/Strip';
import { useCase } from '../../case/use-case';
import { useExpect } from '../../case/use-expect';
import { KIND_WORDS, pointsText, SETUP_WORDS, valueText } from '../../case/wording';
import type { CaseView } from '../../server/case/service';
import { Button, ButtonLink } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { bandText } from '../../workers/wording';
import style from './ProveStage.module.css';

const TITLES: Readonly<Record<ProofStage, string>> = {
  shorts: 'Ohms, rails to ground, before any power',
  unloaded: 'Rails without load',
  loaded: 'Rails with load',
  before: 'What read wrong before',
  function: 'What the unit did wrong before',
};
const ORDER: readonly ProofStage[] = ['shorts', 'unloaded', 'loaded', 'before', 'function'];

/** Prove: a list made by the program, each step with its band, before beside after. Power stays locked until the ohms are good. */
export function ProveStage({ view }: { view: CaseView }) {
  const state = useCase(view);
  const { index, journal } = state;
  const expect = useExpect(index);
  const predictor = useMemo(() => index && new Predictor(index), [index]);
  const steps = useMemo(() => (index && predictor ? caseProof(index, journal, predictor) : []), [index, journal, predictor]);
  const { missing } = useMemo(() => caseProgress(index, journal, predictor), [index, journal, predictor]);
  const power = powerAllowed(steps);
  const open = steps.filter((step) => step.type === 'measure' && step.state !== 'pass' && (power || step.stage === 'shorts'));
  const current = open.find((step) => step.state === 'open') ?? open[0];
  if (!index) {
    return (
      <CaseFrame state={state} stage="prove">
        <h2>No board sheet yet</h2>
        <p>What is to be proven is worked out from the circuit. Choose a sheet in Take in.</p>
      </CaseFrame>
    );
  }
  const proposal =
    current?.type === 'measure'
      ? { setup: current.measurement.setup, kind: current.measurement.kind, at: pointText(current.measurement.at), to: pointText(current.measurement.to) }
      : undefined;
  const locked = journal.closed || missing.length > 0;
  return (
    <CaseFrame
      state={state}
      stage="prove"
      foot={
        <Strip
          index={index}
          recent={[]}
          proposal={proposal}
          expect={expect}
          onFile={(m, value, typed) => state.file(readingEntry(m, value, typed))}
          onRetract={() => retractLast(state)}
          disabled={locked}
        />
      }
    >
      {missing.length > 0 && (
        <Notice look="attention" title="Not yet:">
          {missing.join(', ')} came off and nothing went on. <a href={`/case/${view.number}/repair`}>Back to Repair</a>
        </Notice>
      )}
      {isProven(steps) ? (
        <Notice look="good" title="Proven." live>
          Every step passed. <ButtonLink href={`/case/${view.number}/hand-back`}>On to Hand back</ButtonLink>
        </Notice>
      ) : (
        <p className={style.lead}>
          {steps.filter(({ state: s }) => s === 'pass').length} of {steps.length} steps passed. Type what you read below; a bare value goes to the marked step.
        </p>
      )}
      {ORDER.filter((stage) => steps.some((step) => step.stage === stage)).map((stage) => (
        <section key={stage} className={style.group}>
          <h2>{TITLES[stage]}</h2>
          {stage === 'shorts' && <Caution of="discharge" />}
          {stage === (steps.some((s) => s.stage === 'unloaded') ? 'unloaded' : 'loaded') && <Caution of="power" />}
          {stage !== 'shorts' && !power && <Notice look="attention">Locked until every ohms check above has passed.</Notice>}
          <table className={style.steps}>
            <thead>
              <tr>
                <th scope="col">step</th>
                <th scope="col">must show</th>
                <th scope="col">before</th>
                <th scope="col">after</th>
                <th scope="col">state</th>
              </tr>
            </thead>
            <tbody>
              {steps
                .filter((step) => step.stage === stage)
                .map((step) => (
                  <Row
                    key={step.key}
                    step={step}
                    index={index}
                    current={step === current}
                    locked={locked || (!power && stage !== 'shorts')}
                    onAnswer={(passed) => state.file({ kind: 'answer', step: step.key, passed })}
                  />
                ))}
            </tbody>
          </table>
        </section>
      ))}
      <Keys
        keys={[
          ['value + Enter', 'file it for the marked step'],
          ['Ctrl+Z', 'take the last reading back (with the line empty)'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

function retractLast(state: ReturnType<typeof useCase>): void {
  const last = state.journal.readings.findLast(({ current }) => current);
  if (last) state.file({ kind: 'retract', entry: last.entry.id });
}

const STATE_WORDS = { open: 'to do', pass: 'pass', fail: 'FAIL' } as const;

function Row({
  step,
  index,
  current,
  locked,
  onAnswer,
}: {
  step: ProofStep;
  index: Parameters<typeof pointsText>[0];
  current: boolean;
  locked: boolean;
  onAnswer: (passed: boolean) => void;
}) {
  const state = <td className={{ open: style.open, pass: style.pass, fail: style.fail }[step.state]}>{STATE_WORDS[step.state]}</td>;
  if (step.type === 'ask') {
    return (
      <tr>
        <th scope="row" colSpan={2}>
          {step.question}
        </th>
        <td>did</td>
        <td>
          <Button disabled={locked} onClick={() => onAnswer(true)} aria-label={`Gone: ${step.question}`}>
            Gone
          </Button>{' '}
          <Button disabled={locked} onClick={() => onAnswer(false)} aria-label={`Still there: ${step.question}`}>
            Still there
          </Button>
        </td>
        {state}
      </tr>
    );
  }
  const { measurement: m, expected, before, after } = step;
  return (
    <tr className={current ? style.current : undefined} aria-current={current ? 'step' : undefined}>
      <th scope="row">
        <b>{pointsText(index, pointText(m.at), pointText(m.to))}</b>{' '}
        <small>
          {KIND_WORDS[m.kind]}, {SETUP_WORDS[m.setup]}
        </small>
      </th>
      <td className="mono">
        {expected.display} <small>{bandText(expected)}</small>
      </td>
      <td className="mono">{before === undefined ? '' : valueText(m.kind, before)}</td>
      <td className="mono">{after === undefined ? '' : valueText(m.kind, after)}</td>
      {state}
    </tr>
  );
}
