import {
  powerAllowed,
  PROOF_STAGES,
  standing,
  type ProofStage,
  type ProofStep,
} from '@hanzai/core/prove';
import type { BoardIndex } from '@hanzai/core/board';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { writtenPoints } from '../../case/written-points';
import { PowerAnyway } from '../../case/PowerAnyway';
import { proofWords } from '../../case/proof-words';
import { MeteredStrip } from '../../meter/MeteredStrip';
import { shownOf } from '../../case/shown';
import { notCured } from '../../case/unit';
import { FirstPower } from './FirstPower';
import { Rails } from './Rails';
import { Runs } from './Runs';
import type { CaseState } from '../../case/use-case';
import { Button, ButtonLink } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Table } from '../../ui/Table';
import style from './ProveStage.module.css';

const TITLES: Readonly<Record<ProofStage, string>> = {
  shorts: 'Ohms, rails to ground, before any power',
  joints: 'New joints, and settings as they were left',
  power: 'First power, with a limit',
  unloaded: 'Rails without load',
  loaded: 'Rails with load',
  before: 'What read wrong before',
  function: 'What the unit did wrong before',
  runs: 'Runs of the whole unit',
};

/**
 * Prove: a list made by the program, each step with its band, before beside after. Power stays
 * locked until the ohms are good.
 */
export function ProveStage({ state }: { state: CaseState }) {
  const { index, journal, progress } = state;
  const { missing } = journal;
  const failed = notCured(journal);
  const power = powerAllowed(progress.proof) || journal.powerAnyway !== undefined;
  const steps = standing(progress.proof, power);
  const open = steps.filter(
    (step) =>
      step.type === 'measure' &&
      step.state !== 'pass' &&
      (power || step.stage === 'shorts' || step.stage === 'joints'),
  );
  const current = open.find((step) => step.state === 'open') ?? open[0];
  const railToRead = index
    ? undefined
    : steps.find((step) => step.type === 'rail' && step.after === undefined);
  const proposal =
    railToRead?.type === 'rail'
      ? {
          setup: railToRead.stage === 'shorts' ? 'off' : 'on',
          kind: railToRead.stage === 'shorts' ? ('resistance' as const) : ('voltage' as const),
          at: railToRead.net,
          to: '',
        }
      : current?.type === 'measure'
        ? {
            setup: current.measurement.setup,
            kind: current.measurement.kind,
            ...writtenPoints(current.measurement),
          }
        : undefined;
  const firstPower = steps.find((step) => step.type === 'power');
  const locked = journal.closed || missing.length > 0;
  return (
    <CaseFrame
      state={state}
      stage="prove"
      foot={
        <MeteredStrip state={state} {...(proposal ? { list: [proposal] } : {})} disabled={locked} />
      }
    >
      {missing.length > 0 && (
        <Notice look="attention" title="Not yet:">
          {missing.join(', ')} came off and nothing went on.{' '}
          <a href={`${state.home}/repair`}>Back to Repair</a>
        </Notice>
      )}
      {progress.proven ? (
        <Notice look="good" title="Proven." live>
          Every step passed. {shownOf(state).join(' ')}{' '}
          <ButtonLink href={`${state.home}/hand-back`}>On to Hand back</ButtonLink>
        </Notice>
      ) : progress.isProofPending ? (
        <p className={style.lead} role="status">
          What this proof asks for is being worked out …
        </p>
      ) : (
        <p className={style.lead}>
          {steps.filter(({ state: s }) => s === 'pass').length} of {steps.length} steps passed. Type
          what you read below; a bare value goes to the marked step.
        </p>
      )}
      {failed && !journal.closed && (
        <Notice look="attention" title="Not cured:" live>
          {failed.what.join(', ')}. The chain has a next link, and what was read before the repair
          no longer speaks of this board. What was just touched comes first:{' '}
          {failed.touched.join(', ')}.{' '}
          <ButtonLink href={`${state.home}/trace`}>Trace on</ButtonLink>
        </Notice>
      )}
      <PowerAnyway state={state} />
      {!index && <Rails state={state} />}
      {index && !progress.isProofPending && !steps.some(({ stage }) => stage === 'shorts') && (
        <Notice look="attention" title="Power stays locked.">
          No rail of this board is known, so no ohms check says that it may have power. A sheet with
          its supply would name them.
        </Notice>
      )}
      {PROOF_STAGES.filter((stage) => steps.some((step) => step.stage === stage)).map((stage) => (
        <section key={stage} className={style.group}>
          <h2>{TITLES[stage]}</h2>
          {stage === 'shorts' && <Caution of="before-ohms" />}
          {stage === 'power' && (
            <Caution of="first-power" again={steps.some((s) => s.stage === 'shorts')} />
          )}
          {stage !== 'shorts' && stage !== 'joints' && !power && (
            <Notice look="attention">Locked until every ohms check above has passed.</Notice>
          )}
          <Table asCards className={style.steps}>
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
                    locked={locked || (!power && stage !== 'shorts' && stage !== 'joints')}
                    onAnswer={(passed) => state.append({ kind: 'answer', step: step.key, passed })}
                    onStart={(clean) =>
                      state.append({
                        kind: 'start',
                        failedAt: clean ? null : (state.model?.stages[0]?.name ?? 'start'),
                        tries: 1,
                        sounds: '',
                        conditions: [],
                      })
                    }
                  />
                ))}
            </tbody>
          </Table>
          {stage === 'power' && firstPower?.type === 'power' && (
            <FirstPower
              step={firstPower}
              index={index}
              absent={journal.absent}
              locked={locked || !power}
              onAnswer={(passed) => state.append({ kind: 'answer', step: firstPower.key, passed })}
            />
          )}
          {stage === 'runs' && <Runs state={state} locked={locked || !power} />}
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

const STATE_WORDS = { open: 'to do', pass: 'pass', fail: 'FAIL' } as const;

function Row({
  step,
  index,
  current,
  locked,
  onAnswer,
  onStart,
}: {
  step: ProofStep;
  index: BoardIndex | undefined;
  current: boolean;
  locked: boolean;
  onAnswer: (passed: boolean) => void;
  onStart: (clean: boolean) => void;
}) {
  const { what, how, must, before, after } = proofWords(step, index);
  const [yes, no] = step.stage === 'joints' ? ['It does', 'It does not'] : ['Gone', 'Still there'];
  return (
    <tr className={current ? style.current : undefined} aria-current={current ? 'step' : undefined}>
      <th scope="row">
        {how === '' ? what : <b>{what}</b>} <small>{how}</small>
      </th>
      <td className="mono" data-label="must show">
        {must.display} <small>{must.band}</small>
      </td>
      <td className="mono" data-label="before">
        {before}
      </td>
      <td className="mono" data-label="after">
        {step.type === 'starts' && (
          <span className={style.answers}>
            {step.clean} of {step.needed}
            <Button
              disabled={locked}
              onClick={() => onStart(true)}
              aria-label="One more start came through"
            >
              Came through
            </Button>
            <Button disabled={locked} onClick={() => onStart(false)} aria-label="A start failed">
              Failed
            </Button>
          </span>
        )}
        {step.type === 'rail' && step.stage === 'shorts' && (
          <span className={style.answers}>
            {after}
            {step.after !== undefined && step.state === 'open' && (
              <>
                <Button
                  disabled={locked}
                  onClick={() => onAnswer(true)}
                  aria-label={`No short: ${what}`}
                >
                  No short
                </Button>
                <Button
                  disabled={locked}
                  onClick={() => onAnswer(false)}
                  aria-label={`Not good: ${what}`}
                >
                  Not good
                </Button>
              </>
            )}
          </span>
        )}
        {step.type === 'rail' && step.stage === 'shorts' ? null : step.type === 'ask' &&
          step.state === 'open' ? (
          <span className={style.answers}>
            <Button disabled={locked} onClick={() => onAnswer(true)} aria-label={`${yes}: ${what}`}>
              {yes}
            </Button>
            <Button disabled={locked} onClick={() => onAnswer(false)} aria-label={`${no}: ${what}`}>
              {no}
            </Button>
          </span>
        ) : (
          step.type !== 'starts' && after
        )}
        {step.type === 'ask' && step.state !== 'open' && !locked && (
          <Button
            look="quiet"
            onClick={() => onAnswer(step.state !== 'pass')}
            aria-label={`Change the answer: ${what}`}
          >
            Change
          </Button>
        )}
      </td>
      <td className={{ open: style.open, pass: style.pass, fail: style.fail }[step.state]}>
        {STATE_WORDS[step.state]}
      </td>
    </tr>
  );
}
