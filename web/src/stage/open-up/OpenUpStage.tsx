import { useMemo, useState } from 'react';
import { z } from 'zod';
import {
  backObjection,
  freedBy,
  minutesToGo,
  reassemblyList,
  screwBalance,
  shortestWayToTest,
  stepMinutes,
  type LoggedStep,
  type ReassemblyLine,
} from '@hanzai/core/bench';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { Pictures } from '../../case/Pictures';
import { lockedObjection } from '../../case/rules';
import { templateDone } from '../../case/unit';
import type { CaseState } from '../../case/use-case';
import { maybeNumber, within } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { minutesText } from '../../case/wording';
import { Button, ButtonLink } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Column, Columns } from '../../ui/Columns';
import { FormRow, Actions } from '../../ui/FormRow';
import { Small } from '../../ui/Words';
import { Rows } from '../../ui/Rows';
import { Table } from '../../ui/Table';
import tone from '../../ui/Words.module.css';
import { stepWords } from './step-words';
import { StepForm } from './StepForm';

/**
 * Open up: every step on the way in, logged with one hand, and what follows from it for the way
 * back.
 */
export function OpenUpStage({ state }: { state: CaseState }) {
  const { journal, index, model } = state;
  const { steps } = journal;
  const locked = lockedObjection(journal, index, model, 'open');
  return (
    <CaseFrame state={state} stage="open-up">
      {locked && (
        <div className={`${tone.notice} ${tone.screenOnly}`}>
          <Notice look="harm" title="Mind:">
            {locked}{' '}
            <ButtonLink look="quiet" href={`${state.home}/make-safe`}>
              To Make safe
            </ButtonLink>
          </Notice>
        </div>
      )}
      <Columns>
        <div className={tone.screenOnly}>
          <Column>
            {!locked && <Caution of="in-the-case" />}
            <Panel title="Next step" framed>
              <StepForm state={state} locked={locked !== undefined} />
            </Panel>
            <Template state={state} />
            <WayIn state={state} />
            <Pictures state={state} of="inside" title="Pictures of the inside" />
          </Column>
        </div>
        <Column>
          {steps.length > 0 && <WayBack state={state} />}
          {steps.length > 0 && <Balance steps={steps} />}
          <div className={tone.screenOnly}>{steps.length > 0 && <TestWay steps={steps} />}</div>
          {steps.length === 0 && (
            <Notice>
              As each screw, plug or tab comes off, add it here. How it goes back together, the
              screw balance and the shortest way to a test write themselves.
            </Notice>
          )}
          <p className={tone.screenOnly}>
            <ButtonLink look="main" href={`${state.home}/look`}>
              On to Look
            </ButtonLink>
          </p>
        </Column>
      </Columns>
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Enter', 'add the step'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

/** How an earlier unit of the model came apart: its next step, ready to be taken over. */
function Template({ state }: { state: CaseState }) {
  const { template } = state.view;
  const [refusal, setRefusal] = useState<string>();
  if (template.length === 0) return null;
  const done = templateDone(template, state.journal);
  const next = template[done];
  const left = template.slice(done).reduce((sum, step) => sum + stepMinutes(step), 0);
  return (
    <Panel
      title="As the last one came apart"
      aside={
        next
          ? `${template.length - done} steps, about ${minutesText(left)} to go`
          : 'all of its steps are done'
      }
    >
      {next && (
        <FormRow>
          <p>
            <b>{stepWords(next)}</b>
            {next.note && <Small as="span">{next.note}</Small>}
          </p>
          <Button
            onClick={() => {
              const { what, of, name, lengthMm, count, way, place, frees, forTest, note } = next;
              setRefusal(
                state.append({
                  kind: 'step',
                  step: {
                    what,
                    of,
                    name,
                    count,
                    way,
                    frees: [...frees],
                    forTest,
                    note,
                    ...(lengthMm === undefined ? {} : { lengthMm }),
                    ...(place ? { place: { x: place.x, y: place.y } } : {}),
                  },
                }),
              );
            }}
          >
            Done, the same
          </Button>
        </FormRow>
      )}
      {refusal && <p className={tone.attention}>{refusal}</p>}
    </Panel>
  );
}

function WayIn({ state }: { state: CaseState }) {
  const { steps } = state.journal;
  const [refusal, setRefusal] = useState<string>();
  const freed = useMemo(() => freedBy(steps), [steps]);
  if (steps.length === 0) return null;
  const spent = steps.reduce((sum, step) => sum + stepMinutes(step), 0);
  return (
    <Panel
      title="The way in"
      aside={`${steps.length} steps, some ${minutesText(spent)} of handling`}
    >
      <Rows as="ol">
        {steps.map((step, i) => {
          const opens = [...freed]
            .filter(([, at]) => at === i)
            .map(([name]) => (name === 'board' ? 'the whole board' : name.toUpperCase()));
          return (
            <li key={step.id}>
              <span>
                {i + 1}. {stepWords(step)}
                <small>
                  {[
                    step.way,
                    step.note,
                    opens.length > 0 ? `now in reach: ${opens.join(', ')}` : '',
                    step.forTest ? 'needed for a test' : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </small>
              </span>
              <Button
                look="quiet"
                aria-label={`Take back step ${i + 1}`}
                onClick={() => setRefusal(state.append({ kind: 'retract', entry: step.id }))}
              >
                Take back
              </Button>
            </li>
          );
        })}
      </Rows>
      {refusal && (
        <p role="alert" className={tone.attention}>
          {refusal}
        </p>
      )}
    </Panel>
  );
}

function WayBack({ state }: { state: CaseState }) {
  const { steps } = state.journal;
  const lines = reassemblyList(steps);
  const left = minutesToGo(steps);
  return (
    <>
      <h1 className={tone.printOnly}>
        {state.view.number} {state.view.title}: putting it back together
      </h1>
      <Panel
        title="Putting it back together"
        aside={left > 0 ? `some ${minutesText(left)} to go` : 'all back together'}
        framed
      >
        <Rows as="ol">
          {lines.map((line) => (
            <BackRow key={line.step.id} line={line} state={state} />
          ))}
        </Rows>
        <p className={tone.screenOnly}>
          <Button look="quiet" onClick={() => window.print()}>
            Print the list
          </Button>
        </p>
      </Panel>
    </>
  );
}

const LengthTyped = z.object({
  length: maybeNumber({
    fits: within(0, 200),
    words: 'no length; expected millimetres such as 6',
  }),
});

function BackRow({
  line: { step, words, cautions, left },
  state,
}: {
  line: ReassemblyLine;
  state: CaseState;
}) {
  const { form, onSubmit, refusal } = useEntryForm(
    LengthTyped,
    { length: '' },
    {
      enter: ({ length }) => {
        const millimetres = length ?? step.lengthMm;
        return (
          backObjection(state.journal.steps, step.id, left, millimetres) ??
          state.append({
            kind: 'back',
            step: step.id,
            count: left,
            ...(millimetres === undefined ? {} : { lengthMm: millimetres }),
          })
        );
      },
      choices: ['length'],
    },
  );
  return (
    <li className={left === 0 ? tone.done : undefined}>
      <span>
        {words}
        {left === 0 && <b className={tone.good}> · back</b>}
        <small className={cautions.length > 0 && left > 0 ? tone.attention : undefined}>
          {left > 0 ? cautions.join('; ') : ''}
        </small>
        {refusal && (
          <small role="alert" className={tone.harm}>
            {refusal}
          </small>
        )}
      </span>
      {left > 0 && step.what !== 'empty-hole' && (
        <span className={`${tone.box} ${tone.printOnly}`} aria-hidden="true" />
      )}
      {left > 0 && step.what !== 'empty-hole' && (
        <span className={tone.screenOnly}>
          <Actions as="form" onSubmit={onSubmit}>
            {step.what === 'fastener' && step.lengthMm !== undefined && (
              <input
                aria-label={`Length of what goes in, mm: ${words}`}
                style={{ width: '4.5em', minHeight: 'var(--touch)' }}
                inputMode="decimal"
                placeholder={`${step.lengthMm} mm`}
                {...form.register('length')}
              />
            )}
            <Button type="submit" aria-label={`Back on: ${words}`}>
              Back on
            </Button>
          </Actions>
        </span>
      )}
    </li>
  );
}

function Balance({ steps }: { steps: readonly LoggedStep[] }) {
  const rows = screwBalance(steps);
  if (rows.length === 0) return null;
  return (
    <Panel title="Screw balance">
      <Table>
        <thead>
          <tr>
            <th scope="col">kind</th>
            <th scope="col" className={tone.number}>
              came out
            </th>
            <th scope="col" className={tone.number}>
              back
            </th>
            <th scope="col">in the tray</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ name, lengthMm, out, back }) => (
            <tr key={`${name} ${lengthMm}`}>
              <th scope="row">
                {name}
                {lengthMm !== undefined && `, ${lengthMm} mm`}
              </th>
              <td className={tone.number}>{out}</td>
              <td className={tone.number}>{back}</td>
              <td>{out === back ? <b className={tone.good}>none</b> : out - back}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Panel>
  );
}

function TestWay({ steps }: { steps: readonly LoggedStep[] }) {
  const { lines, minutes } = shortestWayToTest(steps);
  if (lines.length === 0) return null;
  return (
    <Panel title="Shortest way to a part-assembled test" aside={`about ${minutesText(minutes)}`}>
      <Rows as="ol">
        {lines.map(({ step, words }) => (
          <li key={step.id}>
            <span>{words}</span>
          </li>
        ))}
      </Rows>
    </Panel>
  );
}
