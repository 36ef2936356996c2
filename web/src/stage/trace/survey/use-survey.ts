import { useEffect, useMemo, useState } from 'react';
import type { Part } from '@hanzai/core/board';
import { formatQuantity } from '@hanzai/core/quantity';
import { surveyOrder, zeroAsked } from '@hanzai/core/survey';
import { engineReadings } from '../../../case/engine-request';
import type { CaseState } from '../../../case/use-case';
import type { SurveyedCapacitor } from '../../../workers/engine-messages';

export type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** One line of a survey. */
export interface SurveyRow {
  readonly part: Capacitor;
  /** What was read across it last, ohm or as the meter said; undefined where nothing was. */
  readonly read: number | string | undefined;
  readonly isSkipped: boolean;
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
  const [answer, setAnswer] = useState<readonly SurveyedCapacitor[]>();
  const [failure, setFailure] = useState<string>();
  const readings = useMemo(
    () => engineReadings(journal).filter(({ kind }) => kind === 'esr'),
    [journal],
  );
  const key = JSON.stringify(readings);
  useEffect(() => {
    if (!engine) return undefined;
    let wanted = true;
    engine.door.survey({ readings }).then(
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
        judged: answer?.find(({ ref }) => ref === part.ref),
      };
    });
  }, [index, journal, answer]);
  const last = journal.zeros.at(-1);
  const zero = zeroAsked(
    last && { ohm: last.body.ohm, at: Date.parse(last.madeAt) },
    Date.now(),
    rows.flatMap(({ read, judged }) =>
      typeof read === 'number' && judged?.verdict === 'doubtful' ? [read] : [],
    ),
  );
  return { rows, judged: answer, zero, failure };
}

/** Ohms in a cell; empty where there are none. */
export const ohmText = (ohm: number | null | undefined): string =>
  typeof ohm === 'number' ? formatQuantity(ohm, 'ohm', 2) : '';
