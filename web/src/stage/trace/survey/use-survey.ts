import { useEffect, useMemo, useState } from 'react';
import { nameKey, type Part } from '@hanzai/core/board';
import { resolveMeasurement, type Reading } from '@hanzai/core/instrument';
import { formatQuantity } from '@hanzai/core/quantity';
import {
  CapacitorSurvey,
  esrLimit,
  judgeOffBoard,
  readQuickList,
  surveyOrder,
  zeroAsked,
  type OffBoardVerdict,
  type QuickList,
} from '@hanzai/core/survey';
import { LIBRARY, RATES } from '@hanzai/data';
import { engineReadings } from '../../../case/engine-request';
import { lookFactorsOf } from '../../../case/unit';
import { lessLeads } from '../../../case/kind/tracing';
import type { ProposedPoints } from '../../../case/strip/grammar';
import type { CaseState } from '../../../case/use-case';
import { askAgain } from '../../../workers/ask-again';
import type { SurveyedCapacitor } from '../../../workers/engine-messages';

export type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** One line of a survey. */
export interface SurveyRow {
  readonly part: Capacitor;
  /** What was read across it last, ohm or as the meter said; undefined where nothing was. */
  readonly read: number | string | undefined;
  readonly isSkipped: boolean;
  /** What it measured by itself, off the board; undefined where it was not. */
  readonly alone?: OffBoardVerdict | undefined;
  /** Undefined while it is being worked out. */
  readonly judged: SurveyedCapacitor | undefined;
}

export interface SurveyState {
  readonly rows: readonly SurveyRow[];
  readonly judged: readonly SurveyedCapacitor[] | undefined;
  /** Why the leads are to be zeroed now; undefined where they need not be. */
  readonly zero: string | undefined;
  readonly failure: string | undefined;
}

/** A capacitor survey as it stands: what was read, and what that says of each part. */
export function useSurvey({ index, journal, engine }: CaseState): SurveyState {
  const look = useMemo(() => lookFactorsOf(index, journal), [index, journal]);
  const [answer, setAnswer] = useState<readonly SurveyedCapacitor[]>();
  const [failure, setFailure] = useState<string>();
  const readings = useMemo(
    () => engineReadings(journal).filter(({ kind }) => kind === 'esr'),
    [journal],
  );
  const key = JSON.stringify({ readings, look });
  useEffect(() => {
    if (!engine) return undefined;
    let wanted = true;
    askAgain(
      () => engine.door.survey({ readings, look }),
      () => wanted,
    ).then(
      (judged) => wanted && judged && setAnswer(judged),
      (error: unknown) => wanted && setFailure(String((error as Error).message)),
    );
    return () => {
      wanted = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for the readings by value
  }, [engine, key]);
  const rows = useMemo((): readonly SurveyRow[] => {
    if (!index) return [];
    const current = journal.readings.filter(
      ({ current: now, measurement }) => now && measurement.kind === 'esr',
    );
    return surveyOrder(index).map((part) => {
      const own = current.findLast(({ measurement: { at, to } }) =>
        at.pin ? at.pin.part === part : [at.net, to.net].every((net) => part.pins.includes(net)),
      );
      return {
        part,
        read: own?.value,
        isSkipped: journal.skips.some(
          ({ body }) => body.quantity === 'esr' && body.at === `${part.ref}.1`,
        ),
        alone: aloneOf(journal, part),
        judged: answer?.find(({ ref }) => ref === part.ref),
      };
    });
  }, [index, journal, answer]);
  return { rows, judged: answer, zero: zeroNow(journal.zeros, rows), failure };
}

/** The newest measurement of a part by itself, judged. */
function aloneOf(
  { offBoards }: CaseState['journal'],
  part: Capacitor,
): OffBoardVerdict | undefined {
  const own = offBoards.findLast(({ body }) => nameKey(body.ref) === nameKey(part.ref));
  return own && judgeOffBoard(part, own.body);
}

function zeroNow(
  zeros: CaseState['journal']['zeros'],
  rows: readonly SurveyRow[],
): string | undefined {
  const last = zeros.at(-1);
  return zeroAsked(
    last && { ohm: last.body.ohm, at: Date.parse(last.madeAt) },
    Date.now(),
    rows.flatMap(({ read, judged }) =>
      typeof read === 'number' && judged?.verdict === 'doubtful' ? [read] : [],
    ),
  );
}

/** The same of a unit without a sheet, by its quick list: every part by itself. */
export function useQuickSurvey({ journal }: CaseState): SurveyState & {
  readonly unread: QuickList['unread'];
  /** What is read next, in order. */
  readonly list: readonly ProposedPoints[];
} {
  const { quickList, loose, skips, zeros } = journal;
  const { index, unread } = useMemo(() => readQuickList(quickList, LIBRARY), [quickList]);
  const survey = useMemo(() => new CapacitorSurvey(index, RATES), [index]);
  return useMemo(() => {
    const readings = loose.flatMap(({ entry: { body }, current }): Reading[] => {
      if (!current || body.quantity !== 'esr') return [];
      const resolved = resolveMeasurement(index, 'off', 'esr', body.at, body.to);
      // A list has no journal of its own that would take the leads off.
      return resolved.ok
        ? [
            {
              measurement: resolved.measurement,
              value: lessLeads(body.value, zeros.at(-1)?.body.ohm),
            },
          ]
        : [];
    });
    const judged = survey.judge(readings).map((verdict): SurveyedCapacitor => {
      const part = index.partByKey.get(nameKey(verdict.ref)) as Capacitor;
      return { ...verdict, expectedOhm: null, limitOhm: esrLimit(part) ?? null };
    });
    const rows = surveyOrder(index).map((part): SurveyRow => ({
      part,
      read: readings.findLast(({ measurement }) => measurement.at.pin?.part === part)?.value,
      isSkipped: skips.some(({ body }) => body.quantity === 'esr' && body.at === `${part.ref}.1`),
      alone: aloneOf(journal, part),
      judged: judged.find(({ ref }) => ref === part.ref),
    }));
    const list = rows
      .filter(({ read, isSkipped }) => read === undefined && !isSkipped)
      .map(({ part: { ref } }) => ({
        setup: 'off',
        kind: 'esr' as const,
        at: `${ref}.1`,
        to: `${ref}.2`,
      }));
    return { rows, judged, zero: zeroNow(zeros, rows), failure: undefined, unread, list };
  }, [index, survey, journal, loose, skips, zeros, unread]);
}

/** Ohms in a cell; empty where there are none. */
export const ohmText = (ohm: number | null | undefined): string =>
  typeof ohm === 'number' ? formatQuantity(ohm, 'ohm', 2) : '';
