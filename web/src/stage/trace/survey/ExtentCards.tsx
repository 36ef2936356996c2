import { useMemo, useState } from 'react';
import { extentPlans, USUAL_FIGURES, worthOf, type ExtentFigures } from '@hanzai/core/survey';
import { EXTENT_WORDS } from '../../../case/kind/surveying';
import { keptFigures } from '../../../case/kept-figures';
import type { CaseState } from '../../../case/use-case';
import { percent, moneyText } from '../../../case/wording';
import { keep } from '../../../store/kept';
import { Button } from '../../../ui/Button';
import { TextField } from '../../../ui/TextField';
import type { SurveyState } from './use-survey';
import style from './Survey.module.css';

const KEY = 'hanzai-extent';
const FIELDS: readonly (readonly [keyof ExtentFigures, string])[] = [
  ['guaranteeHours', 'hours it runs under guarantee'],
  ['hoursSoFar', 'hours it has run'],
  ['celsius', 'warmth inside, °C'],
  ['reopenPrice', 'price of opening it again'],
  ['partPrice', 'price of a capacitor'],
  ['minutesEach', 'minutes for each'],
  ['minutePrice', 'price of a minute'],
  ['padRisk', 'pads that lift, of one'],
  ['padPrice', 'price of mending one'],
  ['ratedHours', 'hours the parts are rated for'],
  ['ratedCelsius', 'at °C'],
];

/** Bad ones, their like, those worth it, all: each with what it takes and what it leaves. */
export function ExtentCards({ state, survey }: { state: CaseState; survey: SurveyState }) {
  const [figures, setFigures] = useState(() => keptFigures<ExtentFigures>(KEY, USUAL_FIGURES));
  const [why, setWhy] = useState<string>();
  const { judged, rows } = survey;
  const parts = useMemo(() => rows.map(({ part }) => part), [rows]);
  const plans = useMemo(
    () => (judged ? extentPlans(parts, judged, figures) : []),
    [parts, judged, figures],
  );
  const worth = useMemo(
    () => (judged ? worthOf(parts, judged, figures) : []),
    [parts, judged, figures],
  );
  if (!judged) return <p role="status">The capacitors are being judged …</p>;
  const cheapest = Math.min(...plans.map(({ priceInAll }) => priceInAll));
  const chosen = state.journal.extent?.body;
  const unread = rows.filter(({ read }) => read === undefined).length;
  return (
    <div className={style.extent}>
      {unread > 0 && (
        <p>
          {unread} are not read: they are weighed by what is usual for their kind and age, not as
          good.
        </p>
      )}
      {plans.length === 0 ? (
        <p>None is bad, and none of them wears out: there is nothing to replace.</p>
      ) : (
        <table className={style.table} aria-label="How far to go">
          <thead>
            <tr>
              <th scope="col">replace</th>
              <th scope="col">hours</th>
              <th scope="col">price</th>
              <th scope="col">pads that lift</th>
              <th scope="col">comes back</th>
              <th scope="col">with that</th>
              <th scope="col"></th>
            </tr>
          </thead>
          <tbody>
            {plans.map((plan) => (
              <tr key={plan.extent} aria-current={chosen?.extent === plan.extent || undefined}>
                <th scope="row">
                  {EXTENT_WORDS[plan.extent]}
                  <small>
                    {plan.refs.length}: {plan.refs.join(', ')}
                  </small>
                </th>
                <td className="mono">{plan.hours.toFixed(1)}</td>
                <td className="mono">{moneyText(plan.price)}</td>
                <td className="mono">{plan.padsLifted.toFixed(1)}</td>
                <td className="mono">{percent(plan.returns)}</td>
                <td className="mono">
                  {moneyText(plan.priceInAll)}{' '}
                  {plan.priceInAll === cheapest && <small>least in all</small>}
                </td>
                <td>
                  <Button
                    onClick={() =>
                      setWhy(
                        state.append({
                          kind: 'extent',
                          extent: plan.extent,
                          refs: [...plan.refs],
                          reason: `${plan.hours.toFixed(1)} h, ${moneyText(plan.price)}; comes back ${percent(plan.returns)} under guarantee, ${moneyText(plan.priceInAll)} with that`,
                        }),
                      )
                    }
                  >
                    Choose
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {why !== undefined && <p role="alert">Not filed: {why}.</p>}
      <h3>Part by part</h3>
      <p>
        The line falls at {worth.filter(({ isWorth }) => isWorth).length} of {worth.length}: those
        whose chance of coming back times the price of opening ({moneyText(figures.reopenPrice)}) is
        more than part, minutes and pads ({moneyText(worth[0]?.price ?? 0)}).{' '}
        {[0.5, 2, 5]
          .map((times) => {
            const count = worth.filter(({ breakEven }) => breakEven < times * figures.reopenPrice);
            return `${count.length} at ${moneyText(times * figures.reopenPrice)}`;
          })
          .join(', ')}
        .
      </p>
      <ul className={style.worth}>
        {worth.slice(0, 12).map((one) => (
          <li key={one.ref} data-worth={one.isWorth}>
            <b className="mono">{one.ref}</b> {percent(one.returns)} comes back:{' '}
            {moneyText(one.atStake)} against {moneyText(one.price)}
            {Number.isFinite(one.breakEven) && `, worth it from ${moneyText(one.breakEven)} on`}
          </li>
        ))}
      </ul>
      <details>
        <summary>Figures (the rule of ten degrees; the first ones are from memory)</summary>
        <div className={style.figures}>
          {FIELDS.map(([key, label]) => (
            <TextField
              key={key}
              id={`extent-${key}`}
              label={label}
              inputMode="decimal"
              defaultValue={String(figures[key])}
              onChange={(event) => {
                const value = Number(event.target.value.replace(',', '.'));
                if (event.target.value.trim() === '' || !(value >= 0)) return;
                const next = { ...figures, [key]: value };
                setFigures(next);
                keep(KEY, JSON.stringify(next));
              }}
            />
          ))}
        </div>
      </details>
    </div>
  );
}
