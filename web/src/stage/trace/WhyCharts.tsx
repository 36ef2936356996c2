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
import { unitOf } from '@hanzai/core/instrument';
import { formatQuantity } from '@hanzai/core/quantity';
import type { Journal } from '../../case/journal';
import type { WhyAnswer } from '../../workers/engine-messages';
import { oddsTick, oddsTicks, type Bar as Step } from './argument-words';
import type { Sides } from './use-why';
import style from './Why.module.css';

/** The odds before any reading, and how each reading moved them, in the order taken. */
export function Waterfall({ steps, sides }: { steps: readonly Step[]; sides: Sides }) {
  const hatch = useId();
  const first = sides.one || 'nothing wrong';
  // The chart's own ends of a bar that goes back are those of its beginning.
  const ends = steps.flatMap(({ span }) => span);
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
            domain={[Math.min(0, ...ends), Math.max(0, ...ends)]}
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
export function PredictedAgainstRead({ journal, answer }: { journal: Journal; answer: WhyAnswer }) {
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
