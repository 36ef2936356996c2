import { useCallback, useEffect, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { asEngineReadings, type Circumstances } from '../../case/engine-request';
import { traceCsv, traceFile, type TraceFile } from '../../case/trail';
import type { CaseState } from '../../case/use-case';
import { KIND_WORDS, oddsWords, pointsText, setupWords, valueText } from '../../case/wording';
import { Button } from '../../ui/Button';
import { Printed } from '../../ui/Printed';
import { saveFile } from '../../ui/save-file';
import { askAgain } from '../../workers/ask-again';
import type { TrailAnswer } from '../../workers/engine-messages';
import { Pane } from './Pane';
import style from './Trail.module.css';

/**
 * The trace as it happened: every reading with what a sound board shows and who led after it. Any
 * moment can be looked at again; it prints, and goes out as a table and as a file with a schema.
 */
export default function Trail({
  state,
  index,
  circumstances,
  moment,
  onMoment,
  onClose,
}: {
  state: CaseState;
  index: BoardIndex;
  circumstances: Circumstances;
  /** The reading after which one looks; undefined for now. */
  moment: string | undefined;
  onMoment: (id: string | undefined) => void;
  onClose: () => void;
}) {
  const { answer, failure } = useTrail(state, circumstances);
  const { journal, view } = state;
  const [printing, setPrinting] = useState(false);
  const printed = useCallback(() => setPrinting(false), []);
  const file = answer && traceFile(view, journal, answer);
  return (
    <Pane
      title="As it happened"
      onClose={onClose}
      tools={
        <>
          {file && (
            <>
              <Button look="quiet" onClick={() => setPrinting(true)}>
                Print
              </Button>
              <Button
                look="quiet"
                onClick={() =>
                  saveFile(`case-${view.number}-trace.csv`, 'text/csv', traceCsv(file))
                }
              >
                Table (CSV)
              </Button>
              <Button
                look="quiet"
                onClick={() =>
                  saveFile(
                    `case-${view.number}-trace.json`,
                    'application/json',
                    `${JSON.stringify(file, null, 2)}\n`,
                  )
                }
              >
                File (JSON)
              </Button>
            </>
          )}
          {moment !== undefined && <Button onClick={() => onMoment(undefined)}>Back to now</Button>}
        </>
      }
    >
      {failure ? (
        <p role="status">It could not be worked out: {failure}</p>
      ) : journal.readings.length === 0 ? (
        <p>Nothing was read yet: what you file below is kept here with its moment.</p>
      ) : !file ? (
        <p role="status">Being worked out …</p>
      ) : (
        <div className={style.table} tabIndex={0} role="region" aria-label="Readings in order">
          <Steps
            file={file}
            index={index}
            ids={journal.readings.map(({ entry }) => entry.id)}
            moment={moment}
            onMoment={onMoment}
          />
        </div>
      )}
      {printing && file && (
        <Printed onDone={printed}>
          <h1>
            Case {view.number}: {view.title}
          </h1>
          <p>
            {view.unitModel}. The trace as it happened, {file.steps.length} readings.
          </p>
          <Steps file={file} index={index} ids={[]} moment={undefined} />
        </Printed>
      )}
    </Pane>
  );
}

function Steps({
  file: { steps },
  index,
  ids,
  moment,
  onMoment,
}: {
  file: TraceFile;
  index: BoardIndex;
  ids: readonly string[];
  moment: string | undefined;
  onMoment?: (id: string | undefined) => void;
}) {
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">when</th>
          <th scope="col">where</th>
          <th scope="col">read</th>
          <th scope="col">sound board</th>
          <th scope="col">after it</th>
          {onMoment && <th scope="col" />}
        </tr>
      </thead>
      <tbody>
        {steps.map((step, i) => (
          <tr
            key={ids[i] ?? i}
            aria-current={ids[i] !== undefined && ids[i] === moment ? 'step' : undefined}
          >
            <td>{timeText(step.takenAt)}</td>
            <th scope="row">
              {pointsText(index, step.at, step.to)}
              <small>
                {KIND_WORDS[step.kind as keyof typeof KIND_WORDS]}, {setupWords(step.setup)}
                {!step.current && ', before the repair'}
              </small>
            </th>
            <td className={step.inBand === false ? style.out : undefined}>
              {valueText(step.kind as keyof typeof KIND_WORDS, step.value as number)}
            </td>
            <td>
              {step.expected ?? ''}{' '}
              <small>{step.inBand === null ? '' : step.inBand ? 'in band' : 'out of band'}</small>
            </td>
            <td>
              {step.leading.length === 0
                ? step.healthy !== null && step.healthy > 0.5
                  ? 'nothing wrong'
                  : 'nobody stands out'
                : step.leading
                    .map(({ ref, probability }) => `${ref} ${oddsWords(probability)}`)
                    .join(', ')}
            </td>
            {onMoment && (
              <td>
                {step.current && (
                  <Button
                    look="quiet"
                    onClick={() => onMoment(ids[i])}
                    aria-label={`As it was after ${step.typed}`}
                  >
                    As it was
                  </Button>
                )}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const timeText = (moment: string): string =>
  new Date(moment).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' });

/** What the engine says of every moment; of the board before its repair and after it apart. */
function useTrail(
  { engine, journal }: CaseState,
  { look }: Circumstances,
): { readonly answer: TrailAnswer | undefined; readonly failure: string | undefined } {
  const [state, setState] = useState<{ to: unknown; answer?: TrailAnswer; failure?: string }>();
  const { readings } = journal;
  useEffect(() => {
    if (!engine) return undefined;
    let wanted = true;
    const ask = async (): Promise<void> => {
      let answer: TrailAnswer = {};
      for (const current of [false, true]) {
        const own = asEngineReadings(readings.filter((one) => one.current === current));
        if (own.length === 0) continue;
        const said = await askAgain(
          () => engine.door.trail({ readings: own, look }),
          () => wanted,
        );
        if (!said) return;
        answer = { ...answer, ...said };
      }
      if (wanted) setState({ to: readings, answer });
    };
    ask().catch(
      (error: unknown) =>
        wanted && setState({ to: readings, failure: String((error as Error).message) }),
    );
    return () => {
      wanted = false;
    };
  }, [engine, readings, look]);
  return state && state.to === readings
    ? { answer: state.answer, failure: state.failure }
    : { answer: undefined, failure: undefined };
}
