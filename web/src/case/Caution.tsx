import { CAUTIONS, DEFER, type CautionedStep } from '@hanzai/core/bench';
import { Notice } from '../ui/Notice';

/**
 * The caution that belongs to a step. It stands at the step, not in a manual. again: another
 * caution on the same screen has said already that local codes come first.
 */
export function Caution({ of, again = false }: { of: CautionedStep; again?: boolean }) {
  const { words, defer } = CAUTIONS[of];
  return (
    <Notice look="harm" title="Mind:">
      {defer && !again ? `${words} ${DEFER}` : words}
    </Notice>
  );
}
