import {
  CartesianGrid,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
  ZAxis,
} from 'recharts';
import type { Tried } from '@hanzai/core/adjust';

/** Where one has been: one setting over how it did, or two against each other, larger where better. */
export default function SearchChart({
  axes,
  tried,
}: {
  axes: readonly string[];
  tried: readonly Tried[];
}) {
  const [first = '', second] = axes;
  const dots = tried.map(({ at, score }, i) => ({
    x: Math.round(at[0] ?? 0),
    y: second === undefined ? Number(score.toFixed(2)) : Math.round(at[1] ?? 0),
    size: score + 1,
    name: i === 0 ? 'as found' : `${i}`,
  }));
  return (
    <figure aria-label={`Where one has been: ${dots.length} settings`} style={{ margin: 0 }}>
      <ResponsiveContainer width="100%" height={220}>
        <ScatterChart margin={{ top: 8, right: 16, bottom: 20, left: 0 }}>
          <CartesianGrid strokeDasharray="2 4" stroke="var(--ink-soft)" />
          <XAxis
            type="number"
            dataKey="x"
            name={first}
            unit="°"
            stroke="var(--ink)"
            label={{ value: first, position: 'insideBottom', offset: -10 }}
          />
          <YAxis
            type="number"
            dataKey="y"
            name={second ?? 'how it did'}
            unit={second === undefined ? '' : '°'}
            stroke="var(--ink)"
            width={52}
          />
          <ZAxis type="number" dataKey="size" range={[40, 240]} name="how it did" />
          <Tooltip />
          <Scatter
            data={dots}
            fill="var(--sea)"
            stroke="var(--ink)"
            line={{ stroke: 'var(--ink-soft)', strokeDasharray: '3 3' }}
            isAnimationActive={false}
          />
        </ScatterChart>
      </ResponsiveContainer>
      <figcaption>
        {second === undefined
          ? 'Degrees from as found, and how it did.'
          : `${first} across, ${second} up, degrees from as found; larger is better.`}
      </figcaption>
    </figure>
  );
}
