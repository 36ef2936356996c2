import type { BoardIndex } from '@hanzai/core/board';
import { faultWords, KIND_WORDS, pointsText } from '../../case/wording';
import type { NextStep, SuspectPair } from '../../workers/engine-messages';
import { partingOf } from './parting';
import style from './LineUpList.module.css';

/** So many of a group are named. */
const NAMED = 5;

/** Suspects that nothing read so far tells apart, and the cheapest thing that would. */
export function Alike({
  group,
  index,
  next,
}: {
  group: readonly string[];
  index: BoardIndex;
  next: NextStep | undefined;
}) {
  const parting = partingOf(group, next);
  const named = group.slice(0, NAMED).join(', ');
  return (
    <p className={style.alike}>
      One of <b className="mono">{named}</b>
      {group.length > NAMED && ` and ${group.length - NAMED} more`}: nothing read so far tells them
      apart.{' '}
      {parting && (
        <>
          {parting.title ? `${parting.title}, then ` : ''}
          <b>
            {KIND_WORDS[parting.proposal.kind]}{' '}
            {pointsText(index, parting.proposal.at, parting.proposal.to)}
          </b>{' '}
          would.
        </>
      )}
    </p>
  );
}

/** A pair as people say it: `R1 open because D4 is short`. */
export function pairWords({ name, because }: SuspectPair): string {
  if (!because) return faultWords(name);
  const [culprit = '', ...mode] = faultWords(because.culprit).split(' ');
  return `${faultWords(because.victim)} because ${culprit} is ${mode.join(' ')}`;
}
