import { Small } from '../ui/Words';

/** Cases that a list leads to at once. */
const SHOWN = 8;

/** The cases behind a figure. */
export function CaseLinks({ numbers }: { numbers: readonly number[] }) {
  if (numbers.length === 0) return <Small as="span">no case yet</Small>;
  return (
    <>
      {numbers.slice(0, SHOWN).map((number, i) => (
        <span key={number}>
          {i > 0 && ', '}
          <a href={`/case/${number}/hand-back`} aria-label={`case ${number}`}>
            {number}
          </a>
        </span>
      ))}
      {numbers.length > SHOWN && ` and ${numbers.length - SHOWN} more`}
    </>
  );
}
