import type { Part } from '../board';
import { formatQuantity } from '../quantity';
import { DISSIPATION_HERTZ, largestDissipation } from './dissipation';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** What a tester outside the board says of a capacitor; whatever was not measured is left out. */
export interface OffBoardReading {
  readonly farad?: number | undefined;
  /** After some minutes at its rated volts, A. */
  readonly leakAmpere?: number | undefined;
  /** tan δ, at 100 or 120 Hz. */
  readonly dissipation?: number | undefined;
  /** At 100 kHz. */
  readonly esrOhm?: number | undefined;
}

export interface OffBoardVerdict {
  readonly verdict: 'good' | 'doubtful' | 'bad';
  /** One line for each quantity that was measured. */
  readonly because: readonly string[];
}

/** Tolerance of a capacitance where the part says none. Source: IEC 60384-4, class M. */
const USUAL_TOLERANCE = 0.2;
/** Lost beyond its tolerance, an electrolytic is worn out. Source: IEC 60384-4, endurance: 20 to 30 %. */
const WORN_OUT_SHARE = 0.3;
/**
 * Leakage: this share of capacitance times volts, and no less than so much, A. From memory of IEC
 * 60384-4: 0.01 C U or 3 µA, the larger; parts that lay for years take minutes to come down to it.
 */
const LEAK = { share: 0.01, floorAmpere: 3e-6, worse: 10 } as const;

/** Judges a capacitor that was taken off the board. */
export function judgeOffBoard(part: Capacitor, read: OffBoardReading): OffBoardVerdict {
  const lines: { readonly text: string; readonly level: 0 | 1 | 2 }[] = [];
  const { capacitanceFarad: farad, ratedVolt, tolerance = USUAL_TOLERANCE } = part;
  if (read.farad !== undefined) {
    const share = read.farad / farad - 1;
    const words = `${formatQuantity(read.farad, 'F')}, ${share < 0 ? '−' : '+'}${Math.round(100 * Math.abs(share))} % of ${formatQuantity(farad, 'F')}`;
    if (share >= -tolerance && share <= tolerance)
      lines.push({ text: `${words}: within ±${Math.round(100 * tolerance)} %`, level: 0 });
    else if (share < -Math.max(WORN_OUT_SHARE, tolerance))
      lines.push({ text: `${words}: worn out`, level: 2 });
    // More than it should have is leakage that the tester takes for farads.
    else if (share > tolerance)
      lines.push({ text: `${words}: too much; measure its leakage`, level: 1 });
    else lines.push({ text: `${words}: below its tolerance`, level: 1 });
  }
  if (read.dissipation !== undefined) {
    const most = largestDissipation(farad, ratedVolt);
    const words = `tan δ ${read.dissipation.toFixed(2)} at ${DISSIPATION_HERTZ} Hz, at most ${most.toFixed(2)} (from memory)`;
    lines.push({ text: words, level: read.dissipation <= most ? 0 : 2 });
  }
  if (read.leakAmpere !== undefined) {
    if (ratedVolt === undefined)
      lines.push({ text: 'its volts are not known: leakage is not judged', level: 1 });
    else {
      const most = Math.max(LEAK.floorAmpere, LEAK.share * farad * ratedVolt);
      const words = `leaks ${formatQuantity(read.leakAmpere, 'A')}, at most ${formatQuantity(most, 'A')} (from memory)`;
      if (read.leakAmpere <= most) lines.push({ text: words, level: 0 });
      else if (read.leakAmpere <= LEAK.worse * most)
        lines.push({ text: `${words}: leave it on its volts for ten minutes more`, level: 1 });
      else lines.push({ text: words, level: 2 });
    }
  }
  if (read.esrOhm !== undefined && part.esrOhm !== undefined && part.esrOhm > 0) {
    const times = read.esrOhm / part.esrOhm;
    const words = `ESR ${formatQuantity(read.esrOhm, 'ohm', 2)}, ${times.toFixed(1)} times what the sheet has`;
    lines.push({ text: words, level: times > 3 ? 2 : times > 1.7 ? 1 : 0 });
  }
  const worst = Math.max(0, ...lines.map(({ level }) => level));
  return {
    verdict: lines.length === 0 ? 'doubtful' : (['good', 'doubtful', 'bad'] as const)[worst]!,
    because: lines.length === 0 ? ['nothing was measured'] : lines.map(({ text }) => text),
  };
}
