import type { Stage } from '../case/stages';
import type { CaseState } from '../case/use-case';
import { Fold } from '../ui/Fold';
import { offeredAt } from './at-stage';
import { calculatorOf } from './calculators';
import { ReckonHere } from './ReckonHere';
import style from './Reckoner.module.css';

/** The calculators that a stage has use for, at its end. */
export function Reckoners({ state, stage }: { state: CaseState; stage: Stage }) {
  const offered = offeredAt(stage, state);
  if (offered.length === 0) return null;
  return (
    <Fold>
      <summary>Reckon here</summary>
      <div className={style.tools}>
        {offered.map(({ name, typed }) => (
          <ReckonHere
            key={name}
            state={state}
            name={name}
            typed={typed}
            words={calculatorOf(name).title}
          />
        ))}
      </div>
    </Fold>
  );
}
