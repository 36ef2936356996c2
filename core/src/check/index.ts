import type { Given, GuidedCheck } from './check';
import { ARRAY, CONTACT, INDUCTOR, LIGHT_BARRIER } from './parts';
import { MOTOR, SPEED } from './turning';
import { CENTRE_TAP } from './winding';

export { type CheckField, type CheckResult, type Given, type GuidedCheck } from './check';
export { fitWinding, judgeWinding, type WindingFit } from './winding';
export { withoutParallel } from './parts';
export { judgeWindings, slip, speedOfIndex, speedOfStrobe } from './turning';

/** A check that looks at nothing that cannot be: sizes below nothing, OL of anything but ohms. */
function sane(check: GuidedCheck): GuidedCheck {
  const sized = (key: string, value: Given[string]): boolean => {
    if (typeof value !== 'number') return true;
    const { unit } = check.fields.find((field) => field.key === key) ?? { unit: '' };
    return value >= 0 && (unit === 'ohm' || Number.isFinite(value));
  };
  return {
    ...check,
    judge: (given) =>
      check.judge(
        Object.fromEntries(Object.entries(given).filter(([key, value]) => sized(key, value))),
      ),
  };
}

/** Every guided check, in the order in which they are offered. */
export const GUIDED_CHECKS: readonly GuidedCheck[] = [
  CENTRE_TAP,
  LIGHT_BARRIER,
  MOTOR,
  SPEED,
  CONTACT,
  ARRAY,
  INDUCTOR,
].map(sane);
export { arrayElements, judgeElement, worstOf, type ArrayElement } from './elements';
