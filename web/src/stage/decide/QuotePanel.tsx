import type { Quote } from '@hanzai/core/decide';
import { oddsWords, moneyText } from '../../case/wording';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Table } from '../../ui/Table';
import { Small } from '../../ui/Words';

/** The price of the whole job in stages, and where to stop and ask. */
export function QuotePanel({ quote, closed }: { quote: Quote; closed: readonly number[] }) {
  const { limit, stopAt, within, spent, thisFault } = quote;
  const isPast = stopAt !== undefined && spent >= stopAt;
  const wouldPass = stopAt !== undefined && !isPast && spent + thisFault > stopAt;
  return (
    <Panel title="The whole job" aside="prices of the workshop">
      {isPast && (
        <Notice look="attention" title="Stop and ask:">
          with putting it together the agreed {moneyText(limit!)} are used up.
        </Notice>
      )}
      {wouldPass && (
        <Notice look="attention" title="Ask first:">
          this fault alone is likely to go past the agreed {moneyText(limit!)}.
        </Notice>
      )}
      <Table>
        <tbody>
          <tr>
            <th scope="row">so far</th>
            <td className="mono">{moneyText(spent)}</td>
            <td />
          </tr>
          <tr>
            <th scope="row">until this fault is gone</th>
            <td className="mono">{moneyText(thisFault)}</td>
            <td />
          </tr>
          {quote.ahead.map(({ name, title, faulty, price }) => (
            <tr key={name}>
              <th scope="row">then: {title}</th>
              <td className="mono">{moneyText(price)}</td>
              <td>a fault of its own {oddsWords(faulty)}</td>
            </tr>
          ))}
          <tr>
            <th scope="row">put together, hand back</th>
            <td className="mono">{moneyText(quote.closing)}</td>
            <td />
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">in all, likely</th>
            <td className="mono">{moneyText(quote.likely)}</td>
            <td>19 of 20 below {moneyText(quote.nearlyAll)}</td>
          </tr>
          <tr>
            <th scope="row">agreed</th>
            <td className="mono">{limit === undefined ? 'nothing' : moneyText(limit)}</td>
            <td>
              {within === undefined
                ? 'ask for a limit'
                : `stays within it ${oddsWords(within)}; stop and ask at ${moneyText(stopAt!)}`}
            </td>
          </tr>
        </tfoot>
      </Table>
      <Small>
        {closed.length >= 3
          ? `A round is taken as the middle of ${closed.length} closed cases of this kind.`
          : `${closed.length === 0 ? 'No closed case' : `Only ${closed.length} closed`} of this kind: a round is taken from the figures below, chances of stages ahead from memory of bench practice.`}
      </Small>
    </Panel>
  );
}
