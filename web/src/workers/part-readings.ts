import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { resolveMeasurement, type Reading } from '@hanzai/core/instrument';
import { judgeConclusive } from '@hanzai/core/plan';
import { CapacitorSurvey, esrLimit } from '@hanzai/core/survey';
import { RATES } from '@hanzai/data';
import type { Course } from './engine';
import {
  SurveyRequest,
  type EngineReading,
  type ReadingConclusion,
  type SurveyedCapacitor,
} from './engine-messages';

/** A reading on a board; undefined where the board does not have its points. */
export function readingOn(index: BoardIndex, sent: EngineReading): Reading | undefined {
  const { setup, kind, at, to, value, absent, meter } = sent;
  const resolved = resolveMeasurement(index, setup, kind, at, to);
  if (!resolved.ok) return undefined;
  const measurement = meter ? { ...resolved.measurement, meter } : resolved.measurement;
  return { measurement, value, absent };
}

/**
 * What readings across single parts say of those parts, each by itself: whether they are conclusive,
 * and the capacitors one by one. On the board as it is drawn: what readings have taught of others is
 * no matter of theirs. Lives as long as the board is being worked on.
 */
export class PartReadings {
  private ownSurvey?: CapacitorSurvey;
  /** By reading and its value; null where there is nothing to conclude. */
  private readonly concluded = new Map<string, ReadingConclusion | null>();

  constructor(private readonly index: BoardIndex) {}

  /**
   * Whether each of some readings across parts, power off, says what it seems to say; those of other
   * kinds are left out, undefined where nobody waits any more. Cost: a few circuits for each that was
   * not asked about before.
   */
  async conclude(
    raw: unknown,
    { pause, stale }: Course,
  ): Promise<Readonly<Record<string, ReadingConclusion>> | undefined> {
    const found: Record<string, ReadingConclusion> = {};
    for (const sent of SurveyRequest.parse(raw).readings) {
      const key = `${sent.id} ${String(sent.value)}`;
      let known = this.concluded.get(key);
      if (known === undefined) {
        await pause();
        if (stale()) return undefined;
        this.concluded.set(key, (known = this.concludeOne(sent)));
      }
      if (known) found[sent.id] = known;
    }
    return found;
  }

  private concludeOne(sent: EngineReading): ReadingConclusion | null {
    const reading = readingOn(this.index, sent);
    const said = reading && judgeConclusive(this.index, reading);
    if (!said) return null;
    const { conclusive, words, remedy } = said;
    return { conclusive, words, remedy: remedy ? `${remedy.title}, ${remedy.minutes} min` : '' };
  }

  /** Every capacitor judged by its ESR. Cost: a second on a large board, then some milliseconds. */
  survey(raw: unknown): readonly SurveyedCapacitor[] {
    const { readings: sent, look = {} } = SurveyRequest.parse(raw);
    const readings = sent.flatMap((one) => readingOn(this.index, one) ?? []);
    this.ownSurvey ??= new CapacitorSurvey(this.index, RATES);
    const expected = this.ownSurvey.expected();
    return this.ownSurvey
      .judge(readings, (ref) => look[ref] ?? 1)
      .map((verdict) => {
        const part = this.index.partByKey.get(nameKey(verdict.ref));
        const limit = part?.kind === 'capacitor' ? esrLimit(part) : undefined;
        const ohm = expected.get(verdict.ref) ?? Infinity;
        return {
          ...verdict,
          expectedOhm: Number.isFinite(ohm) ? ohm : null,
          limitOhm: limit ?? null,
        };
      });
  }
}
