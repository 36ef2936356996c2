import { useEffect, useState, useSyncExternalStore } from 'react';
import { isSignedIn, watchSignIn } from '../store/signed-in';
import { signInPath } from './sign-in-path';
import { useMe } from './use-me';

/** In the masthead: who works here, or that he has to sign in again; nothing where nobody signs in. */
export function WhoIsHere() {
  // Pages that are made on the server have no store there.
  const [isInBrowser, setInBrowser] = useState(false);
  useEffect(() => setInBrowser(true), []);
  return isInBrowser ? <Who /> : null;
}

function Who() {
  const me = useMe();
  const known = useSyncExternalStore(watchSignIn, isSignedIn);
  const { pathname, search } = window.location;
  if (!known)
    return (
      <a href={signInPath(pathname + search)} role="status">
        Signed out: sign in again, everything entered is kept
      </a>
    );
  if (!me) return null;
  return (
    <a href="/people" title={me.hasCode ? `${me.name}: choose a password` : undefined}>
      {me.hasCode ? `${me.name} (code)` : me.name}
    </a>
  );
}
