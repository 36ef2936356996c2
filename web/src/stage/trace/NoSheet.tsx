import { CaseFrame } from '../../case/CaseFrame';
import type { CaseState } from '../../case/use-case';
import { ButtonLink } from '../../ui/Button';
import style from './TraceStage.module.css';

/** Trace before a sheet was chosen. */
export function NoSheet({ state }: { state: CaseState }) {
  return (
    <CaseFrame state={state} stage="trace">
      <h2>No board sheet yet</h2>
      <p>
        Tracing needs the circuit. Choose a sheet in Take in, or import your own: a circuit deck
        such as
      </p>
      <pre className={style.example}>
        {'My board\nV1 VCC 0 5\nXF1 VCC VF FUSE\nR1 VF OUT 4.7k\n.end'}
      </pre>
      <ButtonLink look="main" href={`/case/${state.view.number}/take-in`}>
        Choose a sheet in Take in
      </ButtonLink>
    </CaseFrame>
  );
}
