import { format } from 'date-fns/format';
import { Button } from '../ui/Button';
import { Actions } from '../ui/FormRow';
import { Fold } from '../ui/Fold';
import { Panel } from '../ui/Panel';
import { Table } from '../ui/Table';
import { Small } from '../ui/Words';
import style from './Patterns.module.css';
import type { TaughtCase } from './patterns';
import type { PatternsState } from './use-patterns';

const GRADE: Readonly<Record<TaughtCase['grade'], string>> = {
  whole: 'one change between two tests: counts whole',
  shared: 'several changes at once: shared among them',
  unproven: 'never proven: counts nothing',
};

/** What it is learned from, case by case; switched off, doubted, or begun anew. */
export function Teaching({ state }: { state: PatternsState }) {
  const { setting, lessons } = state.known;
  const counts = lessons.filter(
    ({ teaches, grade, closedAt }) =>
      teaches &&
      grade !== 'unproven' &&
      (setting.since === null || (closedAt ?? '') > setting.since),
  ).length;
  return (
    <Panel title="What it is learned from" framed>
      <label className={style.check}>
        <input
          type="checkbox"
          checked={setting.on}
          onChange={(event) => void state.setLearning({ ...setting, on: event.target.checked })}
        />{' '}
        Line-ups and patterns go by closed cases
      </label>
      <p>
        {setting.on
          ? `${counts} of ${lessons.length} closed cases count.`
          : 'Switched off: the rate table alone.'}{' '}
        {setting.since !== null &&
          `Begun anew on ${format(new Date(setting.since), 'd MMM yyyy HH:mm')}.`}
      </p>
      <Actions>
        {setting.since === null ? (
          <Button
            onClick={() => void state.setLearning({ ...setting, since: new Date().toISOString() })}
          >
            Begin anew
          </Button>
        ) : (
          <Button onClick={() => void state.setLearning({ ...setting, since: null })}>
            Count the earlier ones again
          </Button>
        )}
      </Actions>
      {lessons.length > 0 && (
        <Fold>
          <summary>Case by case</summary>
          <Table asCards>
            <thead>
              <tr>
                <th scope="col">case</th>
                <th scope="col">what may have been the cure</th>
                <th scope="col">counts</th>
              </tr>
            </thead>
            <tbody>
              {lessons.map(({ number, title, grade, teaches, cures }) => (
                <tr key={number}>
                  <th scope="row">
                    <a href={`/case/${number}/hand-back`}>{number}</a> {title}
                  </th>
                  <td data-label="cure">
                    {cures
                      .map(({ words, share }) =>
                        cures.length === 1 ? words : `${words} ${Math.round(100 * share)} %`,
                      )
                      .join('; ')}
                    <Small as="span"> {GRADE[grade]}</Small>
                  </td>
                  <td data-label="counts">
                    <input
                      type="checkbox"
                      checked={teaches}
                      aria-label={`case ${number} teaches`}
                      onChange={(event) => void state.setTeaches(number, event.target.checked)}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Fold>
      )}
    </Panel>
  );
}
