import { SkipReason } from '../../case/entry';
import { SKIP_WORDS } from '../../case/wording';
import { Button } from '../../ui/Button';
import style from './SkipReading.module.css';

/** Leaves a proposed reading out, with a reason that bears on what is proposed next. */
export function SkipReading({ onSkip }: { onSkip: (why: SkipReason) => void }) {
  return (
    <details className={style.skip}>
      <summary>Not this one</summary>
      <ul>
        {SkipReason.options.map((why) => (
          <li key={why}>
            <Button look="quiet" onClick={() => onSkip(why)}>
              {SKIP_WORDS[why]}
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
