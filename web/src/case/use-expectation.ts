import { useEffect, useState } from 'react';
import type { Expect, Expectation } from './expectation';
import type { ProposedPoints } from './strip/grammar';

/**
 * What a sound board shows at some points, once the engine has said so; undefined until then, where it
 * has no answer, and for no points.
 */
export function useExpectation(
  expect: Expect,
  points: ProposedPoints | undefined,
): Expectation | undefined {
  const [answer, setAnswer] = useState<{ to: string; shown: Expectation | undefined }>();
  const { setup = '', kind = '', at = '', to = '' } = points ?? {};
  const key = `${setup} ${kind} ${at} ${to}`;
  useEffect(() => {
    if (kind === '') return undefined;
    let wanted = true;
    expect(setup, kind, at, to).then(
      (shown) => wanted && setAnswer({ to: key, shown }),
      // Without an engine nothing is expected; that it stopped is told elsewhere.
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [expect, setup, kind, at, to, key]);
  return kind !== '' && answer?.to === key ? answer.shown : undefined;
}
