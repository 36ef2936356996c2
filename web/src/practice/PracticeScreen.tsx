import { QueryClientProvider } from '@tanstack/react-query';
import { Suspense, useCallback, useEffect, useRef, useState } from 'react';
import { Band } from '../case/Band';
import { stageTitle } from '../case/stages';
import { SCREENS } from '../stage/islands';
import { store } from '../store/store';
import { Notice } from '../ui/Notice';
import { usePath } from '../ui/use-path';
import { Debriefing } from './Debriefing';
import { practicePlaceOf, type PracticePlaceOf } from './place';
import type { PracticeRun } from './run';
import { PracticeStorage } from './storage';
import { usePracticeCase } from './use-practice-case';

const storage = new PracticeStorage();

const staysInExercise = (from: string, to: string): boolean => {
  const [here, there] = [practicePlaceOf(from), practicePlaceOf(to)];
  return here !== undefined && here.id === there?.id;
};

/** An exercise with its stages and its debrief on one page. */
export function PracticeScreen() {
  const place = practicePlaceOf(usePath(staysInExercise));
  if (!place) return null;
  return (
    <QueryClientProvider client={store().queries}>
      <Loaded key={place.id} {...place} />
    </QueryClientProvider>
  );
}

function Loaded({ id, stage }: PracticePlaceOf) {
  const [run, setRun] = useState<PracticeRun | 'none' | 'unkept'>();
  useEffect(() => {
    storage.run(id).then(
      (found) => setRun(found ?? 'none'),
      () => setRun('unkept'),
    );
  }, [id]);
  if (run === undefined || typeof run === 'string')
    return (
      <>
        <Band here="practice" />
        <main style={{ padding: 24 }}>
          {run === undefined && <p role="status">The exercise is being opened …</p>}
          {run === 'none' && (
            <Notice look="attention" title="Not here:">
              there is no such exercise in this browser. <a href="/practice">Practice</a> has them
              all.
            </Notice>
          )}
          {run === 'unkept' && (
            <Notice look="attention" title="Not kept:">
              this browser keeps nothing (private window, or storage denied), so no exercise can be
              gone on with.
            </Notice>
          )}
        </main>
      </>
    );
  return <Staged first={run} stage={stage} />;
}

function Staged({ first, stage }: { first: PracticeRun; stage: PracticePlaceOf['stage'] }) {
  const [run, setRun] = useState(first);
  const [isKept, setKept] = useState(true);
  const newest = useRef(first);
  const change = useCallback((how: (run: PracticeRun) => PracticeRun): void => {
    newest.current = how(newest.current);
    setRun(newest.current);
    storage.put(newest.current).catch(() => setKept(false));
  }, []);
  const { state, bench } = usePracticeCase(run, change);
  useEffect(() => {
    const title = stage === 'debrief' ? 'Debrief' : stageTitle(stage);
    document.title = `Exercise ${title} · Hanzai`;
  }, [stage]);
  if (stage === 'debrief')
    return <Debriefing run={run} state={state} bench={bench} isKept={isKept} onChange={change} />;
  const Screen = SCREENS[stage];
  return (
    <Suspense fallback={<Band here="practice" />}>
      <Screen key={stage} state={state} />
    </Suspense>
  );
}
