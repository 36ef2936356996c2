import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns/format';
import { useState } from 'react';
import { z } from 'zod';
import { ask, whyNot, type Asked } from '../store/answers';
import { store } from '../store/store';
import { Button, ButtonLink } from '../ui/Button';
import { Field } from '../ui/Field';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Errand, goesOn } from './errands';
import style from './OpenFiles.module.css';

const KEY = ['errands'];
const Errands = z.object({ errands: z.array(Errand) });
/** While something goes on it is looked at this often, milliseconds. */
const LOOKS_EVERY = 1000;
/** An archive of some gigabytes over a slow network, milliseconds. */
const SENDING = 4 * 3_600_000;

/** The whole workshop as open files, out and in. */
export function OpenFiles() {
  const { queries } = store();
  const { data, error } = useQuery(
    {
      queryKey: KEY,
      queryFn: () => ask('/api/errands', Errands),
      refetchInterval: ({ state }) =>
        state.data?.errands.some(goesOn) === true ? LOOKS_EVERY : false,
    },
    queries,
  );
  const [file, setFile] = useState<File>();
  /** A new field after each file that was taken. */
  const [round, setRound] = useState(0);
  const [sending, setSending] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const known = data?.errands ?? [];
  const isBusy = (what: Errand['what']): boolean =>
    known.some((one) => one.what === what && goesOn(one));

  async function request(path: string, init: Asked): Promise<boolean> {
    setRefusal(undefined);
    try {
      const asked = ask(path, z.object({}), init);
      // What was asked for is on the list before its file has come whole.
      setTimeout(() => void queries.invalidateQueries({ queryKey: KEY }), LOOKS_EVERY);
      await asked;
      return true;
    } catch (failed) {
      setRefusal(whyNot(failed));
      return false;
    } finally {
      await queries.invalidateQueries({ queryKey: KEY });
    }
  }

  async function takeIn(): Promise<void> {
    if (!file) return setRefusal('Choose the archive first.');
    setSending(true);
    const taken = await request(`/api/errands?what=take-in&name=${encodeURIComponent(file.name)}`, {
      method: 'POST',
      headers: { 'content-type': 'application/gzip' },
      body: file,
      signal: AbortSignal.timeout(SENDING),
    });
    if (taken) {
      setFile(undefined);
      setRound(round + 1);
    }
    setSending(false);
  }

  return (
    <Panel title="As open files">
      <p>
        Everything that was entered here as files that other programs read: cases and boards as
        JSON, sheets as decks, readings and stock as CSV, pictures as JPEG, in one archive. Nobody’s
        password is in it. Another workshop takes it in: what it has already stays as it is. Both go
        on when this page is closed, and when the server ends and comes back.
      </p>
      {(refusal ?? error) && (
        <Notice look="attention" live>
          {refusal ?? whyNot(error)}
        </Notice>
      )}
      <p>
        <Button
          disabled={isBusy('archive')}
          onClick={() => void request('/api/errands?what=archive', { method: 'POST' })}
        >
          Make the archive
        </Button>
      </p>
      <form
        className={style.row}
        onSubmit={(event) => {
          event.preventDefault();
          void takeIn();
        }}
      >
        <Field id="take-in-file" label="An archive of another workshop">
          <input
            key={round}
            id="take-in-file"
            type="file"
            accept=".gz,application/gzip"
            onChange={({ target }) => setFile(target.files?.[0])}
          />
        </Field>
        <Button type="submit" disabled={sending || isBusy('take-in')}>
          {sending ? 'Sending …' : 'Take it in'}
        </Button>
      </form>
      {known.length > 0 && (
        <ul className={style.errands} aria-label="What was asked for in the last day">
          {known.map((one) => (
            <OneErrand
              key={one.id}
              errand={one}
              onEnd={() => void request(`/api/errands/${one.id}`, { method: 'DELETE' })}
            />
          ))}
        </ul>
      )}
    </Panel>
  );
}

const size = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

/** How far an errand is, in words. */
export function errandWords({ what, state, bytes, worked }: Errand): string {
  const part = bytes > 0 ? `, ${Math.floor((100 * Math.min(worked, bytes)) / bytes)} %` : '';
  switch (state) {
    case 'coming':
      return `coming, ${size(bytes)} so far`;
    case 'waiting':
      return 'waits for its turn';
    case 'working':
      return what === 'archive' ? `being made, ${size(worked)} so far` : `being taken in${part}`;
    case 'done':
      return what === 'archive' ? `made, ${size(bytes)}` : 'taken in';
    case 'failed':
      return 'failed';
    case 'stopped':
      return 'stopped';
  }
}

function OneErrand({ errand, onEnd }: { errand: Errand; onEnd: () => void }) {
  const { id, what, state, name, askedBy, askedAt, said } = errand;
  return (
    <li>
      <span role="status">
        <b>{name || what}</b>: {errandWords(errand)}
      </span>
      <span className={style.asked}>
        {format(new Date(askedAt), 'd MMM HH:mm')}, {askedBy}
      </span>
      <span className={style.row}>
        {what === 'archive' && state === 'done' && (
          <ButtonLink href={`/api/errands/${id}`}>Take it along</ButtonLink>
        )}
        <Button
          look="quiet"
          aria-label={`${goesOn(errand) ? 'Stop' : 'Forget'} ${name}`}
          onClick={onEnd}
        >
          {goesOn(errand) ? 'Stop' : 'Forget'}
        </Button>
      </span>
      {said && <pre className={style.said}>{said.trim()}</pre>}
    </li>
  );
}
