import { z } from 'zod';
import { parseFaults } from '@hanzai/core/fault';
import type { BoardIndex } from '@hanzai/core/board';
import type { Journal } from '../../case/journal';
import { faultWords } from '../../case/wording';
import { EntryForm } from '../../form/EntryForm';
import { typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { FormRow } from '../../ui/FormRow';
import { TextField } from '../../ui/TextField';
import type { WhatIfAnswer } from '../../workers/engine-messages';
import style from './WhatIf.module.css';

const Typed = z.object({ faults: typedWords(200, 'say a fault, such as l2 open') });

/** `l2 open + d4 short` as the names of faults: `l2:open + d4:short`. */
export function faultNames(text: string): string {
  return text
    .split(/\s\+\s|\s*,\s*/)
    .map((one) =>
      one
        .trim()
        .replace(/\s*:\s*|\s+/, ':')
        .replace(/\s+/g, '-'),
    )
    .join(' + ');
}

/**
 * A copy of the board with a fault put on it: how many of the readings it explains, and which not.
 * Nothing of it is filed.
 */
export function WhatIf({
  index,
  journal,
  faults,
  answer,
  onAsk,
}: {
  index: BoardIndex;
  journal: Journal;
  /** Empty for a sound board. */
  faults: string;
  answer: WhatIfAnswer | undefined;
  /** undefined closes it. */
  onAsk: (faults: string | undefined) => void;
}) {
  const entry = useEntryForm(
    Typed,
    { faults: '' },
    {
      enter: ({ faults: typed }) => {
        const names = faultNames(typed);
        const read = parseFaults(index, names);
        if (!read.ok) return `${read.what}; expected ${read.expected}`;
        onAsk(read.faults.map(({ name }) => name).join(' + '));
        return undefined;
      },
      clears: ['faults'],
    },
  );
  return (
    <section className={style.whatIf} aria-label="What if">
      <p role="status">
        <b>{faults === '' ? 'A sound board' : `What if ${faultWords(faults)}`}:</b>{' '}
        {summary(journal, answer)}
      </p>
      <EntryForm label="Put another fault on the copy" entry={entry}>
        <FormRow>
          <TextField
            id="what-if"
            label="Another fault, or two"
            className="mono"
            placeholder="l2 open + d4 short"
            autoComplete="off"
            {...entry.field('faults')}
          />
          <Button type="submit">Ask</Button>
          <Button look="quiet" onClick={() => onAsk('')}>
            Sound board
          </Button>
          <Button look="quiet" onClick={() => onAsk(undefined)}>
            Close
          </Button>
        </FormRow>
      </EntryForm>
    </section>
  );
}

/** How many of the readings this board would show, and the odd ones. */
function summary(journal: Journal, answer: WhatIfAnswer | undefined): string {
  if (!answer) return 'being worked out';
  if (!answer.ok) return answer.why;
  const judged = journal.readings.flatMap(({ current, entry }) => {
    const shown = answer.readings[entry.id];
    return current && shown ? [{ typed: entry.body.typed, ...shown }] : [];
  });
  if (judged.length === 0) return 'no reading to hold it against yet; its volts stand on the map';
  const odd = judged.filter(({ within }) => !within);
  if (odd.length === 0)
    return judged.length === 1
      ? 'it would show what was read'
      : `it would show all ${judged.length} readings`;
  const [worst] = odd;
  return `${judged.length - odd.length} of ${judged.length} readings as read; not ${worst!.typed} (it would be ${worst!.display})${odd.length > 1 ? ` and ${odd.length - 1} more` : ''}`;
}
