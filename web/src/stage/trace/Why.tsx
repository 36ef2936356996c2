import { useId } from 'react';
import {
  Bar,
  BarChart,
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  XAxis,
  YAxis,
  ZAxis,
} from 'recharts';
import type { BoardIndex } from '@hanzai/core/board';
import { unitOf } from '@hanzai/core/instrument';
import { formatQuantity } from '@hanzai/core/quantity';
import type { JudgedExpectation } from '../../case/expectation';
import type { Journal } from '../../case/journal';
import { decibanText, pointsText, valueText } from '../../case/wording';
import { Button } from '../../ui/Button';
import type { LineUp, WhyAnswer } from '../../workers/engine-messages';
import {
  oddsTick,
  oddsTicks,
  sideWords,
  waterfall,
  weighsWords,
  type Bar as Step,
} from './argument-words';
import type { Sides } from './use-why';
import { Pane } from './Pane';
import style from './Why.module.css';

interface Props {
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly lineUp: LineUp | undefined;
  readonly sides: Sides;
  readonly answer: WhyAnswer | undefined;
  readonly failure: string | undefined;
  readonly onSides: (sides: Sides | undefined) => void;
  /** Puts a point into the reading line, to repeat it. */
  readonly onRepeat: (text: string) => void;
}

/** How many suspects one can choose a side from. */
const CHOICES = 14;

/**
 * Why one suspect is believed more than another: the readings by weight, what either would show
 * beside what was read, and the reading on which the order turns.
 */
export default function Why({
  index,
  journal,
  lineUp,
  sides,
  answer,
  failure,
  onSides,
  onRepeat,
}: Props) {
  const refs = lineUp?.entries.slice(0, CHOICES).map(({ ref }) => ref) ?? [];
  return (
    <Pane
      title="Why"
      onClose={() => onSides(undefined)}
      tools={
        <>
          <SideChoice
            label="this one"
            value={sides.one}
            refs={refs}
            onChange={(one) => onSides({ ...sides, one })}
          />
          <span>rather than</span>
          <SideChoice
            label="that one"
            value={sides.other}
            refs={refs}
            onChange={(other) => onSides({ ...sides, other })}
          />
          <Button look="quiet" onClick={() => onSides({ one: sides.other, other: sides.one })}>
            Turn round
          </Button>
        </>
      }
    >
      {failure ? (
        <p role="status">It could not be worked out: {failure}</p>
      ) : !answer ? (
        <p role="status">Being worked out …</p>
      ) : (
        <Told {...{ index, journal, sides, answer, onRepeat }} />
      )}
    </Pane>
  );
}

function SideChoice({
  label,
  value,
  refs,
  onChange,
}: {
  label: string;
  value: string;
  refs: readonly string[];
  onChange: (ref: string) => void;
}) {
  const all = refs.includes(value) || value === '' ? refs : [value, ...refs];
  return (
    <select
      aria-label={label}
      className="mono"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      {all.map((ref) => (
        <option key={ref} value={ref}>
          {ref}
        </option>
      ))}
      <option value="">nothing wrong</option>
    </select>
  );
}

function Told({
  index,
  journal,
  sides,
  answer,
  onRepeat,
}: Pick<Props, 'index' | 'journal' | 'sides' | 'onRepeat'> & { answer: WhyAnswer }) {
  const typed = new Map(journal.readings.map(({ entry }) => [entry.id, entry.body]));
  const name = (id: string): string => typed.get(id)?.typed ?? '';
  const rows = [...answer.rows].sort((a, b) => Math.abs(b.moved) - Math.abs(a.moved));
  const turning = answer.turnsOn === undefined ? undefined : typed.get(answer.turnsOn);
  return (
    <>
      <p role="status" className={style.told}>
        <b>{weighsWords(answer, sides)}</b>{' '}
        {turning ? (
          <>
            It rests on one reading: without <b className="mono">{turning.typed}</b> it would be the
            other way round.{' '}
            <Button
              look="quiet"
              onClick={() => onRepeat(`${turning.at} ${turning.to || ''}`.trim())}
            >
              Repeat it first
            </Button>
          </>
        ) : (
          answer.rows.length > 0 && 'No single reading turns it round.'
        )}
      </p>
      <div className={style.halves}>
        <Waterfall steps={waterfall(answer, name)} sides={sides} />
        <PredictedAgainstRead journal={journal} answer={answer} />
      </div>
      <div className={style.table} tabIndex={0} role="region" aria-label="Readings by weight">
        <table>
          <thead>
            <tr>
              <th scope="col">Reading</th>
              <th scope="col">read</th>
              <th scope="col">{sideWords(sides.one, answer.one)}</th>
              <th scope="col">{sideWords(sides.other, answer.other)}</th>
              <th scope="col">speaks</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, moved, one, other }) => {
              const body = typed.get(id);
              return (
                body && (
                  <tr key={id}>
                    <th scope="row">{pointsText(index, body.at, body.to)}</th>
                    <td>{valueText(body.quantity, body.value)}</td>
                    <Shown said={one} />
                    <Shown said={other} />
                    <td title={decibanText(moved)}>
                      {Math.abs(moved) < 1
                        ? 'says nothing between them'
                        : `for ${moved > 0 ? sides.one || 'nothing wrong' : sides.other || 'nothing wrong'}`}
                    </td>
                  </tr>
                )
              );
            })}
          </tbody>
        </table>
      </div>
    </>
  );
}

function Shown({ said }: { said: JudgedExpectation | undefined }) {
  return (
    <td className={said && !said.within ? style.out : undefined}>
      {said?.display ?? 'no answer'}{' '}
      <small>{said ? (said.within ? 'as read' : 'not so') : ''}</small>
    </td>
  );
}

/** The odds before any reading, and how each reading moved them, in the order taken. */
function Waterfall({ steps, sides }: { steps: readonly Step[]; sides: Sides }) {
  const hatch = useId();
  const first = sides.one || 'nothing wrong';
  return (
    <figure
      className={style.chart}
      role="img"
      aria-label={`What each reading did to the odds: ${steps.map(({ name, words }) => `${name} ${words}`).join('; ')}`}
    >
      <figcaption>
        In the order taken: right speaks for <b className="mono">{first}</b>, left against it
      </figcaption>
      <ResponsiveContainer width="100%" height={34 + 26 * steps.length}>
        <BarChart
          data={[...steps]}
          layout="vertical"
          margin={{ top: 0, right: 8, bottom: 0, left: 0 }}
        >
          <defs>
            <pattern
              id={hatch}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="6" stroke="var(--hatch)" strokeWidth="2.4" />
            </pattern>
          </defs>
          <CartesianGrid stroke="var(--rule)" horizontal={false} />
          <XAxis
            type="number"
            stroke="var(--ink-soft)"
            tickFormatter={oddsTick}
            height={24}
            ticks={[...oddsTicks(steps)]}
            domain={['dataMin', 'dataMax']}
          />
          <YAxis
            type="category"
            dataKey="name"
            width={128}
            stroke="var(--ink-soft)"
            tick={{ fontSize: 12, fontFamily: 'var(--mono)' }}
            interval={0}
          />
          <ReferenceLine x={0} stroke="var(--ink)" strokeWidth={2} />
          <Bar
            dataKey="span"
            fill={`url(#${hatch})`}
            stroke="var(--hatch)"
            isAnimationActive={false}
            barSize={14}
          />
        </BarChart>
      </ResponsiveContainer>
    </figure>
  );
}

/** Read against predicted, for the kind of reading that was taken most often. */
function PredictedAgainstRead({ journal, answer }: { journal: Journal; answer: WhyAnswer }) {
  const bodies = new Map(journal.readings.map(({ entry }) => [entry.id, entry.body]));
  const numbers = answer.rows.flatMap(({ id, shown, one }) => {
    const body = bodies.get(id);
    return body && shown !== undefined && typeof body.value === 'number'
      ? [
          {
            kind: body.quantity,
            typed: body.typed,
            shown,
            read: body.value,
            odd: one?.within === false,
          },
        ]
      : [];
  });
  const kinds = [...new Set(numbers.map(({ kind }) => kind))];
  const count = (kind: string): number => numbers.filter((one) => one.kind === kind).length;
  const kind = kinds.sort((a, b) => count(b) - count(a))[0];
  if (kind === undefined || count(kind) < 2) return null;
  const points = numbers.filter((one) => one.kind === kind);
  const odd = points.filter((one) => one.odd);
  const [low, high] = [
    Math.min(0, ...points.flatMap(({ shown, read }) => [shown, read])),
    Math.max(...points.flatMap(({ shown, read }) => [shown, read])),
  ];
  const tick = (value: number): string => formatQuantity(value, unitOf(kind), 2);
  return (
    <figure
      className={style.chart}
      role="img"
      aria-label={`Read against predicted: ${points.length - odd.length} of ${points.length} on the line; odd: ${odd.map(({ typed }) => typed).join(', ') || 'none'}`}
    >
      <figcaption>
        Read (up) against predicted (right).{' '}
        {odd.length === 0 ? 'None is odd.' : `Odd: ${odd.map(({ typed }) => typed).join(', ')}.`}
      </figcaption>
      <ResponsiveContainer width="100%" height={190}>
        <ScatterChart margin={{ top: 6, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--rule)" />
          <XAxis
            type="number"
            dataKey="shown"
            domain={[low, high]}
            tickFormatter={tick}
            stroke="var(--ink-soft)"
            height={24}
          />
          <YAxis
            type="number"
            dataKey="read"
            domain={[low, high]}
            tickFormatter={tick}
            stroke="var(--ink-soft)"
            width={62}
          />
          <ZAxis range={[70, 70]} />
          <ReferenceLine
            segment={[
              { x: low, y: low },
              { x: high, y: high },
            ]}
            stroke="var(--ink-soft)"
            strokeDasharray="6 4"
          />
          <Scatter
            data={points.filter((one) => !one.odd)}
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth={2}
            isAnimationActive={false}
          />
          <Scatter
            data={odd}
            shape="cross"
            fill="var(--amber)"
            stroke="var(--amber)"
            isAnimationActive={false}
          />
        </ScatterChart>
      </ResponsiveContainer>
    </figure>
  );
}
