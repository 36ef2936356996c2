import { useEffect, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import type { Measurement } from '@hanzai/core/instrument';
import type { ReadingMeaning } from '../../workers/engine-messages';
import type { Expect, Expectation } from '../expectation';
import { KIND_WORDS, oddsWords, pointsText, setupWords, valueText } from '../wording';
import { writtenPoints } from '../written-points';
import type { StripItem, StripLine } from './grammar';
import { itemWords } from './item-words';

/** What a line was understood as, and what it would mean. */
export function StripSays({
  line,
  index,
  expect,
  meaning,
}: {
  line: StripLine;
  index: BoardIndex;
  expect: Expect;
  meaning: ReadingMeaning | undefined;
}) {
  const [only] = line.ok && line.items.length === 1 ? line.items : [];
  const sound = useExpectation(expect, only?.kind === 'reading' ? only.measurement : undefined);
  if (!line.ok)
    return <>{`${line.understood ? `${line.understood} … ` : ''}expected: ${line.expected}`}</>;
  return (
    <>
      {only?.kind === 'reading' ? (
        <OneReading item={only} index={index} sound={sound} meaning={meaning} />
      ) : only ? (
        <strong>{itemWords(only, index)}</strong>
      ) : (
        <>
          <strong>{line.items.length} at once:</strong>{' '}
          {line.items.map((item) => itemWords(item, index)).join('; ')}
        </>
      )}{' '}
      · <kbd>Enter</kbd> files
    </>
  );
}

function OneReading({
  item: { measurement: m, value },
  index,
  sound,
  meaning,
}: {
  item: Extract<StripItem, { kind: 'reading' }>;
  index: BoardIndex;
  sound: Expectation | undefined;
  meaning: ReadingMeaning | undefined;
}) {
  const { at, to } = writtenPoints(m);
  return (
    <>
      <strong>{valueText(m.kind, value)}</strong> {pointsText(index, at, to)} · {KIND_WORDS[m.kind]}
      , {setupWords(m.setup)}
      {sound && (
        <>
          {' '}
          · sound: {sound.display}
          {sound.band && ` (${sound.band})`}
        </>
      )}
      {meaning && (
        <>
          {' '}
          · {meaning.within ? 'in band' : 'out of band'}
          {meaning.leading.length > 0 &&
            `, then ${meaning.leading.map(({ ref, probability }) => `${ref} ${oddsWords(probability)}`).join(', ')}`}
        </>
      )}
    </>
  );
}

/** What a sound board shows at a point, once the engine has said so. */
function useExpectation(expect: Expect, where: Measurement | undefined): Expectation | undefined {
  const [answer, setAnswer] = useState<{ to: Measurement; shown: Expectation | undefined }>();
  useEffect(() => {
    if (!where) return undefined;
    let wanted = true;
    const { setup, kind } = where;
    const { at, to } = writtenPoints(where);
    expect(setup, kind, at, to).then(
      (shown) => wanted && setAnswer({ to: where, shown }),
      // Without an engine nothing is expected; that it stopped is told elsewhere.
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [expect, where]);
  return answer && answer.to === where ? answer.shown : undefined;
}
