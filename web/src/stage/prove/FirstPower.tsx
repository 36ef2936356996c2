import { useDeferredValue, useMemo, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { fittingShorts, type ProofStep, type SupplyDraw } from '@hanzai/core/prove';
import { formatQuantity } from '@hanzai/core/quantity';
import { placeText } from '../../case/wording';
import { NumberFields } from '../../form/NumberFields';
import { numbersOf, type Typed } from '../../form/numbers';
import { Button } from '../../ui/Button';
import { FormRow } from '../../ui/FormRow';
import { Notice } from '../../ui/Notice';
import { Table } from '../../ui/Table';
import { Small } from '../../ui/Words';

type PowerStep = Extract<ProofStep, { type: 'power' }>;

/**
 * The first power after a repair: what each supply gives on a good board, where its limit goes, and
 * which short would draw what it shows.
 */
export function FirstPower({
  step: { supplies, state },
  index,
  absent,
  locked,
  onAnswer,
}: {
  step: PowerStep;
  index: BoardIndex | undefined;
  absent: readonly string[];
  locked: boolean;
  onAnswer: (passed: boolean) => void;
}) {
  const [typed, setTyped] = useState<Typed<string>>({});
  const shows = numbersOf(typed);
  const over = supplies.find(({ ref, limitAmpere }) => {
    const milliampere = shows[ref];
    return (
      milliampere !== undefined && limitAmpere !== undefined && milliampere > 1e3 * limitAmpere
    );
  });
  return (
    <>
      {supplies.length === 0 ? (
        <p>
          What it draws is not worked out here: no supply of the sheet says its volts. On the mains
          a lamp in series: a short glow is right, bright and staying is a short, plug out. On a
          bench supply begin with a limit of a tenth of what the unit is labelled with.
        </p>
      ) : (
        <Table asCards>
          <thead>
            <tr>
              <th scope="col">supply</th>
              <th scope="col">volts</th>
              <th scope="col">a good board draws</th>
              <th scope="col">set the limit to</th>
            </tr>
          </thead>
          <tbody>
            {supplies.map(({ ref, net, volt, ampere, limitAmpere }) => (
              <tr key={ref}>
                <th scope="row">{net}</th>
                <td data-label="volts" className="mono">
                  {formatQuantity(volt, 'V', 3)}
                </td>
                <td data-label="a good board draws" className="mono">
                  {ampere === undefined ? 'not worked out' : formatQuantity(ampere, 'A', 2)}
                </td>
                <td data-label="set the limit to" className="mono">
                  {limitAmpere === undefined ? 'low' : formatQuantity(limitAmpere, 'A', 2)}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <Small>
        Ten seconds with a hand on the switch: look, smell, listen, touch nothing. Off at once where
        the limit takes hold, something clicks or smells, or a rail sags. Then off, unplugged, and
        every charge read low: only then a finger near what may have got warm, never on the mains
        side. Motors draw more for a moment.
      </Small>
      {index && supplies.length > 0 && (
        <NumberFields
          id="draws"
          fields={supplies.map(({ ref, net }) => [ref, `${net} gives, mA`] as const)}
          typed={typed}
          onType={setTyped}
        />
      )}
      {index && over && (
        <Over index={index} supply={over} ampere={shows[over.ref]! / 1e3} absent={absent} />
      )}
      <FormRow>
        <Button look="main" disabled={locked || over !== undefined} onClick={() => onAnswer(true)}>
          {supplies.some(({ limitAmpere }) => limitAmpere !== undefined)
            ? 'Below the limit, nothing warm'
            : 'Lamp dim or low limit held, nothing warm'}
        </Button>
        <Button disabled={locked} onClick={() => onAnswer(false)}>
          Above it, or something was wrong
        </Button>
        {state === 'fail' && <Small>It was not good: find the short before the next try.</Small>}
      </FormRow>
    </>
  );
}

/** A supply that gives more than it should, with the shorts that fit. */
function Over({
  index,
  supply,
  ampere,
  absent,
}: {
  index: BoardIndex;
  supply: SupplyDraw;
  ampere: number;
  absent: readonly string[];
}) {
  // Circuits are solved for it: what is typed is not held up by them.
  const rested = useDeferredValue(ampere);
  const shorts = useMemo(
    () => fittingShorts(index, supply.ref, rested, absent),
    [index, supply, rested, absent],
  );
  return (
    <Notice look="harm" title="Switch it off." live>
      {formatQuantity(ampere, 'A', 2)} at {supply.net} is above the limit.{' '}
      {shorts.length === 0 ? (
        'No short of a rail to ground fits that figure: look for it between two rails, or in a load.'
      ) : (
        <>
          What would draw it:
          <ul>
            {shorts.map(({ net, ohm, refs }) => (
              <li key={net}>
                about <b className="mono">{formatQuantity(ohm, 'ohm', 2)}</b> from <b>{net}</b> to
                ground
                {refs.length > 0 &&
                  `: ${refs
                    .slice(0, 8)
                    .map((ref) => placeText(index, ref))
                    .join(', ')}${refs.length > 8 ? ` and ${refs.length - 8} more` : ''}`}
              </li>
            ))}
          </ul>
        </>
      )}
    </Notice>
  );
}
