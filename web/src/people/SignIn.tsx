import { useState } from 'react';
import { Button } from '../ui/Button';
import { whyNot } from '../store/answers';
import { Masthead } from '../ui/Masthead';
import { Notice } from '../ui/Notice';
import { Place } from '../ui/Place';
import { TextField } from '../ui/TextField';
import { nameAddress } from './name-address';
import { Password } from './Password';
import { passkeysHere, signInWithPasskey } from './passkey-browser';
import style from './People.module.css';
import { placeAfter } from './sign-in-path';

/** Signing in by name, with a password or with the code that one was given. */
export function SignIn({ search, passkeysAt }: { search: string; passkeysAt: string | undefined }) {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const [busy, setBusy] = useState(false);

  async function signIn(): Promise<void> {
    setBusy(true);
    setRefusal(undefined);
    try {
      const response = await fetch('/api/auth/sign-in/email', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email: nameAddress(name), password: password.trim() }),
        signal: AbortSignal.timeout(20_000),
      });
      if (response.ok) return window.location.assign(placeAfter(search));
      setRefusal(
        response.status === 429
          ? `Too many tries: wait ${response.headers.get('x-retry-after') ?? '60'} seconds.`
          : response.status >= 500
            ? 'The workshop did not answer as it should. Try again in a moment.'
            : 'Name and password do not go together. A code is typed with its hyphens.',
      );
    } catch {
      setRefusal('The workshop server does not answer. Try again in a moment.');
    } finally {
      setBusy(false);
    }
  }

  async function withPasskey(): Promise<void> {
    setBusy(true);
    setRefusal(undefined);
    try {
      await signInWithPasskey();
      window.location.assign(placeAfter(search));
    } catch (error) {
      setRefusal(whyNot(error));
    } finally {
      setBusy(false);
    }
  }

  return (
    <>
      <Masthead here="sign-in" />
      <Place>
        <form
          className={style.narrow}
          onSubmit={(event) => {
            event.preventDefault();
            void signIn();
          }}
        >
          <h1>Who works here?</h1>
          {refusal && (
            <Notice look="attention" live>
              {refusal}
            </Notice>
          )}
          <TextField
            id="sign-in-name"
            label="Name"
            autoComplete="username"
            autoFocus
            required
            value={name}
            onChange={({ target }) => setName(target.value)}
          />
          <Password
            id="sign-in-password"
            label="Password"
            hint="or the code that you were given"
            value={password}
            onType={setPassword}
          />
          <p>
            <Button look="main" type="submit" disabled={busy}>
              {busy ? 'Signing in …' : 'Sign in'}
            </Button>{' '}
            {passkeysHere(passkeysAt).are && (
              <Button disabled={busy} onClick={() => void withPasskey()}>
                With this device
              </Button>
            )}
          </p>
          <p>
            Lost it? Whoever runs the machine makes a new code:{' '}
            <code>npm run people code NAME</code>.
          </p>
        </form>
      </Place>
    </>
  );
}
