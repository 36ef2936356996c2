import { useEffect, useState } from 'react';
import { engineRequest, type Circumstances } from '../../case/engine-request';
import type { CaseState } from '../../case/use-case';
import { askAgain } from '../../workers/ask-again';
import type { WhyAnswer } from '../../workers/engine-messages';

/** Two sides of an argument: designators, empty for "nothing is wrong". */
export interface Sides {
  readonly one: string;
  readonly other: string;
}

/** Why one side is believed more than the other; undefined until that is worked out. */
export function useWhy(
  { engine, journal }: CaseState,
  circumstances: Circumstances,
  sides: Sides | undefined,
): { readonly answer: WhyAnswer | undefined; readonly failure: string | undefined } {
  const [state, setState] = useState<{ key: string; answer?: WhyAnswer; failure?: string }>();
  const { readings, absent, look } = engineRequest(0, journal, circumstances);
  const request = sides && { readings, absent, look, ...sides };
  const key = JSON.stringify(request);
  useEffect(() => {
    if (!engine || !request) return undefined;
    let wanted = true;
    askAgain(
      () => engine.door.why(request),
      () => wanted,
    ).then(
      (answer) => wanted && answer && setState({ key, answer }),
      (error: unknown) => wanted && setState({ key, failure: String((error as Error).message) }),
    );
    return () => {
      wanted = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for the request by value
  }, [engine, key]);
  return state && state.key === key
    ? { answer: state.answer, failure: state.failure }
    : { answer: undefined, failure: undefined };
}
