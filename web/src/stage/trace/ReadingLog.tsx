import type { BoardIndex } from '@hanzai/core/board';
import { besideKey, type Beside } from '../../case/beside';
import { BesideNote } from '../../case/BesideNote';
import type { Journal, TakenReading } from '../../case/journal';
import {
  decibanText,
  KIND_WORDS,
  pointsText,
  setupWords,
  valueText,
  weightWords,
} from '../../case/wording';
import type { JudgedExpectation } from '../../case/expectation';
import type { LineUp, ReadingConclusion, WhatIfAnswer } from '../../workers/engine-messages';
import style from './ReadingLog.module.css';

interface Props {
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly lineUp: LineUp | undefined;
  readonly pointed: string | undefined;
  /** What a board with faults put on it would show; undefined where none is asked about. */
  readonly whatIf: WhatIfAnswer | undefined;
  readonly onRetract: (id: string) => void;
  /** What other boards of this kind showed, by point. */
  readonly beside: ReadonlyMap<string, Beside>;
  /** By reading, whether it says what it seems to say. */
  readonly conclusions: Readonly<Record<string, ReadingConclusion>>;
  /** Whether the meter of an exercise gives the values. */
  readonly isExercise?: boolean;
  /** Shows the trace as it happened. */
  readonly onTrail: (() => void) | undefined;
}

/**
 * Every reading, newest first, with what a sound board shows and what the reading did to the
 * leading suspect.
 */
export function ReadingLog({
  index,
  journal,
  lineUp,
  pointed,
  whatIf,
  onRetract,
  beside,
  conclusions,
  onTrail,
  isExercise = false,
}: Props) {
  const leader = lineUp?.entries[0];
  const readings = [...journal.readings].reverse();
  if (readings.length === 0) {
    return (
      <section className={style.empty}>
        <h2>No readings yet</h2>
        <p>
          {isExercise ? (
            'Type a point below: the meter of the exercise gives the value.'
          ) : (
            <>
              Put the meter on the points above and type what it shows, for example{' '}
              <code>p5 5.01</code> for 5.01 volts from net P5 to ground.
            </>
          )}
        </p>
      </section>
    );
  }
  return (
    <section className={style.log} aria-label="Readings">
      <table>
        <thead>
          <tr>
            <th scope="col">Readings</th>
            <th scope="col">read</th>
            <th scope="col">sound board</th>
            {whatIf?.ok && <th scope="col">if</th>}
            {!whatIf?.ok && <th scope="col">how</th>}
            <th scope="col">{leader ? `for ${leader.ref}` : 'weight'}</th>
            <th scope="col">
              {onTrail && (
                <button type="button" onClick={onTrail}>
                  As it happened
                </button>
              )}
            </th>
          </tr>
        </thead>
        <tbody>
          {readings.map((reading) => (
            <Row
              key={reading.entry.id}
              reading={reading}
              index={index}
              lineUp={lineUp}
              whatIf={whatIf}
              pointed={pointed === reading.entry.id}
              onRetract={onRetract}
              beside={beside}
              conclusion={conclusions[reading.entry.id]}
            />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Row({
  reading,
  index,
  lineUp,
  whatIf,
  pointed,
  onRetract,
  beside,
  conclusion,
}: {
  reading: TakenReading;
  index: BoardIndex;
  lineUp: LineUp | undefined;
  whatIf: WhatIfAnswer | undefined;
  pointed: boolean;
  onRetract: (id: string) => void;
  beside: ReadonlyMap<string, Beside>;
  conclusion: ReadingConclusion | undefined;
}) {
  const { body, id, by } = reading.entry;
  const expected = lineUp?.expected[id];
  const weight = lineUp?.entries[0]?.weights.find((w) => w.id === id)?.decibans;
  const mark = !reading.current
    ? 'before the repair'
    : expected
      ? expected.within
        ? 'in band'
        : 'out of band'
      : '';
  return (
    <tr className={`${pointed ? style.pointed : ''} ${reading.current ? '' : style.past}`}>
      <th scope="row">{pointsText(index, body.at, body.to)}</th>
      <td className={expected && !expected.within ? style.out : undefined}>
        {valueText(body.quantity, body.value)}
      </td>
      <td>
        {expected?.display ?? ''} <small>{mark}</small>
        <BesideNote of={beside.get(besideKey(body))} value={body.value} />
        {conclusion && (
          <small className={style.conclusion} title={conclusion.words}>
            {conclusion.conclusive ? 'conclusive' : 'not conclusive'}: {conclusion.words}
            {conclusion.remedy !== '' && `; ${conclusion.remedy}`}
          </small>
        )}
      </td>
      {whatIf?.ok && <IfCell shown={whatIf.readings[id]} />}
      {!whatIf?.ok && (
        <td>
          {KIND_WORDS[body.quantity]}, {setupWords(body.setup)}
          {reading.by !== undefined && <small> by {reading.by}</small>}
          {by !== undefined && <small>, {by}</small>}
        </td>
      )}
      <td title={weight === undefined ? undefined : decibanText(weight)}>
        {weight === undefined ? '' : weightWords(weight)}
      </td>
      <td>
        <button type="button" onClick={() => onRetract(id)} aria-label={`Take back ${body.typed}`}>
          Take back
        </button>
      </td>
    </tr>
  );
}

function IfCell({ shown }: { shown: JudgedExpectation | undefined }) {
  return (
    <td className={shown && !shown.within ? style.out : undefined}>
      {shown?.display ?? ''}{' '}
      <small>{shown ? (shown.within ? 'as read' : 'not as read') : ''}</small>
    </td>
  );
}
