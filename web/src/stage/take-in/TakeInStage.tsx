import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { boardChoicesQuery } from '../../store/case-query';
import { CaseFrame } from '../../case/CaseFrame';
import { UnitLabel } from '../../case/UnitLabel';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button, ButtonLink } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { NewerSheet } from '../../case/NewerSheet';
import { NeedsUnit } from '../../case/NeedsUnit';
import { Pictures } from '../../case/Pictures';
import { StartForm } from '../../case/StartForm';
import { StartList } from '../../case/StartList';
import { Panel } from '../../ui/Panel';
import { CaseCard } from './CaseCard';
import { Codes } from './Codes';
import { Observed } from './Observed';
import style from './TakeInStage.module.css';

/** Take in: whose it is, what they say, what it does, and which sheet it is traced on. */
export function TakeInStage({ state }: { state: CaseState }) {
  const { view } = state;
  const { journal } = state;
  const { data: boards = [] } = useQuery(boardChoicesQuery);
  return (
    <CaseFrame state={state} stage="take-in">
      <div className={style.columns}>
        <section>
          <h2>Complaint</h2>
          <blockquote className={style.complaint}>
            {state.view.complaint || 'Nothing written down.'}
          </blockquote>
          <div className={style.lines}>
            <Observed state={state} />
          </div>
          <Lines
            title="Symptoms: what it does, in your words"
            empty="What does the unit do or not do? One line each, for example: no movement, lamp lit."
            entries={journal.symptoms}
            onAdd={(text) => state.append({ kind: 'symptom', text })}
            onTakeBack={(id) => state.append({ kind: 'retract', entry: id })}
            id="symptom"
          />
          <Lines
            title="Findings: what you saw"
            empty="Leaks, crusts, burns, cracked joints, earlier work."
            entries={journal.findings}
            onAdd={(text) => state.append({ kind: 'finding', text })}
            onTakeBack={(id) => state.append({ kind: 'retract', entry: id })}
            id="finding"
          />
          <div className={style.spaced}>
            <Panel
              title="Starts: the stage it reaches"
              aside={state.model ? `start sequence of: ${state.model.title}` : undefined}
            >
              {state.model ? (
                <StartForm state={state} model={state.model} />
              ) : (
                <NeedsUnit number={view.number} what="The start sequence" />
              )}
              {state.model && <StartList state={state} model={state.model} />}
            </Panel>
            {state.model && <Codes state={state} model={state.model} />}
          </div>
          {(journal.symptoms.length > 0 || journal.starts.length > 0) && (
            <p className={style.on}>
              <ButtonLink look="main" href={`${state.home}/swaps`}>
                On to Swaps
              </ButtonLink>{' '}
              <ButtonLink href={`${state.home}/trace`}>Straight to Trace</ButtonLink>
            </p>
          )}
        </section>
        <section className={style.spaced}>
          <NewerSheet state={state} />
          <CaseCard state={state} boards={boards} />
          <p>
            <UnitLabel view={view} />
          </p>
          <Pictures state={state} of="condition" title="Pictures of the condition" />
        </section>
      </div>
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Enter', 'add the line'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

interface LinesProps {
  readonly title: string;
  readonly empty: string;
  readonly id: string;
  readonly entries: readonly { readonly id: string; readonly body: { readonly text: string } }[];
  readonly onAdd: (text: string) => string | undefined;
  readonly onTakeBack: (id: string) => void;
}

const LineTyped = z.object({ line: typedWords(500, 'write a line first') });

function Lines({ title, empty, id, entries, onAdd, onTakeBack }: LinesProps) {
  const { field, onSubmit, refusal } = useEntryForm(
    LineTyped,
    { line: '' },
    { enter: ({ line }) => onAdd(line), clears: ['line'] },
  );
  return (
    <section className={style.lines}>
      <h2>{title}</h2>
      {entries.length === 0 && <Notice>{empty}</Notice>}
      <ul>
        {entries.map((entry) => (
          <li key={entry.id}>
            <span>{entry.body.text}</span>
            <Button
              look="quiet"
              onClick={() => onTakeBack(entry.id)}
              aria-label={`Take back: ${entry.body.text}`}
            >
              Take back
            </Button>
          </li>
        ))}
      </ul>
      <form noValidate onSubmit={onSubmit}>
        <TextField id={id} label={`Add a ${id}`} {...field('line')} />
        <Button type="submit">Add</Button>
        <Refused words={refusal} />
      </form>
    </section>
  );
}
