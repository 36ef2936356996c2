import { nameKey } from '@hanzai/core/board';
import { settingsOf } from '@hanzai/core/adjust';
import { formatQuantity } from '@hanzai/core/quantity';
import { adjustmentsOf, degreesWords, outcomeWords } from '../../case/kind/adjusting';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { Table } from '../../ui/Table';

const signed = (share: number): string =>
  `${share >= 0 ? '+' : '−'}${Math.abs(100 * share).toFixed(0)} %`;

/** Everything that was found, where it stands now, and every touch. */
export function Settings({ state }: { state: CaseState }) {
  const { journal } = state;
  const { found, touches } = adjustmentsOf(journal);
  if (found.length === 0) return null;
  const settings = settingsOf(found, touches);
  const unitOf = (ref: string) =>
    found.find((one) => nameKey(one.ref) === nameKey(ref))?.unit ?? '';
  return (
    <Panel title="Where each stands">
      <Table asCards>
        <thead>
          <tr>
            <th scope="col">what</th>
            <th scope="col">as found</th>
            <th scope="col">now</th>
            <th scope="col">off by</th>
            <th scope="col">touches</th>
          </tr>
        </thead>
        <tbody>
          {settings.map(({ ref, found: first, degrees, reading, change, touches: count }) => (
            <tr key={ref}>
              <th scope="row" className="mono">
                {ref}
              </th>
              <td>
                {[
                  first.reading === undefined ? '' : formatQuantity(first.reading, first.unit),
                  first.mark,
                ]
                  .filter(Boolean)
                  .join(', ') || 'not marked'}
              </td>
              <td className="mono">
                {reading === undefined ? '' : formatQuantity(reading, first.unit)}
              </td>
              <td>
                {Math.abs(degrees) < 0.5 ? 'as found' : degreesWords(degrees)}
                {change !== undefined && Math.abs(change) > 0.004 ? `, ${signed(change)}` : ''}
              </td>
              <td>{count}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {journal.turned.length > 0 && (
        <Rows as="ol">
          {journal.turned.map(({ id, body }, i) => (
            <li key={id}>
              <span>
                <b className="mono">{body.ref}</b> {degreesWords(body.degrees)}
                {outcomeWords(body, unitOf(body.ref)) &&
                  `: ${outcomeWords(body, unitOf(body.ref))}`}
                {body.reason && ` (${body.reason})`}
              </span>
              {i === journal.turned.length - 1 && (
                <Button
                  look="quiet"
                  aria-label={`Take back: ${body.ref} ${degreesWords(body.degrees)}`}
                  onClick={() => state.append({ kind: 'retract', entry: id })}
                >
                  Was not made
                </Button>
              )}
            </li>
          ))}
        </Rows>
      )}
    </Panel>
  );
}
