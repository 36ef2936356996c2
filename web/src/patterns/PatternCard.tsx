import { ARCHETYPES } from '@hanzai/data';
import { minutesText, oddsWords } from '../case/wording';
import { Fold } from '../ui/Fold';
import { HatchBar } from '../ui/HatchBar';
import { Small } from '../ui/Words';
import { CaseLinks } from './CaseLinks';
import { firstTests } from './first-tests';
import type { TaughtPattern } from './patterns';
import style from './Patterns.module.css';

/** Suspects worth a line, and first tests. */
const SHOWN = 5;
const TESTS = 4;

/** What is seen, what is behind it with its odds before and now, and where each is from. */
export function PatternCard({ pattern }: { pattern: TaughtPattern }) {
  const { unitTitle, seen, because, suspects, cases } = pattern;
  return (
    <li className={style.pattern}>
      <h2>{seen}</h2>
      <Small>
        {unitTitle} · {because} · common practice
      </Small>
      <ol>
        {suspects.slice(0, SHOWN).map(({ name, title, before, share, interval, seen: count }) => (
          <li key={name}>
            <span>{title}</span>
            <span className={style.bar}>
              <HatchBar share={share} label={`${title}: ${oddsWords(share)}`} />
            </span>
            <b className="mono">{oddsWords(share)}</b>
            <Small as="span">
              {cases.length === 0
                ? ''
                : `${Number(count.toFixed(1))} of ${cases.length} here (${Math.round(100 * interval.low)} to ${Math.round(100 * interval.high)} %), ${before === 0 ? 'not thought of' : oddsWords(before)} before`}
            </Small>
          </li>
        ))}
      </ol>
      <MoreOf pattern={pattern} />
      {cases.length === 0 ? (
        <Small>No case of ours yet.</Small>
      ) : (
        <p>
          Cases: <CaseLinks numbers={cases} />
        </p>
      )}
    </li>
  );
}

/** First tests of a pattern, what cured it here, and what a wrong guess costs. */
function MoreOf({ pattern }: { pattern: TaughtPattern }) {
  const { unit, suspects, parts, repairMinutes } = pattern;
  const model = ARCHETYPES.find(({ name }) => name === unit);
  const tests = model ? firstTests(pattern, model).slice(0, TESTS) : [];
  const wrong = 1 - (suspects[0]?.share ?? 0);
  return (
    <Fold>
      <summary>First tests, usual parts, a wrong guess</summary>
      {tests.length > 0 ? (
        <>
          <Small>By what a minute tells:</Small>
          <ul className={style.plain}>
            {tests.map(({ title, minutes, caution }) => (
              <li key={title}>
                {title}, {minutesText(minutes)}
                {caution !== undefined && <em> {caution}</em>}
              </li>
            ))}
          </ul>
          <Small>Follow local codes; mains and laser work only if you are qualified.</Small>
        </>
      ) : (
        <Small>No short test is known for its suspects: measure.</Small>
      )}
      {parts.length === 0 ? (
        <Small>Nothing was replaced for it here yet.</Small>
      ) : (
        <>
          <Small>What it was here:</Small>
          <ul className={style.plain}>
            {parts.map((part) => (
              <li key={`${part.board} ${part.ref} ${part.of}`}>{partWords(part)}</li>
            ))}
          </ul>
        </>
      )}
      <p>
        Whoever replaces the first at once is wrong {oddsWords(wrong)}
        {repairMinutes === null
          ? ': a repair and its proof for nothing.'
          : `: a repair and its proof for nothing, ${minutesText(repairMinutes)} in half of such cases.`}
      </p>
    </Fold>
  );
}

const partWords = ({ board, ref, of, seen }: TaughtPattern['parts'][number]): string =>
  `${Number(seen.toFixed(1))} times ${ref === '' ? of : `${ref}, ${of}`}${board === '' ? '' : `, ${board}`}`;
