import { useMemo, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { arrayElements, judgeElement, worstOf } from '@hanzai/core/check';
import { formatQuantity, parseQuantity } from '@hanzai/core/quantity';
import type { CaseState } from '../../../case/use-case';
import { Refused } from '../../../form/EntryForm';
import { Button } from '../../../ui/Button';
import { Table } from '../../../ui/Table';

const VERDICT_WORDS = { good: 'good', doubtful: 'in doubt', bad: 'BAD' } as const;

function ohmOf(text: string): number | undefined {
  const read = parseQuantity(text);
  if (!read.ok || (read.unit !== '' && read.unit !== 'ohm')) return undefined;
  return read.value === 'OL' ? Infinity : read.value > 0 ? read.value : undefined;
}

/**
 * The elements of an array of the sheet, one after the other, each with what the sheet has beside
 * it. Nothing where the part is no array of the sheet.
 */
export function ArrayElements({
  state,
  index,
  name,
}: {
  readonly state: CaseState;
  readonly index: BoardIndex;
  readonly name: string;
}) {
  const elements = useMemo(() => arrayElements(index, name.trim()), [index, name]);
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [refusal, setRefusal] = useState<string>();
  if (elements.length === 0) return null;
  const reads = elements.map(({ ref }) => ohmOf(typed[ref] ?? ''));
  const judged = elements.map((element, i) => {
    const read = reads[i];
    const others = reads.filter((one, k): one is number => k !== i && one !== undefined);
    return read === undefined ? undefined : judgeElement(element, read, others);
  });
  const all = judged.flatMap((one) => one ?? []);
  const worst = worstOf(all);
  const ref = elements[0]!.ref.replace(/\.\d+$/, '');
  const file = (): void => {
    if (!worst?.result) return;
    const why = state.append({
      kind: 'guided',
      check: 'array',
      ref,
      given: worst.given,
      verdict: worst.result.verdict,
      because: [...worst.result.because],
    });
    setRefusal(why);
    if (why === undefined) setTyped({});
  };
  return (
    <section aria-label={`Elements of ${ref}`}>
      <Table asCards>
        <thead>
          <tr>
            <th scope="col">element</th>
            <th scope="col">each</th>
            <th scope="col">beside it</th>
            <th scope="col">reads</th>
            <th scope="col">it is</th>
          </tr>
        </thead>
        <tbody>
          {elements.map(({ ref: element, nominalOhm, besideOhm }, i) => (
            <tr key={element}>
              <th scope="row" className="mono">
                {element}
              </th>
              <td className="mono">{formatQuantity(nominalOhm, 'ohm', 3)}</td>
              <td className="mono">
                {Number.isFinite(besideOhm) ? formatQuantity(besideOhm, 'ohm', 3) : 'nothing'}
              </td>
              <td>
                <input
                  className="mono"
                  aria-label={`${element} reads`}
                  autoComplete="off"
                  size={7}
                  value={typed[element] ?? ''}
                  onChange={(event) => setTyped({ ...typed, [element]: event.target.value })}
                />
              </td>
              <td>
                {judged[i]?.result
                  ? `${VERDICT_WORDS[judged[i].result.verdict]}: ${judged[i].result.because.join('; ')}`
                  : (typed[element] ?? '').trim() === ''
                    ? ''
                    : 'no reading; expected 33R or OL'}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <Refused words={refusal} />
      <Button disabled={!worst || all.length < elements.length} onClick={file}>
        {all.length < elements.length
          ? `${elements.length - all.length} of ${elements.length} still to read`
          : `File the worst of them for ${ref}`}
      </Button>
    </section>
  );
}
