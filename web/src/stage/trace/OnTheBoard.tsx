import type { BoardIndex } from '@hanzai/core/board';
import { boardValue } from '../../case/board-value';
import { Panel } from '../../ui/Panel';
import style from './PracticePane.module.css';

/** What is seen of a board that has no sheet: its parts, and what is printed on them. */
export function OnTheBoard({ bench }: { bench: BoardIndex }) {
  const seen = [...bench.replaceable].flatMap(([ref, [part]]) =>
    part && part.kind !== 'voltageSource' && part.kind !== 'unspecified'
      ? [{ ref, value: boardValue(bench, ref) ?? '', pins: part.pins.length }]
      : [],
  );
  return (
    <Panel title="What is seen on it" aside={`${seen.length} parts, and no net`}>
      <ul className={style.seen}>
        {seen.map(({ ref, value, pins }) => (
          <li key={ref}>
            <b className="mono">{ref}</b> {value}
            {pins > 2 && `, ${pins} pins`}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
