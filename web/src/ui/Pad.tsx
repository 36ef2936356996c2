/**
 * A solder pad on the track. hollow: to do. half: begun. filled: done. crossed: not needed. Drawn,
 * and named for those who do not see it.
 */
export function Pad({
  state,
  size = 26,
}: {
  state: 'hollow' | 'half' | 'filled' | 'crossed';
  size?: number;
}) {
  const words = { hollow: 'to do', half: 'begun', filled: 'done', crossed: 'not needed' }[state];
  return (
    <svg width={size} height={size} viewBox="0 0 26 26" role="img" aria-label={words}>
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
    </svg>
  );
}
