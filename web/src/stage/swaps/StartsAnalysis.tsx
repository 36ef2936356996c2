import {
  cleanRun,
  cleanStartsNeeded,
  failureRate,
  rateLeftOpen,
  testConditions,
} from '@hanzai/core/block';
import type { CaseState } from '../../case/use-case';
import { percent } from '../../case/wording';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Table } from '../../ui/Table';
import { Fold } from '../../ui/Fold';
import tone from '../../ui/Words.module.css';

/**
 * The log of starts: which condition goes with the fault, and how many clean starts a cure takes.
 */
export function StartsAnalysis({ state }: { state: CaseState }) {
  const starts = state.journal.starts.map(({ body }) => ({
    clean: body.failedAt === null,
    conditions: body.conditions,
  }));
  if (starts.length < 2)
    return (
      <Notice>
        Two starts or more, written down in Take in, show here whether the fault goes with a
        condition.
      </Notice>
    );
  const failed = starts.filter(({ clean }) => !clean).length;
  const rate = failureRate(starts);
  const run = cleanRun(starts);
  const tests = testConditions(starts);
  const title = (condition: string): string =>
    state.model?.conditions?.find(({ name }) => name === condition)?.title ?? condition;
  return (
    <Panel title="Starts" aside={`${starts.length} in the log, ${failed} failed`}>
      {tests.length > 0 && (
        <Table>
          <thead>
            <tr>
              <th scope="col">condition</th>
              <th scope="col">failed with / without</th>
              <th scope="col" title="with as many conditions looked at as there are">
                by chance
              </th>
              <th scope="col">verdict</th>
            </tr>
          </thead>
          <tbody>
            {tests.map((test) => (
              <tr key={test.condition}>
                <th scope="row">{title(test.condition)}</th>
                <td>
                  {test.withFailed} of {test.withFailed + test.withClean} / {test.withoutFailed} of{' '}
                  {test.withoutFailed + test.withoutClean}
                </td>
                <td>{percent(test.corrected)}</td>
                <td>{test.verdict === 'no telling' ? 'no telling yet' : <b>{test.verdict}</b>}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <Fold>
        <summary>Every start with its conditions</summary>
        <Table>
          <thead>
            <tr>
              <th scope="col">start</th>
              {tests.map(({ condition }) => (
                <th scope="col" key={condition}>
                  {title(condition)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {starts.map(({ clean, conditions }, i) => (
              <tr key={i}>
                <th scope="row">
                  {i + 1}. {clean ? <span className={tone.good}>clean</span> : 'failed'}
                </th>
                {tests.map(({ condition }) => (
                  <td key={condition}>{conditions.includes(condition) ? 'yes' : ''}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </Fold>
      <p>
        It fails in about {percent(rate)} of the starts: after a repair{' '}
        <b>{cleanStartsNeeded(failed, starts.length)} clean starts in a row</b> before the cure is
        believed (95 %).
        {run > 0 &&
          ` The last ${run} ${run === 1 ? 'was' : 'were'} clean: a rate of up to ${percent(rateLeftOpen(run))} is still open.`}
      </p>
    </Panel>
  );
}
