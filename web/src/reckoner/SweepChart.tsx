import {
  figureText,
  readFigure,
  type Field,
  type FigureUnit,
  type Sweep,
} from '@hanzai/core/reckon';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import style from './Reckoner.module.css';

/** A result over a range of one field, and where it stands now. */
export default function SweepChart({
  sweep: { label, unit, points },
  field,
  now,
}: {
  sweep: Sweep;
  field: Extract<Field, { kind: 'figure' }>;
  now: string;
}) {
  const read = readFigure(now, field.unit);
  const at = read.ok ? read.value.value : undefined;
  const wide = (values: readonly number[]): boolean =>
    values.every((one) => one > 0) && Math.max(...values) / Math.min(...values) > 20;
  const across = wide(points.map((one) => one.at));
  const up = wide(points.map((one) => one.value));
  const tick = (unit: FigureUnit) => (value: number) => figureText(value, unit, 2);
  const [first, last] = [points[0]!, points.at(-1)!];
  return (
    <figure className={style.chart}>
      <figcaption>
        {label} over {field.label.toLowerCase()}; the line stands where it is now
      </figcaption>
      <div
        role="img"
        aria-label={`${label} over ${field.label}: ${figureText(first.value, unit, 3)} at ${figureText(first.at, field.unit)}, ${figureText(last.value, unit, 3)} at ${figureText(last.at, field.unit)}`}
      >
        <ResponsiveContainer width="100%" height={220}>
          <LineChart data={[...points]} margin={{ top: 6, right: 16, bottom: 0, left: 8 }}>
            <CartesianGrid stroke="var(--rule)" />
            <XAxis
              dataKey="at"
              type="number"
              scale={across ? 'log' : 'linear'}
              domain={['dataMin', 'dataMax']}
              tickFormatter={tick(field.unit)}
              stroke="var(--ink-soft)"
            />
            <YAxis
              type="number"
              scale={up ? 'log' : 'linear'}
              domain={['auto', 'auto']}
              tickFormatter={tick(unit)}
              width={70}
              stroke="var(--ink-soft)"
            />
            {at !== undefined && <ReferenceLine x={at} stroke="var(--copper)" strokeWidth={2} />}
            <Line
              dataKey="value"
              dot={false}
              stroke="var(--ink)"
              strokeWidth={2}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
