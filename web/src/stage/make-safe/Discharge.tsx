import { useState } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { bleeder, DEFER, ENERGY_LIMIT_JOULE, secondsTo, storedJoule, TOUCH_LIMIT_VOLT, voltAfter, type Hazard } from '@hanzai/core/bench';
import { formatCompact, formatQuantity, parseQuantity } from '@hanzai/core/quantity';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import sheet from '../../ui/Sheet.module.css';

/** Quantities that a bench meets; beyond them something was mistyped. */
const LIMITS = { volt: 5000, farad: 10, ohm: 1e9, seconds: 3600 } as const;

/** A quantity with its unit, or what is wrong with it. */
function quantity(text: string, unit: 'V' | 'F' | 'ohm' | 's', most: number): { value: number } | { wrong: string } {
  const parsed = unit === 's' ? undefined : parseQuantity(text);
  const value = parsed ? (parsed.ok && parsed.value !== 'OL' ? parsed.value : NaN) : Number(text.replace(/\s*s$/, ''));
  if (!(value > 0)) return { wrong: `“${text}” is not understood; expected something like ${{ V: '325', F: '220u', ohm: '22k', s: '10' }[unit]}` };
  if (value > most) return { wrong: `“${text}” is out of any bench's world; expected at most ${unit === 's' ? most : formatCompact(most, unit)}` };
  return { value };
}

/** Volts and energy left on a capacitor against time, by itself and with a resistor across it; what was measured in the end. */
export function Discharge({ state, hazards }: { state: CaseState; hazards: readonly Hazard[] }) {
  const charges = hazards.filter(({ charge }) => charge !== undefined);
  const [key, setKey] = useState(charges[0]?.key ?? '');
  const chosen = charges.find((hazard) => hazard.key === key);
  const [volt, setVolt] = useState(String(Math.round(charges[0]?.charge?.volt ?? 325)));
  const [farad, setFarad] = useState(charges[0]?.charge ? formatCompact(charges[0].charge.farad, 'F') : '220u');
  const [safe, setSafe] = useState('12');
  const [within, setWithin] = useState('10');
  const [measured, setMeasured] = useState('');
  const [refusal, setRefusal] = useState<string>();
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

  function fileMeasured(): void {
    const value = Number(measured.replace(/\s*v$/i, '').replace(',', '.'));
    if (measured.trim() === '' || !(value >= 0) || value > 10_000) return setRefusal(`“${measured}” is no voltage; expected something like 1.8`);
    const objection = state.file({ kind: 'residual', hazard: key, volt: value });
    setRefusal(objection ?? (value > TOUCH_LIMIT_VOLT ? `${value} V is above ${TOUCH_LIMIT_VOLT} V: discharge it again, then read it again` : undefined));
    if (!objection) setMeasured('');
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
      <div className={sheet.form}>
        {(
          [
            ['volt', 'Volts on it', volt, setVolt],
            ['farad', 'Capacitance', farad, setFarad],
            ['safe', 'Safe below, V', safe, setSafe],
            ['within', 'Within, s', within, setWithin],
          ] as const
        ).map(([id, label, value, set]) => (
          <div key={id} className={sheet.narrow}>
            <Field id={`discharge-${id}`} label={label}>
              <input id={`discharge-${id}`} value={value} onChange={(event) => set(event.target.value)} />
            </Field>
          </div>
        ))}{' '}
        {/* prettier-ignore */}
      </div>
      {wrong.length > 0 && <Notice look="attention">{wrong.join('. ')}.</Notice>}
      {'value' in v && 'value' in c && 'value' in s && 'value' in t && <Figures volt={v.value} farad={c.value} safe={s.value} seconds={t.value} />}
      {chosen && (
        <p className={sheet.small}>
          By itself:{' '}
          {chosen.charge!.seconds === undefined
            ? 'nothing known leads it away; it may keep its charge for days'
            : chosen.charge!.seconds === 0
              ? `it never goes above ${TOUCH_LIMIT_VOLT} V`
              : `below ${TOUCH_LIMIT_VOLT} V after ${Math.ceil(chosen.charge!.seconds)} s`}
          .
        </p>
      )}
      {chosen && (
        <div className={sheet.form}>
          <Field id="residual" label={`Measured on ${chosen.charge!.title}, V`} error={refusal}>
            <input id="residual" inputMode="decimal" value={measured} onChange={(event) => setMeasured(event.target.value)} />
          </Field>
          <Button onClick={fileMeasured}>File the voltage</Button>
        </div>
      )}
      <Notice look="harm" title="Mind:">
        Through a resistor, insulated, never with a screwdriver; then measure. {DEFER}
      </Notice>
    </Panel>
  );
}

function Figures({ volt, farad, safe, seconds }: { volt: number; farad: number; safe: number; seconds: number }) {
  const joule = storedJoule(volt, farad);
  const found = bleeder(volt, farad, safe, seconds);
  if (!found) return <p>{volt} V is below {safe} V already.</p>; // prettier-ignore
  const span = 1.8 * found.seconds;
  const points = Array.from({ length: 61 }, (_, i) => ({ t: (span * i) / 60, volt: voltAfter(volt, found.ohm, farad, (span * i) / 60) }));
  const resistor = formatQuantity(found.ohm, 'ohm', 3);
  return (
    <>
      <p>
        It holds <b>{joule < 0.1 ? `${(1000 * joule).toPrecision(3)} mJ` : `${joule.toPrecision(3)} J`}</b>
        {joule >= ENERGY_LIMIT_JOULE && <b className={sheet.harm}> (above {ENERGY_LIMIT_JOULE} J: a ring across it burns)</b>}. Hold{' '}
        <b>
          {resistor}, {found.ratedWatt} W
        </b>
        , good for {Math.ceil(found.ratedVolt)} V, across it for at least <b>{timeText(found.seconds)}</b>; it takes {found.peakWatt.toPrecision(2)} W at first.
        Below {TOUCH_LIMIT_VOLT} V after {timeText(secondsTo(volt, TOUCH_LIMIT_VOLT, found.ohm, farad))}.
      </p>
      <div
        role="img"
        aria-label={`Volts against seconds with ${resistor} across it: ${volt} V at the start, ${safe} V after ${found.seconds.toPrecision(2)} s`}
      >
        <ResponsiveContainer width="100%" height={190}>
          <LineChart data={points} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
            <CartesianGrid stroke="var(--rule)" />
            <XAxis dataKey="t" type="number" domain={[0, span]} tickFormatter={timeText} stroke="var(--ink-soft)" />
            <YAxis tickFormatter={(value: number) => `${value} V`} stroke="var(--ink-soft)" width={58} />
            <ReferenceLine
              y={safe}
              stroke="var(--sea)"
              strokeDasharray="6 4"
              label={{ value: `${safe} V`, fill: 'var(--sea)', position: 'insideBottomRight' }}
            />
            <Line dataKey="volt" stroke="var(--ink)" strokeWidth={2.5} dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </>
  );
}

/** A time as people say it: `9.2 s`, `35 ms`. */
function timeText(seconds: number): string {
  return seconds > 0 && seconds < 0.1 ? `${Number((1000 * seconds).toPrecision(2))} ms` : `${Number(seconds.toPrecision(2))} s`;
}
