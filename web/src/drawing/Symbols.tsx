import type { ReactNode } from 'react';
import type { Gate } from './gates';
import type { Glyph, TwoPin } from './drawn';
import style from './Drawing.module.css';

/**
 * Symbols of our own drawing, on the lines of IEC 60617 (from memory): one stroke width, no fills
 * but where the standard has one. Each lies along x with its middle at 0, 0; pin 1 is at -half, pin 2
 * at +half.
 */

/** How far from the middle the body of a symbol reaches, px. */
export const BODY = 22;

const leads = (half: number, from: number, to = from): ReactNode => (
  <path className={style.lead} d={`M${-half} 0H${-from} M${to} 0H${half}`} />
);

const DIODE = 'M-12 -12L12 0L-12 12Z';

/** One symbol of two pins; half: from its middle to the ends of its leads. */
export function TwoPinSymbol({
  symbol,
  half,
  turn = 0,
}: {
  symbol: TwoPin;
  half: number;
  /** By how much it is drawn turned, degrees: letters in it stay upright. */
  turn?: number;
}) {
  switch (symbol) {
    case 'resistor':
      return (
        <>
          {leads(half, BODY)}
          <rect className={style.body} x={-BODY} y={-9} width={2 * BODY} height={18} />
        </>
      );
    case 'capacitor':
      return (
        <>
          {leads(half, 5)}
          <path className={style.line} d="M-5 -17V17 M5 -17V17" />
        </>
      );
    case 'polarised':
      return (
        <>
          {leads(half, 10)}
          <rect className={style.body} x={-10} y={-17} width={8} height={34} />
          <rect className={style.solid} x={3} y={-17} width={7} height={34} />
          <path className={style.fine} d="M-21 -13h10 M-16 -18v10" />
        </>
      );
    case 'coil':
      return (
        <>
          {leads(half, 24)}
          <path
            className={style.line}
            d="M-24 0a6 7 0 0 1 12 0a6 7 0 0 1 12 0a6 7 0 0 1 12 0a6 7 0 0 1 12 0"
          />
        </>
      );
    case 'motor':
      return (
        <>
          {leads(half, 16)}
          <circle className={style.body} r={16} />
          <text className={style.sign} y={6} transform={`rotate(${-turn})`}>
            M
          </text>
        </>
      );
    case 'head':
      // A coil on a core with a gap towards the medium.
      return (
        <>
          {leads(half, 18)}
          <path
            className={style.line}
            d="M-18 0a4.5 6 0 0 1 9 0a4.5 6 0 0 1 9 0a4.5 6 0 0 1 9 0a4.5 6 0 0 1 9 0"
          />
          <path className={style.line} d="M-18 6V14H-3 M3 14H18V6" />
        </>
      );
    case 'lamp':
      return (
        <>
          {leads(half, 15)}
          <circle className={style.body} r={15} />
          <path className={style.line} d="M-10.6 -10.6L10.6 10.6 M-10.6 10.6L10.6 -10.6" />
        </>
      );
    case 'crystal':
      return (
        <>
          {leads(half, 12)}
          <path className={style.line} d="M-12 -14V14 M12 -14V14" />
          <rect className={style.body} x={-6} y={-16} width={12} height={32} />
        </>
      );
    case 'diode':
      return (
        <>
          {leads(half, 12)}
          <path className={style.body} d={DIODE} />
          <path className={style.line} d="M12 -13V13" />
        </>
      );
    case 'zener':
      return (
        <>
          {leads(half, 12)}
          <path className={style.body} d={DIODE} />
          <path className={style.line} d="M12 -13V13H5" />
        </>
      );
    case 'led':
      return (
        <>
          {leads(half, 12)}
          <path className={style.body} d={DIODE} />
          <path className={style.line} d="M12 -13V13" />
          <path className={style.fine} d="M-2 -13l8 -9m-5 1l5 -1l0 5 M8 -13l8 -9m-5 1l5 -1l0 5" />
        </>
      );
    case 'fuse':
      return (
        <>
          <rect className={style.body} x={-BODY} y={-8} width={2 * BODY} height={16} />
          <path className={style.lead} d={`M${-half} 0H${half}`} />
        </>
      );
    case 'switchOpen':
      return (
        <>
          {leads(half, 14)}
          <path className={style.line} d="M-14 0L12 -13" />
        </>
      );
    case 'switchClosed':
      return (
        <>
          {leads(half, 14)}
          <path className={style.line} d="M-14 0L16 -6 M14 0V-11" />
        </>
      );
    case 'contact':
      return (
        <>
          {leads(half, 10)}
          <rect className={style.solid} x={-12} y={-4} width={14} height={8} />
          <path className={style.line} d="M12 -9a9 9 0 1 0 0 18" />
        </>
      );
    case 'link':
      return (
        <>
          <path className={style.lead} d={`M${-half} 0H${half}`} />
          <circle className={style.solid} cx={-BODY} r={3.5} />
          <circle className={style.solid} cx={BODY} r={3.5} />
        </>
      );
    case 'supply':
      return (
        <>
          <circle className={style.body} r={17} />
          <path className={style.lead} d={`M${-half} 0H${half}`} />
          <path className={style.fine} d="M-31 -13h10 M-26 -18v10" />
        </>
      );
    case 'current':
      return (
        <>
          {leads(half, 17)}
          <circle className={style.body} r={17} />
          <path className={style.line} d="M0 -17V17" />
        </>
      );
    default:
      return (
        <>
          {leads(half, BODY)}
          <rect className={style.body} x={-BODY} y={-15} width={2 * BODY} height={30} />
          <path className={style.fine} d={`M${-BODY} -15L${BODY} 15`} />
        </>
      );
  }
}

/** The sign of ground, hanging from 0, 0. */
export function GroundSign() {
  return <path className={style.ground} d="M0 0v8 M-12 8h24 M-7 13h14 M-2.5 18h5" />;
}

/** The sign of a supply, standing on 0, 0, with its name above. */
export function RailSign({ name, x, y }: { name: string; x: number; y: number }) {
  return (
    <g transform={`translate(${x} ${y})`}>
      <path className={style.rail} d="M0 0v-7 M-12 -7h24" />
      <text className={style.railName} y={-12}>
        {name}
      </text>
    </g>
  );
}

/**
 * A transistor in a frame of 92 by 108: base at 0, 54; the upper electrode at 92, 20, the lower at
 * 92, 88. up, down: whether these leads run to the right edge.
 */
export function TransistorSymbol({
  polarity,
  up,
  down,
}: {
  polarity: 'npn' | 'pnp';
  up: boolean;
  down: boolean;
}) {
  return (
    <>
      <circle className={style.body} cx={46} cy={54} r={26} />
      <path className={style.lead} d="M0 54H38" />
      <path className={style.thick} d="M38 38V70" />
      <path className={style.line} d="M38 47L58 33V20 M38 61L58 75V88" />
      <path className={style.lead} d={`${up ? 'M58 20H92' : ''} ${down ? 'M58 88H92' : ''}`} />
      <path
        className={style.arrow}
        d={polarity === 'npn' ? 'M56 73.6l-9 -1.2l4.6 -6.6z' : 'M41 45l9 -1.2l-4.6 -6.6z'}
      />
    </>
  );
}

/** A gate's rectangle between x 16 and 80, with its sign, and a circle where it inverts. */
export function GateSymbol({ gate, height, out }: { gate: Gate; height: number; out: number }) {
  const middle = 20 + (height - 24) / 2;
  return (
    <>
      <rect className={style.body} x={16} y={20} width={58} height={height - 24} />
      <text className={style.sign} x={gate.hysteresis ? 32 : 45} y={middle + 6}>
        {gate.sign}
      </text>
      {gate.hysteresis && (
        <path className={style.fine} d={`M43 ${middle + 6}h10v-11h12 M52 ${middle + 6}h9v-11`} />
      )}
      {gate.inverted ? (
        <>
          <circle className={style.body} cx={79} cy={out} r={5} />
          <path className={style.lead} d={`M84 ${out}H96`} />
        </>
      ) : (
        <path className={style.lead} d={`M74 ${out}H96`} />
      )}
    </>
  );
}

/** An amplifier's triangle in a frame of this height, 96 wide. */
export function AmplifierSymbol({ height }: { height: number }) {
  const middle = 14 + (height - 14) / 2;
  return <path className={style.body} d={`M16 14V${height}L84 ${middle}Z`} />;
}

const ROUNDS = 'a5 5 0 0 1 0 10a5 5 0 0 1 0 10a5 5 0 0 1 0 10';

/** What a box is, drawn about its middle: on the lines of IEC 60617, from memory. */
export function BoxGlyph({ glyph }: { glyph: Glyph }) {
  switch (glyph) {
    case 'opto':
      // A light emitting diode, its light, and the transistor that it opens.
      return (
        <>
          <path className={style.line} d="M-16 -14V-7 M-16 8V14 M-23 8H-9 M-23 -7H-9L-16 8Z" />
          <path className={style.fine} d="M-6 -5l8 3 M-6 3l8 3" />
          <path className={style.line} d="M8 -9V9 M8 -4L18 -12V-16 M8 4L18 12V16" />
          <path className={style.arrow} d="M18 12l-8 -2l5 -5Z" />
        </>
      );
    case 'relay':
      return (
        <>
          <rect className={style.body} x={-22} y={-9} width={16} height={18} />
          <path className={style.line} d="M-20 9L-8 -9" />
          <path className={style.fine} d="M-6 0H6" strokeDasharray="3 3" />
          <path className={style.line} d="M10 14V8L18 -8 M10 -14V-8" />
        </>
      );
    case 'transformer':
      return (
        <>
          <path className={style.line} d={`M-9 -15${ROUNDS}`} />
          <path className={style.line} d="M9 -15a5 5 0 0 0 0 10a5 5 0 0 0 0 10a5 5 0 0 0 0 10" />
          <path className={style.line} d="M-2 -16V16 M2 -16V16" />
        </>
      );
    case 'regulator':
      // What comes in goes up and down, what goes out is even.
      return (
        <path
          className={style.line}
          d="M-22 4q4 -14 8 0q4 10 8 0 M-2 0h10 M4 -4l5 4l-5 4 M13 0h10"
        />
      );
  }
}
