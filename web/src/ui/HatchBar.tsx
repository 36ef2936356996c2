import { useId } from 'react';

/** A share between 0 and 1 as a hatched length: the surer, the longer and the denser. */
export function HatchBar({
  share,
  height = 14,
  label,
}: {
  share: number;
  height?: number;
  label: string;
}) {
  const id = useId();
  return (
    <svg width="100%" height={height} role="img" aria-label={label}>
      <defs>
        <HatchPattern id={id} share={share} />
      </defs>
      <rect x="0.5" y="0.5" width="99.6%" height={height - 1} fill="none" stroke="var(--rule)" />
      <rect
        x="0.5"
        y="0.5"
        width={`${Math.max(share * 99.6, share > 0.001 ? 0.6 : 0)}%`}
        height={height - 1}
        fill={`url(#${id})`}
        stroke="var(--hatch)"
        strokeWidth="1"
      />
    </svg>
  );
}

/** The hatching of a belief, for what lies in the same drawing. */
export function HatchPattern({ id, share }: { id: string; share: number }) {
  const gap = hatchGap(share);
  return (
    <pattern
      id={id}
      width={gap}
      height={gap}
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <line x1="0" y1="0" x2="0" y2={gap} stroke="var(--hatch)" strokeWidth="2.4" />
    </pattern>
  );
}

/** Distance between hatch lines for a belief, px: 9 for hardly any, 3 for certain. */
function hatchGap(share: number): number {
  return 9 - 6 * Math.min(1, Math.max(0, share));
}
