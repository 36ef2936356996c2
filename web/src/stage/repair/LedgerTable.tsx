import { format } from 'date-fns/format';
import { reconcile } from '@hanzai/core/bench';
import type { CaseState } from '../../case/use-case';
import { isMended, ledgerWords } from '../../case/wording';
import { Button } from '../../ui/Button';
import style from './RepairStage.module.css';

/** Off and on by the letters of the designators: `C 18 off, 17 on`. */
export function countsByKind(
  sums: readonly { readonly ref: string; readonly removed: number; readonly fitted: number }[],
): readonly string[] {
  const kinds = new Map<string, { off: number; on: number }>();
  for (const { ref, removed, fitted } of sums) {
    const letters = /^[A-Za-z]+/.exec(ref)?.[0].toUpperCase() ?? ref;
    const kind = kinds.get(letters) ?? { off: 0, on: 0 };
    kinds.set(letters, { off: kind.off + removed, on: kind.on + fitted });
  }
  return [...kinds].map(([letters, { off, on }]) => `${letters} ${off} off, ${on} on`);
}

/** The ledger line by line, and its sum. */
export function LedgerTable({ state }: { state: CaseState }) {
  const { ledger } = state.journal;
  if (ledger.length === 0) return null;
  const sums = reconcile(ledger.filter((line) => !isMended(line)));
  const mended = ledger.filter(isMended).length;
  const total = (key: 'removed' | 'fitted'): number => sums.reduce((sum, s) => sum + s[key], 0);
  const byKind = countsByKind(sums);
  return (
    <section className={style.ledger}>
      <h2>Ledger</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">part</th>
            <th scope="col">what</th>
            <th scope="col">value</th>
            <th scope="col">polarity</th>
            <th scope="col">note</th>
            <th scope="col">when</th>
            <th scope="col">
              <span className="visually-hidden">take back</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {ledger.map((line) => (
            <tr key={line.entry.id}>
              <th scope="row">{line.ref}</th>
              <td>{ledgerWords(line)}</td>
              <td className="mono">{line.value}</td>
              <td>
                {[
                  line.sat,
                  line.action !== 'fitted' || isMended(line)
                    ? ''
                    : line.polarityChecked
                      ? 'checked'
                      : 'either way',
                ]
                  .filter(Boolean)
                  .join(', ')}
              </td>
              <td>{line.note}</td>
              <td>
                {format(new Date(line.entry.madeAt), 'd MMM HH:mm')}
                {line.entry.by !== undefined && `, ${line.entry.by}`}
              </td>
              <td>
                <Button
                  look="quiet"
                  onClick={() => state.append({ kind: 'retract', entry: line.entry.id })}
                  aria-label={`Take back: ${line.ref} ${ledgerWords(line)}`}
                >
                  Take back
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <td colSpan={7}>
              Off {total('removed')}, on {total('fitted')}, left out on purpose{' '}
              {sums.filter((s) => s.leftOut).length}, missing {sums.filter((s) => s.missing).length}
              {mended > 0 && `, mended ${mended}`}
              {byKind.length > 1 && `. By kind: ${byKind.join(', ')}`}
            </td>
          </tr>
        </tfoot>
      </table>
    </section>
  );
}
