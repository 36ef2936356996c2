import style from './BesideNote.module.css';
import { besideWords, type Beside } from './beside';

const OUT_WORDS = { higher: 'stands out: higher', lower: 'stands out: lower', other: 'stands out' };

/** What other boards of this kind showed where a reading was taken, and whether it stands out. */
export function BesideNote({ of, value }: { of: Beside | undefined; value: number | string }) {
  if (!of) return null;
  const out = of.standsOut(value);
  return (
    <small className={style.note}>
      {besideWords(of)}
      {out && <b> {OUT_WORDS[out]}</b>}
    </small>
  );
}
