import { useCallback, useMemo, useState } from 'react';
import { ownerMessage, type Course, type Quote } from '@hanzai/core/decide';
import type { CaseState } from '../../case/use-case';
import { COURSE_WORDS, oddsWords, placeText } from '../../case/wording';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Actions } from '../../ui/FormRow';
import { Panel } from '../../ui/Panel';
import { Printed } from '../../ui/Printed';
import type { Suspect } from './standing';

/** Courses that an owner is asked about; measuring once more is the bench's own affair. */
const ASKED = 4;

/** A draft for the owner, to be changed by hand, copied or printed. Nothing is sent. */
export function OwnerMessage({
  state,
  courses,
  quote,
  suspects,
}: {
  state: CaseState;
  courses: readonly Course[];
  quote: Quote;
  suspects: readonly Suspect[];
}) {
  const { view, journal, index } = state;
  const draft = useMemo(
    () =>
      ownerMessage({
        unit: view.unitModel,
        owner: view.owner,
        number: view.number,
        complaint: view.complaint,
        currency: '',
        givenUp:
          journal.decision?.body.course === 'give-up' ? journal.decision.body.reason : undefined,
        quote,
        found: suspects
          .slice(0, 3)
          .map(({ ref, title, probability }) =>
            [placeText(index, ref), title && `(${title})`, oddsWords(probability)]
              .filter(Boolean)
              .join(' '),
          ),
        onTheWay: journal.findings.map(({ body }) => body.text),
        courses: courses
          .filter(({ name }) => name !== 'measure')
          .slice(0, ASKED)
          .map((course) => ({
            words: [COURSE_WORDS[course.name], course.refs.slice(0, 5).join(', ')]
              .filter(Boolean)
              .join(': '),
            price: Number.isFinite(course.inAll) ? course.inAll : 0,
            works: course.cures,
          })),
      }),
    [view, journal.findings, journal.decision, index, quote, suspects, courses],
  );
  const [own, setOwn] = useState<string>();
  const [said, setSaid] = useState('');
  const [printing, setPrinting] = useState(false);
  const printed = useCallback(() => setPrinting(false), []);
  const text = own ?? draft;
  const copy = async (): Promise<void> => {
    try {
      // Without a secure context a browser has no clipboard.
      await navigator.clipboard.writeText(text);
      setSaid('copied');
    } catch {
      setSaid('this browser does not copy: select the text and copy it');
    }
  };
  return (
    <Panel title="To the owner" aside="a draft: read it before it goes out">
      <Field id="owner-message" label="Message">
        <textarea
          id="owner-message"
          rows={14}
          value={text}
          onChange={(event) => setOwn(event.target.value)}
        />
      </Field>
      <Actions>
        <Button onClick={() => void copy()}>Copy</Button>
        <Button onClick={() => setPrinting(true)}>Print</Button>
        {own !== undefined && (
          <Button look="quiet" onClick={() => setOwn(undefined)}>
            The draft again
          </Button>
        )}
        <span role="status">{said}</span>
      </Actions>
      {printing && (
        <Printed onDone={printed}>
          <pre style={{ whiteSpace: 'pre-wrap', font: 'inherit' }}>{text}</pre>
        </Printed>
      )}
    </Panel>
  );
}
