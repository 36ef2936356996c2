import { ButtonLink } from '../ui/Button';
import style from './PracticeBar.module.css';
import type { PracticeLink } from './practice-link';
import { minutesText } from './wording';

/**
 * Over every screen of an exercise: that it is none of a unit, what its owner says, what it has
 * cost so far.
 */
export function PracticeBar({ practice, home }: { practice: PracticeLink; home: string }) {
  const { minutes, damage, complaint, level, failure } = practice;
  return (
    <section className={style.bar} aria-label="Exercise">
      <strong className={style.flag}>Exercise, no real unit</strong>
      <span className={style.words}>
        {failure ? (
          <b role="alert">{failure}</b>
        ) : minutes === undefined ? (
          <span role="status">the bench is being set up …</span>
        ) : (
          <>
            <q>{complaint}</q> <small>{level}</small>
          </>
        )}
      </span>
      {minutes !== undefined && (
        <span className={style.clock} role="status" title="Bench minutes, not seconds of typing">
          {minutesText(minutes)} at the bench
          {damage.length > 0 && <b>, {damage.length} harmed</b>}
        </span>
      )}
      <ButtonLink look="main" href={`${home}/debrief`}>
        Done: how was it?
      </ButtonLink>
    </section>
  );
}
