import { QueryClientProvider } from '@tanstack/react-query';
import { Suspense, useEffect, useState } from 'react';
import { Band } from '../case/Band';
import type { CaseView } from '../case/case-view';
import { useLoadedCase, useCase } from '../case/use-case';
import { stageTitle, type Stage } from '../case/stages';
import { AnswerError } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import style from './CaseScreen.module.css';
import { SCREENS } from './islands';
import { placeOf, type Place } from './place';

/**
 * A case with all its stages on one page: what is on screen, in the outbox and in the engine stays
 * when one goes from stage to stage, with the server or without it.
 */
export function CaseScreen() {
  const place = usePlace();
  if (!place) return null;
  return (
    <QueryClientProvider client={store().queries}>
      <Loaded key={place.number} {...place} />
    </QueryClientProvider>
  );
}

/** The place that the address names. Links to other stages of the case change it in the page. */
function usePlace(): Place | undefined {
  const [path, setPath] = useState(window.location.pathname);
  useEffect(() => {
    const moved = (): void => setPath(window.location.pathname);
    const follow = (event: MouseEvent): void => {
      const link = (event.target as Element).closest?.('a[href]');
      if (!(link instanceof HTMLAnchorElement) || !isPlainClick(event, link)) return;
      const there = new URL(link.href);
      const [from, to] = [placeOf(window.location.pathname), placeOf(there.pathname)];
      if (there.origin !== window.location.origin || !from || to?.number !== from.number) return;
      event.preventDefault();
      window.history.pushState(null, '', there);
      moved();
    };
    document.addEventListener('click', follow);
    window.addEventListener('popstate', moved);
    return () => {
      document.removeEventListener('click', follow);
      window.removeEventListener('popstate', moved);
    };
  }, []);
  return placeOf(path);
}

function isPlainClick(event: MouseEvent, link: HTMLAnchorElement): boolean {
  const withKey = event.metaKey || event.ctrlKey || event.shiftKey || event.altKey;
  return (
    event.button === 0 && !event.defaultPrevented && !withKey && !link.download && !link.target
  );
}

function Loaded({ number, stage }: Place) {
  const { view, failure, retry } = useLoadedCase(number);
  if (view) return <Staged view={view} stage={stage} />;
  const missing = failure instanceof AnswerError && failure.status === 404;
  return (
    <>
      <Band here="case" />
      <main className={style.wait}>
        {!failure && <p role="status">Case {number} is being fetched …</p>}
        {failure && missing && (
          <Notice look="attention" title="Not here:">
            there is no case {number}. The <a href="/">docket</a> has them all.
          </Notice>
        )}
        {failure && !missing && (
          <Notice look="attention" title={`Case ${number} could not be fetched:`} live>
            {failure.message}. It is on this machine only where it was open here lately.{' '}
            <Button onClick={retry}>Try again</Button>
          </Notice>
        )}
      </main>
    </>
  );
}

function Staged({ view, stage }: { view: CaseView; stage: Stage }) {
  const state = useCase(view);
  const Screen = SCREENS[stage];
  useEffect(() => {
    document.title = `${view.number} ${stageTitle(stage)} · Hanzai`;
  }, [view.number, stage]);
  return (
    <Suspense fallback={<Band here="case" />}>
      <Screen key={stage} state={state} />
    </Suspense>
  );
}
