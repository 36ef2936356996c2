import type { Given, GuidedCheck } from './check';
import { ARRAY, CONTACT, INDUCTOR, LIGHT_BARRIER } from './parts';
import { MOTOR, SPEED } from './turning';
import { TRIMMER } from './trimmer';
import { CENTRE_TAP } from './winding';
import { STEERING_DIODES } from './steering';

export { type CheckField, type CheckResult, type Given, type GuidedCheck } from './check';
export { fitWinding, judgeWinding, type WindingFit } from './winding';
export { withoutParallel } from './parts';
export { judgeWindings, slip, speedOfIndex, speedOfStrobe } from './turning';

/** A check that looks at nothing that cannot be: sizes below nothing, OL of anything but ohms. */
function sane(check: GuidedCheck): GuidedCheck {
  const sized = (key: string, value: Given[string]): boolean => {
    if (typeof value !== 'number') return true;
    const field = check.fields.find((one) => one.key === key);
    const mayBeOver = field?.unit === 'ohm' || field?.overload === true;
    return value >= 0 && (mayBeOver || Number.isFinite(value));
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
  STEERING_DIODES,
  LIGHT_BARRIER,
  MOTOR,
  SPEED,
  CONTACT,
  ARRAY,
  TRIMMER,
  INDUCTOR,
].map(sane);
export { arrayElements, judgeElement, worstOf, type ArrayElement } from './elements';
