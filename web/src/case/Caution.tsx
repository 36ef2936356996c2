import { CAUTIONS, DEFER, type CautionedStep } from '@hanzai/core/bench';
import { Notice } from '../ui/Notice';

/** The caution that belongs to a step. It stands at the step, not in a manual. */
export function Caution({ of, more = '' }: { of: CautionedStep; more?: string }) {
  const { words, defer } = CAUTIONS[of];
  return (
    <Notice look="harm" title="Mind:">
      {[words, more, defer ? DEFER : ''].filter(Boolean).join(' ')}
    </Notice>
  );
}
