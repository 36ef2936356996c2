import type { BoardIndex } from '@hanzai/core/board';
import type { ReadingMeaning } from '../../workers/engine-messages';
import type { Expect, Expectation } from '../expectation';
import { useExpectation } from '../use-expectation';
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
  const asked = only?.kind === 'reading' ? only.measurement : undefined;
  const sound = useExpectation(
    expect,
    asked && { setup: asked.setup, kind: asked.kind, ...writtenPoints(asked) },
  );
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
