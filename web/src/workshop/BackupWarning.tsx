import { useEffect, useState } from 'react';
import { useBackups } from './use-backups';

/** In the masthead, where the last good backup is old; nothing else. */
export function BackupWarning() {
  // Pages that are made on the server have no store there.
  const [isInBrowser, setInBrowser] = useState(false);
  useEffect(() => setInBrowser(true), []);
  return isInBrowser ? <IfOld /> : null;
}

function IfOld() {
  const known = useBackups();
  if (!known?.isOld) return null;
  return (
    <a href="/workshop" role="status">
      {known.backups[0] ? 'last backup is old' : 'no backup yet'}
    </a>
  );
}
