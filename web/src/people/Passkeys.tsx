import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns/format';
import { useState } from 'react';
import { whyNot } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { TextField } from '../ui/TextField';
import { endPasskey, listPasskeys, makePasskey, passkeysHere } from './passkey-browser';
import style from './People.module.css';

const KEY = ['passkeys'];

/** Devices that one signs in with in the place of a password. at: see `passkeysHere`. */
export function Passkeys({ at }: { at: string | undefined }) {
  const { queries } = store();
  const possible = passkeysHere(at);
  const { data: keys = [] } = useQuery(
    { queryKey: KEY, queryFn: listPasskeys, enabled: at !== undefined },
    queries,
  );
  const [name, setName] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const [busy, setBusy] = useState(false);

  async function change(work: () => Promise<void>): Promise<void> {
    setBusy(true);
    setRefusal(undefined);
    try {
      await work();
      setName('');
    } catch (error) {
      setRefusal(whyNot(error));
    } finally {
      setBusy(false);
    }
    await queries.invalidateQueries({ queryKey: KEY });
  }

  return (
    <Panel title="Passkeys" aside={String(keys.length)}>
      <p>
        A device of yours can sign you in by finger, face or its number. Nothing that opens leaves
        the device. A new code from the owner ends them all.
      </p>
      {keys.length > 0 && (
        <ul className={style.plain}>
          {keys.map(({ id, name: device, createdAt }) => (
            <li key={id} className={style.row}>
              <span>
                {device || 'a device'}
                {createdAt && `, since ${format(new Date(createdAt), 'd MMM yyyy')}`}
              </span>
              <Button
                look="quiet"
                disabled={busy}
                aria-label={`End ${device || 'a device'}`}
                onClick={() => void change(() => endPasskey(id))}
              >
                End it
              </Button>
            </li>
          ))}
        </ul>
      )}
      {possible.are ? (
        <form
          className={style.row}
          onSubmit={(event) => {
            event.preventDefault();
            void change(() => makePasskey(name.trim()));
          }}
        >
          <TextField
            id="passkey-name"
            label="What this device is called"
            autoComplete="off"
            required
            maxLength={60}
            value={name}
            onChange={({ target }) => setName(target.value)}
          />
          <Button type="submit" disabled={busy}>
            {busy ? 'Asking the device …' : 'Sign in with it from now on'}
          </Button>
        </form>
      ) : (
        <p>{possible.why}</p>
      )}
      {refusal && (
        <Notice look="attention" live>
          {refusal}
        </Notice>
      )}
    </Panel>
  );
}
