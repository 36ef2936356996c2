export type PadLook = 'hollow' | 'half' | 'filled' | 'crossed';

const WORDS: Readonly<Record<PadLook, string>> = {
  hollow: 'to do',
  half: 'begun',
  filled: 'done',
  crossed: 'not needed',
};
const BOX = '0 0 26 26';
const idOf = (state: PadLook): string => `pad-${state}`;

/**
 * A solder pad on the track. hollow: to do. half: begun. filled: done. crossed: not needed. Drawn,
 * and named for those who do not see it.
 */
export function Pad({ state, size = 26 }: { state: PadLook; size?: number }) {
  return (
    <svg width={size} height={size} viewBox={BOX} role="img" aria-label={WORDS[state]}>
      <Drawing state={state} />
    </svg>
  );
}

/** The same where a page has hundreds: it is drawn once, by `PadDrawings` on the same page. */
export function PadCopy({ state, size }: { state: PadLook; size: number }) {
  return (
    <svg width={size} height={size} role="img" aria-label={WORDS[state]}>
      <use href={`#${idOf(state)}`} />
    </svg>
  );
}

/** What every `PadCopy` of a page is a copy of. */
export function PadDrawings() {
  return (
    <svg width="0" height="0" style={{ position: 'absolute' }} aria-hidden="true">
      {(Object.keys(WORDS) as PadLook[]).map((state) => (
        <symbol key={state} id={idOf(state)} viewBox={BOX}>
          <Drawing state={state} />
        </symbol>
      ))}
    </svg>
  );
}

function Drawing({ state }: { state: PadLook }) {
  return (
    <>
      <circle cx="13" cy="13" r="10.5" fill="var(--sheet)" stroke="var(--copper)" strokeWidth="4" />
      {state === 'half' && <path d="M13 4.5 A8.5 8.5 0 0 0 13 21.5 Z" fill="var(--copper)" />}
      {state === 'filled' && <circle cx="13" cy="13" r="9" fill="var(--copper)" />}
      {state === 'crossed' && (
        <path
          d="M7.5 7.5 L18.5 18.5 M18.5 7.5 L7.5 18.5"
          stroke="var(--copper)"
          strokeWidth="2.5"
        />
      )}
      {state !== 'crossed' && (
        <circle cx="13" cy="13" r="2.6" fill={state === 'filled' ? 'var(--sheet)' : 'var(--ink)'} />
      )}
    </>
  );
}
