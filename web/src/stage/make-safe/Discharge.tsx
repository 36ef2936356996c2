import { useState } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import {
  bleeder,
  type Bleeder,
  ENERGY_LIMIT_JOULE,
  leftWords,
  secondsTo,
  storedJoule,
  TOUCH_LIMIT_VOLT,
  voltAfter,
  type Hazard,
} from '@hanzai/core/bench';
import { formatCompact, formatQuantity, parseQuantity } from '@hanzai/core/quantity';
import { Caution } from '../../case/Caution';
import { Field } from '../../ui/Field';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { FormRow, Narrow } from '../../ui/FormRow';
import { Small } from '../../ui/Words';
import tone from '../../ui/Words.module.css';

/** Quantities that a bench meets; beyond them something was mistyped. */
const LIMITS = { volt: 5000, farad: 10, ohm: 1e9, seconds: 3600 } as const;

/** A quantity with its unit, or what is wrong with it. */
function quantity(
  text: string,
  unit: 'V' | 'F' | 'ohm' | 's',
  most: number,
): { value: number } | { wrong: string } {
  const parsed = unit === 's' ? undefined : parseQuantity(text);
  const value = parsed
    ? parsed.ok && parsed.value !== 'OL'
      ? parsed.value
      : NaN
    : Number(text.replace(/\s*s$/, ''));
  if (!(value > 0))
    return {
      wrong: `“${text}” is not understood; expected something like ${{ V: '325', F: '220u', ohm: '22k', s: '10' }[unit]}`,
    };
  if (value > most)
    return {
      wrong: `“${text}” is out of any bench's world; expected at most ${unit === 's' ? most : formatCompact(most, unit)}`,
    };
  return { value };
}

/**
 * Volts and energy left on a capacitor against time, by itself and with a resistor across it; what
 * was measured in the end.
 */
export function Discharge({ hazards }: { hazards: readonly Hazard[] }) {
  const charges = hazards.filter(({ charge }) => charge !== undefined);
  const [key, setKey] = useState(charges[0]?.key ?? '');
  const chosen = charges.find((hazard) => hazard.key === key);
  const [volt, setVolt] = useState(String(Math.round(charges[0]?.charge?.volt ?? 325)));
  const [farad, setFarad] = useState(
    charges[0]?.charge ? formatCompact(charges[0].charge.farad, 'F') : '220u',
  );
  const [safe, setSafe] = useState('12');
  const [within, setWithin] = useState('10');
  const [v, c, s, t] = [
    quantity(volt, 'V', LIMITS.volt),
    quantity(farad, 'F', LIMITS.farad),
    quantity(safe, 'V', LIMITS.volt),
    quantity(within, 's', LIMITS.seconds),
  ];
  const wrong = [v, c, s, t].flatMap((one) => ('wrong' in one ? [one.wrong] : []));

  function choose(next: string): void {
    setKey(next);
    const charge = charges.find((hazard) => hazard.key === next)?.charge;
    if (!charge) return;
    setVolt(String(Math.round(charge.volt)));
    setFarad(formatCompact(charge.farad, 'F'));
  }

  return (
    <Panel title="What is left on a capacitor" framed>
      {charges.length > 0 && (
        <Field id="charge" label="Which">
          <select id="charge" value={key} onChange={(event) => choose(event.target.value)}>
            <option value="">one of my own</option>
            {charges.map((hazard) => (
              <option key={hazard.key} value={hazard.key}>
                {hazard.charge!.title}
              </option>
            ))}
          </select>
        </Field>
      )}
      <FormRow>
        {(
          [
            ['volt', 'Volts on it', volt, setVolt],
            ['farad', 'Capacitance', farad, setFarad],
            ['safe', 'Down to, V', safe, setSafe],
            ['within', 'Within, s', within, setWithin],
          ] as const
        ).map(([id, label, value, set]) => (
          <Narrow key={id}>
            <Field id={`discharge-${id}`} label={label}>
              <input
                id={`discharge-${id}`}
                value={value}
                onChange={(event) => set(event.target.value)}
              />
            </Field>
          </Narrow>
        ))}{' '}
      </FormRow>
      {wrong.length > 0 && <Notice look="attention">{wrong.join('. ')}.</Notice>}
      {'value' in v && 'value' in c && 'value' in s && 'value' in t && (
        <Figures volt={v.value} farad={c.value} safe={s.value} seconds={t.value} />
      )}
      {chosen && (
        <Small>
          By itself: {leftWords(chosen.charge!.seconds)}. The volts that you read go beside the
          hazard.
        </Small>
      )}
      <Caution of="bleeding" again />
    </Panel>
  );
}

function Figures({
  volt,
  farad,
  safe,
  seconds,
}: {
  volt: number;
  farad: number;
  safe: number;
  seconds: number;
}) {
  const joule = storedJoule(volt, farad);
  const found = bleeder(volt, farad, safe, seconds);
  if (!found)
    return (
      <p>
        {volt} V is below {safe} V already.
      </p>
    );
  const span = 1.8 * found.seconds;
  const points = Array.from({ length: 61 }, (_, i) => ({
    t: (span * i) / 60,
    volt: voltAfter(volt, found.ohm * found.inSeries, farad, (span * i) / 60),
  }));
  const resistor = resistorWords(found);
  return (
    <>
      <p>
        It holds{' '}
        <b>{joule < 0.1 ? `${(1000 * joule).toPrecision(3)} mJ` : `${joule.toPrecision(3)} J`}</b>
        {joule >= ENERGY_LIMIT_JOULE && (
          <b className={tone.harm}> (above {ENERGY_LIMIT_JOULE} J: a ring across it burns)</b>
        )}
        . Hold <b>{resistorWords(found)}</b>, across it for at least{' '}
        <b>{timeText(found.seconds)}</b>, then read the volts.{' '}
        {found.lengthened && (
          <b>No resistor of a bench stands {timeText(seconds)}: it takes longer. </b>
        )}
        Below {TOUCH_LIMIT_VOLT} V after{' '}
        {timeText(secondsTo(volt, TOUCH_LIMIT_VOLT, found.ohm * found.inSeries, farad))}.
      </p>
      <div
        role="img"
        aria-label={`Volts against seconds with ${resistor} across it: ${volt} V at the start, ${safe} V after ${found.seconds.toPrecision(2)} s`}
      >
        <ResponsiveContainer width="100%" height={190}>
          <LineChart data={points} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
            <CartesianGrid stroke="var(--rule)" />
            <XAxis
              dataKey="t"
              type="number"
              domain={[0, span]}
              tickFormatter={timeText}
              stroke="var(--ink-soft)"
            />
            <YAxis
              tickFormatter={(value: number) => `${value} V`}
              stroke="var(--ink-soft)"
              width={58}
            />
            <ReferenceLine
              y={safe}
              stroke="var(--sea)"
              strokeDasharray="6 4"
              label={{ value: `${safe} V`, fill: 'var(--sea)', position: 'insideBottomRight' }}
            />
            <Line
              dataKey="volt"
              stroke="var(--ink)"
              strokeWidth={2.5}
              dot={false}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </>
  );
}

/**
 * What to take out of the drawer: `5.6 kΩ, 5 W wire-wound`, `two of 2.7 kΩ, 10 W wire-wound in
 * series`.
 */
function resistorWords({ ohm, inSeries, ratedWatt }: Bleeder): string {
  const one = `${formatQuantity(ohm, 'ohm', 3)}, ${ratedWatt} W${ratedWatt >= 5 ? ' wire-wound' : ''}`;
  return inSeries === 1 ? one : `${inSeries} of ${one}, in series`;
}

/** A time as people say it: `9.2 s`, `35 ms`. */
function timeText(seconds: number): string {
  return seconds > 0 && seconds < 0.1
    ? `${Number((1000 * seconds).toPrecision(2))} ms`
    : `${Number(seconds.toPrecision(2))} s`;
}
