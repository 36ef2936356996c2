import { readRings, ringsOf, readFigure, type Typed } from '@hanzai/core/reckon';
import type { ReactNode } from 'react';
import style from './Reckoner.module.css';

/** A box of a resistor on a wire, from its middle; upright unless it lies. */
const Box = ({
  x,
  y,
  lies = false,
  name,
}: {
  x: number;
  y: number;
  lies?: boolean;
  name: string;
}) => (
  <g>
    <rect
      x={x - (lies ? 22 : 9)}
      y={y - (lies ? 9 : 22)}
      width={lies ? 44 : 18}
      height={lies ? 18 : 44}
      className={style.body}
    />
    <text x={lies ? x : x + 14} y={lies ? y - 14 : y + 4} textAnchor={lies ? 'middle' : 'start'}>
      {name}
    </text>
  </g>
);
/** Two plates of a capacitor, upright. */
const Plates = ({ x, y, name }: { x: number; y: number; name: string }) => (
  <g>
    <path d={`M${x - 16} ${y - 5}H${x + 16}M${x - 16} ${y + 5}H${x + 16}`} />
    <text x={x + 22} y={y + 4}>
      {name}
    </text>
  </g>
);
const Ground = ({ x, y }: { x: number; y: number }) => (
  <path d={`M${x - 12} ${y}H${x + 12}M${x - 7} ${y + 5}H${x + 7}M${x - 3} ${y + 10}H${x + 3}`} />
);
const Word = ({ x, y, children }: { x: number; y: number; children: string }) => (
  <text x={x} y={y}>
    {children}
  </text>
);
const Diode = ({ x, y, name }: { x: number; y: number; name: string }) => (
  <g>
    <path d={`M${x - 10} ${y - 9}H${x + 10}L${x} ${y + 9}ZM${x - 10} ${y + 9}H${x + 10}`} />
    <text x={x + 16} y={y + 4}>
      {name}
    </text>
  </g>
);

const PICTURES: Readonly<Record<string, ReactNode>> = {
  divider: (
    <>
      <path d="M100 12V28M100 72V100M100 144V160M100 86H170V92M170 136V150H100" />
      <Word x={110} y={18}>
        V in
      </Word>
      <Box x={100} y={50} name="R1" />
      <Box x={100} y={122} name="R2" />
      <Box x={170} y={114} name="RL" />
      <Ground x={100} y={160} />
    </>
  ),
  together: (
    <>
      <path d="M10 40H28M72 40H98M142 40H160M20 110H40V90H58M40 110V140H58M102 90H120V140H102M120 110H150" />
      <Box x={50} y={40} lies name="1" />
      <Box x={120} y={40} lies name="2" />
      <Box x={80} y={90} lies name="1" />
      <Box x={80} y={140} lies name="2" />
    </>
  ),
  rc: (
    <>
      <path d="M20 60H48M92 60H150M150 60V105M150 115V150" />
      <Word x={10} y={50}>
        V∞
      </Word>
      <Box x={70} y={60} lies name="R" />
      <Plates x={150} y={110} name="C" />
      <Ground x={150} y={150} />
    </>
  ),
  discharge: (
    <>
      <path d="M60 30H150M60 30V85M60 95V150H150M150 30V68M150 112V150" />
      <Plates x={60} y={90} name="C" />
      <Box x={150} y={90} name="R" />
    </>
  ),
  reactance: (
    <>
      <path d="M100 12V28M100 72V105M100 115V150" />
      <Box x={100} y={50} name="ESR" />
      <Plates x={100} y={110} name="C" />
    </>
  ),
  led: (
    <>
      <path d="M100 12V28M100 72V95M100 113V150" />
      <Word x={110} y={18}>
        V
      </Word>
      <Box x={100} y={50} name="R" />
      <Diode x={100} y={104} name="Vf" />
      <path d="M126 92l12 -8M130 100l12 -8" />
      <Ground x={100} y={150} />
    </>
  ),
  zener: (
    <>
      <path d="M20 50H48M92 50H190M130 50V85M130 105V150M180 50V68M180 112V150H130" />
      <Box x={70} y={50} lies name="R" />
      <path d="M120 105H140L130 87ZM118 90L122 86H138L142 82" />
      <Box x={180} y={90} name="load" />
      <Ground x={130} y={150} />
    </>
  ),
  switch: (
    <>
      <path d="M20 100H48M92 100H120M120 80V120M120 92L150 74V66M120 108L150 126V150M150 12V22" />
      <Box x={150} y={44} name="load" />
      <Box x={70} y={100} lies name="Rb" />
      <Ground x={150} y={150} />
    </>
  ),
  'pull-up': (
    <>
      <path d="M90 8V22M90 66V90M20 90H200M60 90V110M140 90V110" />
      <Box x={90} y={44} name="R" />
      <rect x="40" y="110" width="40" height="28" className={style.body} />
      <rect x="120" y="110" width="40" height="28" className={style.body} />
      <Word x={34} y={156}>
        open out
      </Word>
      <Word x={128} y={156}>
        in
      </Word>
    </>
  ),
  regulator: (
    <>
      <path d="M20 60H60M140 60H190M100 90V130" />
      <rect x="60" y="35" width="80" height="55" className={style.body} />
      <Word x={14} y={50}>
        V in
      </Word>
      <Word x={150} y={50}>
        V out
      </Word>
      <Ground x={100} y={130} />
    </>
  ),
  belt: (
    <>
      <circle cx="60" cy="85" r="44" />
      <circle cx="180" cy="85" r="16" />
      <path d="M69 42L184 69M69 128L184 101" />
      <path d="M60 85H180" className={style.thin} />
      <Word x={110} y={80}>
        a
      </Word>
    </>
  ),
  slip: (
    <>
      <circle cx="60" cy="85" r="44" />
      <circle cx="180" cy="85" r="16" />
      <path d="M69 42L184 69M69 128L184 101" />
      <Word x={36} y={89}>
        n₂, D
      </Word>
      <Word x={170} y={120}>
        n₁, d
      </Word>
    </>
  ),
};

/** The picture of what is computed: a drawing, or the rings as they sit on the part. */
export function Picture({ name, typed }: { name: string; typed: Typed }) {
  if (name === 'rings' || name === 'to-rings') return <Rings name={name} typed={typed} />;
  const picture = PICTURES[name];
  if (!picture) return null;
  return (
    <svg viewBox="0 0 230 175" className={style.picture} aria-hidden="true">
      {picture}
    </svg>
  );
}

const RING_COLOURS: Readonly<Record<string, string>> = {
  black: '#1b1b1b', brown: '#6b3f1d', red: '#c4281c', orange: '#e8831a', yellow: '#ecd02f',
  green: '#2f7d3b', blue: '#2457a6', violet: '#7a4b9b', grey: '#8b8b8b', white: '#f7f7f7',
  gold: '#c9a227', silver: '#c3c7cb', pink: '#eaa5b8',
}; // prettier-ignore

function Rings({ name, typed }: { name: string; typed: Typed }) {
  const rings = name === 'rings' ? typedRings(typed.rings ?? '') : madeRings(typed);
  return (
    <svg viewBox="0 0 230 90" className={style.picture} aria-hidden="true">
      <path d="M5 45H40M190 45H225" />
      <rect x="40" y="22" width="150" height="46" rx="12" className={style.ceramic} />
      {rings.map((ring, i) => (
        <rect
          key={i}
          x={56 + i * (i === rings.length - 1 ? 21 : 20)}
          y="22"
          width="10"
          height="46"
          fill={RING_COLOURS[ring]}
          stroke="none"
        />
      ))}
    </svg>
  );
}

function typedRings(said: string): readonly string[] {
  try {
    readRings(said);
  } catch {
    return [];
  }
  return said
    .toLowerCase()
    .split(/[\s,;/-]+/)
    .map((one) => (one === 'purple' ? 'violet' : one === 'gray' ? 'grey' : one))
    .filter((one) => one in RING_COLOURS);
}

function madeRings({ ohm = '', tolerance = '5' }: Typed): readonly string[] {
  const read = readFigure(ohm, 'ohm');
  return (read.ok && ringsOf(read.value.value, Number(tolerance))) || [];
}
