import { useState } from 'react';
import { Band } from '../../case/Band';
import { PaperSheet } from '../../paper/PaperSheet';
import { PaperTools } from '../../paper/PaperTools';
import { Field } from '../../ui/Field';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { deliveryNote, ownersOf, type BatchLine } from './delivery';
import style from './HandBackStage.module.css';
import { dayText } from './technical';

/** The delivery note of a batch, one for each owner. */
export function BatchPage({ batch, lines }: { batch: string; lines: readonly BatchLine[] }) {
  return (
    <>
      <Band here="docket" />
      <Batch batch={batch} lines={lines} today={new Date().toISOString()} />
      <Keys
        keys={[
          ['Ctrl+P', 'print the note'],
          ['?', 'these keys'],
        ]}
      />
    </>
  );
}

export function Batch({
  batch,
  lines,
  today,
}: {
  batch: string;
  lines: readonly BatchLine[];
  today: string;
}) {
  const owners = ownersOf(lines);
  const [owner, setOwner] = useState(owners[0] ?? '');
  const paper = deliveryNote(batch, owner, lines, dayText, today);
  return (
    <main className={style.batch}>
      <div className={style.tools}>
        <h1>Delivery note</h1>
        {lines.length === 0 ? (
          <Notice look="attention" title="No such batch.">
            No case carries the word “{batch}”. A batch is named on the cards of its cases, under
            Take in.
          </Notice>
        ) : (
          <>
            {owners.length > 1 && (
              <Field
                id="batch-owner"
                label="For"
                hint="Its units belong to several: each gets a note of their own."
              >
                <select
                  id="batch-owner"
                  value={owner}
                  onChange={({ target }) => setOwner(target.value)}
                >
                  {owners.map((name) => (
                    <option key={name} value={name}>
                      {name || 'no owner written down'}
                    </option>
                  ))}
                </select>
              </Field>
            )}
            {!lines.some((line) => line.owner === owner && line.closed) && (
              <Notice look="attention" title="Nothing of it is closed yet:">
                units are closed one by one in Hand back, each with its own proof.
              </Notice>
            )}
            <div className={style.buttons}>
              <PaperTools paper={paper} />
            </div>
          </>
        )}
      </div>
      {lines.length > 0 && <PaperSheet paper={paper} />}
    </main>
  );
}
