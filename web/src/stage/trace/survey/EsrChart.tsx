import {
  CartesianGrid,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
  ZAxis,
} from 'recharts';
import { esrLimit } from '@hanzai/core/survey';
import { formatQuantity } from '@hanzai/core/quantity';
import type { SurveyRow } from './use-survey';
import style from './Survey.module.css';

/** The smallest ohms that the meter shows: one count. */
const FLOOR_OHM = 0.01;

export interface Dot {
  readonly part: string;
  readonly farad: number;
  readonly ohm: number;
  readonly verdict: string;
  readonly limit: number | undefined;
}

/** The capacitors that were read with a number, as dots; nothing read is drawn below the floor. */
export function dotsOf(rows: readonly SurveyRow[]): readonly Dot[] {
  return rows.flatMap(({ part, read, judged }) =>
    typeof read === 'number'
      ? [
          {
            part: part.ref,
            farad: part.capacitanceFarad,
            ohm: Math.max(FLOOR_OHM, read),
            verdict: judged?.verdict ?? 'cannot-judge',
            limit: esrLimit(part),
          },
        ]
      : [],
  );
}

/** Room around a group, as a factor on both axes. */
const GROUP_ROOM = 1.35;

/**
 * Frames around brothers: parts of one value and kind, of which at least two were read. One that
 * stands apart from its frame's foot is what a survey looks for.
 */
export function brotherFrames(
  rows: readonly SurveyRow[],
  dots: readonly Dot[],
): readonly {
  readonly key: string;
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}[] {
  const groups = new Map<string, Dot[]>();
  for (const dot of dots) {
    const { part } = rows.find((row) => row.part.ref === dot.part)!;
    const key = `${part.capacitanceFarad} ${part.ratedVolt ?? ''} ${part.dielectric ?? ''}`;
    groups.set(key, [...(groups.get(key) ?? []), dot]);
  }
  return [...groups].flatMap(([key, members]) => {
    if (members.length < 2) return [];
    const [farad, ohms] = [members[0]!.farad, members.map(({ ohm }) => ohm)];
    return [
      {
        key,
        from: [farad / GROUP_ROOM, Math.min(...ohms) / GROUP_ROOM] as const,
        to: [farad * GROUP_ROOM, Math.max(...ohms) * GROUP_ROOM] as const,
      },
    ];
  });
}

/** Powers of ten that span these values. */
export function decades(values: readonly number[]): readonly [number, number] {
  const logs = values.filter((value) => value > 0).map(Math.log10);
  return [10 ** Math.floor(Math.min(...logs)), 10 ** Math.ceil(Math.max(...logs) + 1e-9)];
}

const GROUPS = [
  ['good', 'good', 'circle', 'var(--sea)'],
  ['doubtful', 'doubtful', 'triangle', 'var(--amber)'],
  ['bad', 'bad', 'cross', 'var(--vermilion)'],
  ['cannot-judge', 'not judged here', 'square', 'var(--ink-soft)'],
] as const;

/** ESR against capacitance, both logarithmic, with the limits of the standard and the meter's floor. */
export default function EsrChart({
  rows,
  zeroOhm,
}: {
  rows: readonly SurveyRow[];
  zeroOhm: number | undefined;
}) {
  const dots = dotsOf(rows);
  if (dots.length < 2)
    return <p>Two capacitors with a number each make a chart: go on with the list.</p>;
  const [left, right] = decades(dots.flatMap(({ farad }) => [farad / 2, farad * 2]));
  const limits = [
    ...new Map(
      dots.flatMap(({ farad, limit }) => (limit ? [[farad, limit] as const] : [])),
    ).entries(),
  ].sort((a, b) => a[0] - b[0]);
  const [low, high] = decades([
    FLOOR_OHM,
    ...dots.map(({ ohm }) => 1.5 * ohm),
    ...limits.map(([, ohm]) => ohm),
  ]);
  const bad = dots.filter(({ verdict }) => verdict === 'bad');
  const floor = Math.max(FLOOR_OHM, zeroOhm ?? 0);
  return (
    <figure
      className={style.chart}
      role="img"
      aria-label={`ESR against capacitance of ${dots.length} capacitors; bad: ${bad.map(({ part, ohm }) => `${part} ${formatQuantity(ohm, 'ohm', 2)}`).join(', ') || 'none'}`}
    >
      <figcaption>
        ESR (up) against capacitance (right), both by tens.{' '}
        {GROUPS.map(([key, words, , colour]) => (
          <span key={key} className={style.key} style={{ color: colour }}>
            {MARK[key]} {words}
          </span>
        ))}{' '}
        Dashes: the most that the standard allows at 100 Hz (from memory). Below the lower line the
        meter tells nothing. Frames hold brothers: one value, one kind.
      </figcaption>
      <ResponsiveContainer width="100%" height={330}>
        <ScatterChart margin={{ top: 8, right: 24, bottom: 4, left: 4 }}>
          <CartesianGrid stroke="var(--rule)" />
          <XAxis
            type="number"
            dataKey="farad"
            scale="log"
            domain={[left, right]}
            ticks={tens(left, right)}
            tickFormatter={faradTick}
            stroke="var(--ink-soft)"
          />
          <YAxis
            type="number"
            dataKey="ohm"
            scale="log"
            domain={[low, high]}
            ticks={tens(low, high)}
            tickFormatter={(ohm: number) => formatQuantity(ohm, 'ohm', 1)}
            stroke="var(--ink-soft)"
            width={70}
          />
          <ZAxis range={[90, 90]} />
          <ReferenceArea y1={low} y2={floor} fill="var(--well)" />
          <ReferenceLine y={floor} stroke="var(--ink-soft)" />
          {brotherFrames(rows, dots).map(({ key, from, to }) => (
            <ReferenceArea
              key={key}
              x1={from[0]}
              x2={to[0]}
              y1={from[1]}
              y2={to[1]}
              fill="none"
              stroke="var(--ink-soft)"
              ifOverflow="hidden"
            />
          ))}
          {limits.length > 1 && (
            <Scatter
              data={limits.map(([farad, ohm]) => ({ farad, ohm }))}
              line={{ stroke: 'var(--ink-soft)', strokeDasharray: '6 4' }}
              shape={() => <g />}
              isAnimationActive={false}
            />
          )}
          {GROUPS.map(([key, , shape, colour]) => (
            <Scatter
              key={key}
              data={dots.filter(({ verdict }) => verdict === key)}
              shape={shape}
              fill={colour}
              stroke={colour}
              isAnimationActive={false}
            />
          ))}
          {bad.map(({ part, farad, ohm }) => (
            <ReferenceLine
              key={part}
              segment={[
                { x: farad, y: ohm },
                { x: farad, y: ohm },
              ]}
              label={{ value: part, position: 'top', fill: 'var(--vermilion)', fontWeight: 700 }}
            />
          ))}
          <Tooltip
            cursor={false}
            isAnimationActive={false}
            content={({ payload }) => {
              const dot = payload?.[0]?.payload as Dot | undefined;
              return dot?.part ? (
                <span className={style.tip}>
                  {dot.part}: {formatQuantity(dot.ohm, 'ohm', 2)} at{' '}
                  {formatQuantity(dot.farad, 'F', 2)}
                </span>
              ) : null;
            }}
          />
        </ScatterChart>
      </ResponsiveContainer>
    </figure>
  );
}

const MARK: Readonly<Record<string, string>> = {
  good: '●',
  doubtful: '▲',
  bad: '✚',
  'cannot-judge': '■',
};

/** As it is printed on parts: 1000 µF, not 1 mF. */
const faradTick = (farad: number): string =>
  farad >= 1e-3 ? `${Math.round(farad * 1e6)} µF` : formatQuantity(farad, 'F', 1);

function tens(from: number, to: number): number[] {
  const found: number[] = [];
  for (let at = Math.round(Math.log10(from)); at <= Math.round(Math.log10(to)); at += 1)
    found.push(10 ** at);
  return found;
}
