import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns/format';
import { useState } from 'react';
import { z } from 'zod';
import { ask, whyNot, withBody } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Fold } from '../ui/Fold';
import { FormRow } from '../ui/FormRow';
import { Notice } from '../ui/Notice';
import { Rows } from '../ui/Rows';
import { TextField } from '../ui/TextField';
import style from './Visit.module.css';
import { MadeLink, MOST_DAYS, NewLink, VisitorLink } from './visitor-link';

/** Days that a link shows something, where nobody says otherwise. */
const USUAL_DAYS = 30;

/** Links that show this case to its owner: made, told once, ended. */
export function VisitorLinks({ caseId }: { caseId: string }) {
  const { queries } = store();
  const [isOpen, setOpen] = useState(false);
  const key = ['links', caseId];
  const doors = `/api/cases/${caseId}/links`;
  const { data: links = [] } = useQuery(
    { queryKey: key, queryFn: () => ask(doors, z.array(VisitorLink)), enabled: isOpen },
    queries,
  );
  const [told, setTold] = useState<string>();
  const [refusal, setRefusal] = useState<string>();
  const again = (): Promise<void> => queries.invalidateQueries({ queryKey: key });

  async function make(wanted: NewLink): Promise<void> {
    try {
      const { path } = await ask(doors, MadeLink, withBody('POST', wanted));
      setTold(new URL(path, window.location.href).href);
      setRefusal(undefined);
    } catch (error) {
      setRefusal(whyNot(error));
    }
    await again();
  }
  async function end(id: string): Promise<void> {
    try {
      await ask(`${doors}/${id}`, z.unknown(), { method: 'DELETE' });
      setRefusal(undefined);
    } catch (error) {
      setRefusal(whyNot(error));
    }
    await again();
  }

  return (
    <Fold onToggle={({ currentTarget }) => setOpen(currentTarget.open)}>
      <summary>A link for its owner</summary>
      <div className={style.links}>
        <p>
          Shows the owner’s page of this case, or where it stands while it is open, to whoever has
          the link: no readings, no working notes, no suspects, no names of people.
        </p>
        <MakeLink onMake={make} />
        {told && (
          <Notice look="good" title="The link, once:" live>
            <code>{told}</code>{' '}
            {/* Browsers lend it to pages with TLS, and to this very machine. */}
            {'clipboard' in navigator && (
              <Button onClick={() => void navigator.clipboard.writeText(told)}>Copy it</Button>
            )}
          </Notice>
        )}
        {refusal && (
          <Notice look="attention" live>
            {refusal}
          </Notice>
        )}
        {links.length > 0 && (
          <Rows>
            {links.map((link) => (
              <li key={link.id}>
                <span>{linkWords(link)}</span>
                <Button
                  look="quiet"
                  aria-label={`End the link for ${link.forWhom || 'its owner'}`}
                  onClick={() => void end(link.id)}
                >
                  End it
                </Button>
              </li>
            ))}
          </Rows>
        )}
      </div>
    </Fold>
  );
}

function linkWords({ forWhom, expiresAt, madeBy, showsPictures, showsCosts }: VisitorLink): string {
  const also = [showsPictures && 'pictures', showsCosts && 'costs'].filter(Boolean).join(' and ');
  return [
    `For ${forWhom || 'its owner'}, until ${format(new Date(expiresAt), 'd MMM yyyy')}`,
    ...(also ? [`with ${also}`] : []),
    `made by ${madeBy}`,
  ].join(', ');
}

function MakeLink({ onMake }: { onMake: (wanted: NewLink) => Promise<void> }) {
  const [forWhom, setForWhom] = useState('');
  const [days, setDays] = useState(String(USUAL_DAYS));
  const [showsPictures, setPictures] = useState(false);
  const [showsCosts, setCosts] = useState(false);
  const [wrong, setWrong] = useState<string>();

  function make(): void {
    const read = NewLink.safeParse({ forWhom, days: Number(days), showsPictures, showsCosts });
    if (!read.success) return setWrong(`1 to ${MOST_DAYS} days`);
    setWrong(undefined);
    void onMake(read.data).then(() => setForWhom(''));
  }
  return (
    <form
      aria-label="A link for its owner"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <FormRow>
        <TextField
          id="link-for"
          label="For whom"
          maxLength={120}
          value={forWhom}
          onChange={({ target }) => setForWhom(target.value)}
        />
        <TextField
          id="link-days"
          label="Days"
          inputMode="numeric"
          value={days}
          error={wrong}
          onChange={({ target }) => setDays(target.value)}
        />
        <label className={style.tick}>
          <input
            type="checkbox"
            checked={showsPictures}
            onChange={({ target }) => setPictures(target.checked)}
          />
          with its pictures
        </label>
        <label className={style.tick}>
          <input
            type="checkbox"
            checked={showsCosts}
            onChange={({ target }) => setCosts(target.checked)}
          />
          with its costs
        </label>
        <Button type="submit">Make a link</Button>
      </FormRow>
    </form>
  );
}
