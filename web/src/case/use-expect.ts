import { useCallback, useMemo } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { Predictor } from '@hanzai/core/diagnosis';
import { readout, resolveMeasurement } from '@hanzai/core/instrument';
import type { ExpectedReading } from '../workers/engine-messages';
import { bandText } from '../workers/wording';

/** What a sound board shows, for screens that need no line-up: one circuit solved once, on the page itself. */
export function useExpect(index: BoardIndex | undefined): (setup: string, kind: string, at: string, to: string) => Promise<ExpectedReading | undefined> {
  const predictor = useMemo(() => index && new Predictor(index), [index]);
  return useCallback(
    async (setup, kind, at, to) => {
      const resolved = index && resolveMeasurement(index, setup, kind, at, to);
      if (!predictor || !resolved?.ok) return undefined;
      const shown = readout(resolved.measurement.kind, predictor.healthy(resolved.measurement));
      return { display: shown.display, band: bandText(shown), within: true };
    },
    [index, predictor],
  );
}
