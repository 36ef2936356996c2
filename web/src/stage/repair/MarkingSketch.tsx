import type { Marking } from '@hanzai/core/part';

/**
 * The mark of a part as it is seen from above, and the leg that it lies at; drawn for this product,
 * no symbol of a standard.
 */
export function MarkingSketch({ marking: { sign, at } }: { marking: Marking }) {
  return (
    <svg
      viewBox="0 0 64 28"
      width="64"
      height="28"
      role="img"
      aria-label={`${SKETCH_WORDS[sign]}${at ? `, at ${at}` : ''}`}
    >
      <g fill="none" stroke="currentColor" strokeWidth="2">
        {BODY[sign]}
      </g>
    </svg>
  );
}

// prettier-ignore
const SKETCH_WORDS: Readonly<Record<Marking['sign'], string>> = {
  'stripe-minus': 'round can, stripe at the minus leg', 'stripe-plus': 'block, stripe at the plus leg', band: 'band at the cathode', notch: 'notch at pin 1', flat: 'flat side towards you', 'type-print': 'print towards you',
};

const BODY: Readonly<Record<Marking['sign'], React.ReactNode>> = {
  'stripe-minus': (
    <>
      <circle cx="32" cy="14" r="12" />
      <path d="M39 5 A12 12 0 0 1 39 23 Z" fill="currentColor" />
      <path d="M11 14 h6 M14 11 v6 M48 14 h6" />
    </>
  ),
  'stripe-plus': (
    <>
      <rect x="18" y="4" width="28" height="20" rx="2" />
      <rect x="18" y="4" width="6" height="20" fill="currentColor" />
      <path d="M8 14 h6 M11 11 v6 M50 14 h6" />
    </>
  ),
  band: (
    <>
      <path d="M4 14 h14 M46 14 h14" />
      <rect x="18" y="6" width="28" height="16" />
      <rect x="39" y="6" width="4" height="16" fill="currentColor" />
    </>
  ),
  notch: (
    <>
      <rect x="14" y="5" width="38" height="18" />
      <path d="M14 10 a4 4 0 0 1 0 8" />
      <circle cx="20" cy="20" r="1" />
    </>
  ),
  flat: <path d="M20 22 h24 a13 13 0 0 0 -24 0 Z" />,
  'type-print': (
    <>
      <rect x="18" y="4" width="28" height="14" />
      <path d="M24 18 v8 M32 18 v8 M40 18 v8 M24 9 h16 M24 13 h10" />
    </>
  ),
};
