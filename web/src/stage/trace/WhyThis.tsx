import type { BoardIndex } from '@hanzai/core/board';
import { KIND_WORDS, minutesText, pointsText, tellsWords } from '../../case/wording';
import type { Proposal } from '../../workers/engine-messages';
import style from './NextCard.module.css';

/** Why this reading and not another: what it parts, and what the next best would bring. */
export function WhyThis({
  index,
  proposal,
  rest,
}: {
  index: BoardIndex;
  proposal: Proposal;
  rest: readonly Proposal[];
}) {
  const leaders = [...new Set(proposal.prospects.flatMap(({ leading }) => leading[0]?.ref ?? []))];
  const rate = (one: Proposal): number => one.gainBits / one.minutes;
  const [second] = [...rest].sort((a, b) => rate(b) - rate(a));
  return (
    <details className={style.whyThis}>
      <summary>Why this one</summary>
      <p>
        {leaders.length > 1
          ? `It parts ${leaders.join(' from ')}: each way it may come out another one leads.`
          : leaders.length === 1
            ? `It makes ${leaders[0]} surer or less sure.`
            : 'It narrows the field.'}{' '}
        {second &&
          `Next best is ${KIND_WORDS[second.kind]} ${pointsText(index, second.at, second.to)}, which tells ${tellsWords(second.gainBits)} for ${minutesText(second.minutes)}.`}
      </p>
      <small>
        {proposal.gainBits.toFixed(2)} bit for {minutesText(proposal.minutes)}
        {second &&
          `; next best ${second.gainBits.toFixed(2)} bit for ${minutesText(second.minutes)}`}
      </small>
    </details>
  );
}
