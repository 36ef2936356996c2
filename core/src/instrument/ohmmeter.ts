import {
  across,
  RankOne,
  toleranceSpread,
  type Network,
  type NoOperatingPoint,
  type BaseLinearisation,
} from '../circuit';
import type { LinearChange } from '../fault';
import { junctionsMatter } from './junction-influence';
import { ohmRange, STANDARD_METER } from './meter';
import type { OffBoard } from './off-board';
import type { Response } from './response';

/**
 * Ohms that move by less than this share of themselves count as unmoved: a fortieth of the meter's
 * own accuracy.
 */
const UNSEEN_SHARE = 2e-4;
/** Within this many standard deviations of the limit nobody can say which range the meter takes. */
const RANGE_DOUBT = 4;
/** From one ohm range to the next. */
const RANGE_STEP = 10;

/** Whether a DC path can lie between two nodes; -1 is ground. */
export function areJoined({ component }: Network, a: number, b: number): boolean {
  return (a < 0 ? 0 : component[a]) === (b < 0 ? 0 : component[b]);
}

/**
 * What an instrument answers, why the circuit has no solution, or undefined where the board's way
 * does not lead to an answer.
 */
type Answer = Response | NoOperatingPoint | undefined;

/**
 * Everything that a meter finds out by driving a current of its own through a board that is off.
 * Lives as long as the board state.
 */
export class Ohmmeter {
  private readonly network: Network;
  private readonly rankOne: RankOne | undefined;
  /** The circuit while the last current was driven, where that was a search of its own. */
  lastX: Float64Array | undefined;

  /** base: the board off, where changes of it are to be asked about. */
  constructor(
    private readonly board: OffBoard,
    base?: BaseLinearisation,
  ) {
    this.network = board.network;
    this.rankOne = base && new RankOne(base);
  }

  /**
   * What an ohmmeter shows between two nodes: the smallest range that keeps its voltage within the
   * limit.
   */
  resistance(a: number, b: number, meter = STANDARD_METER): Answer {
    const { ohmRanges, ohmVoltLimit } = meter;
    const open: Response = { value: Infinity, spread: 0, fullScale: Infinity };
    if (a === b) return { value: 0, spread: 0, fullScale: ohmRange(0, meter) };
    if (!areJoined(this.network, a, b)) return open;
    const linear = this.linearResistance(a, b);
    if (!linear) return undefined;
    // Where a junction holds the voltage near the limit, part spread decides which range the meter
    // takes, and with it what it shows. Then it is one of two or three values, and all that is
    // known is that it lies between them.
    const doubtful: number[] = [];
    const shown = (answer: Response): Response =>
      doubtful.length === 0
        ? answer
        : {
            ...answer,
            unknown: true,
            span: [Math.min(answer.value, ...doubtful), Math.max(answer.value, ...doubtful)],
          };
    for (const [fullScale, ampere] of ohmRanges) {
      if (!junctionsMatter(this.network, linear.response, a, b, ampere, ohmVoltLimit)) {
        const volt = linear.value * ampere;
        if (volt > ohmVoltLimit) {
          if (
            fullScale === ohmRanges.at(-1)![0] &&
            volt - ohmVoltLimit < RANGE_DOUBT * linear.spread() * ampere
          )
            doubtful.push(linear.value);
          continue;
        }
        return shown({ value: linear.value, spread: linear.spread(), fullScale });
      }
      const volts = this.testCurrent(a, b, ampere, Infinity, fullScale);
      if (!volts || 'ok' in volts) return volts;
      const isDoubtful = Math.abs(volts.value - ohmVoltLimit) < RANGE_DOUBT * volts.spread;
      if (isDoubtful) doubtful.push(volts.value / ampere);
      if (volts.value > ohmVoltLimit) continue;
      // So near below the limit it may be beyond it, and read on the next range: ten times as much
      // at most.
      if (isDoubtful) doubtful.push((RANGE_STEP * volts.value) / ampere);
      return shown({ value: volts.value / ampere, spread: volts.spread / ampere, fullScale });
    }
    return shown(open);
  }

  /** Resistance for vanishing current, with its spread. */
  private linearResistance(
    a: number,
    b: number,
  ): { value: number; spread: () => number; response: Float64Array } | undefined {
    const found = this.board.linear(a, b);
    if (!found) return undefined;
    const { response, adjoint } = found;
    return {
      value: across(response, a, b),
      spread: () => toleranceSpread(this.network, response, adjoint(), true),
      response,
    };
  }

  /**
   * Drives a current into a and out of b, the board being off. Returns volts. overload: at or above
   * this the answer is OL.
   */
  testCurrent(a: number, b: number, ampere: number, overload: number, fullScale: number): Answer {
    if (a === b) return { value: 0, spread: 0, fullScale };
    if (!areJoined(this.network, a, b)) return { value: Infinity, spread: 0, fullScale };
    const result = this.board.driven(a, b, ampere);
    if (!result || 'ok' in result) return result;
    this.lastX = result.x;
    const value = across(result.x, a, b);
    if (value >= overload) return { value: Infinity, spread: 0, fullScale };
    return {
      value,
      spread: toleranceSpread(
        this.network,
        result.x,
        result.adjoint(),
        false,
        new Uint8Array(this.network.drivers.length),
      ),
      fullScale,
    };
  }

  /**
   * Ohms after a change of one conductance, where junctions play no part in them; undefined where
   * they do. ownAnswer: what the unchanged board shows.
   */
  after(
    kind: 'resistance' | 'continuity',
    a: number,
    b: number,
    p: number,
    q: number,
    change: LinearChange,
    ownAnswer: () => Response | undefined,
    meter = STANDARD_METER,
  ): Response | undefined {
    const { ohmVoltLimit } = meter;
    if (!this.rankOne) return undefined;
    const { siemens } = change;
    const known =
      this.rankOne.shareMoved(a, b, p, q, siemens) < UNSEEN_SHARE ? ownAnswer() : undefined;
    const linear = across(this.rankOne.response(a, b), a, b);
    // Only where no junction had a part in the answer: what one does is not in the linear share.
    if (known && Math.abs(known.value - linear) <= UNSEEN_SHARE * linear) return known;
    const response = this.rankOne.responseAfter(a, b, p, q, siemens);
    const value = across(response, a, b);
    const ranges =
      kind === 'continuity'
        ? [meter.continuityAmpere]
        : meter.ohmRanges.map(([, ampere]) => ampere);
    const ampere = ranges.find(
      (current) =>
        value * current <= ohmVoltLimit ||
        junctionsMatter(this.network, response, a, b, current, ohmVoltLimit),
    );
    if (ampere !== undefined && junctionsMatter(this.network, response, a, b, ampere, ohmVoltLimit))
      return undefined;
    const spread = toleranceSpread(this.network, response, response, true, undefined, {
      ...change,
      p,
      q,
    });
    if (kind === 'continuity') return { value, spread, fullScale: meter.ohmRanges[0]![0] };
    const fullScale = ohmRange(value, meter);
    return { value: fullScale === Infinity ? Infinity : value, spread, fullScale };
  }
}
