import { oddsWords } from '../case/wording';
import { HatchBar } from '../ui/HatchBar';
import { Small } from '../ui/Words';
import { CaseLinks } from './CaseLinks';
import type { TaughtPattern } from './patterns';
import style from './Patterns.module.css';

/** Suspects worth a line. */
const SHOWN = 5;

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
        {suspects.slice(0, SHOWN).map(({ name, title, before, share, seen: count }) => (
          <li key={name}>
            <span>{title}</span>
            <span className={style.bar}>
              <HatchBar share={share} label={`${title}: ${oddsWords(share)}`} />
            </span>
            <b className="mono">{oddsWords(share)}</b>
            <Small as="span">
              {cases.length === 0
                ? ''
                : `${Number(count.toFixed(1))} of ${cases.length} here, ${before === 0 ? 'not thought of' : oddsWords(before)} before`}
            </Small>
          </li>
        ))}
      </ol>
      <p>
        Cases: <CaseLinks numbers={cases} />
      </p>
    </li>
  );
}
