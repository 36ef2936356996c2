import { useBackups } from './use-backups';

/** In the masthead, where the last good backup is old; nothing else. */
export function BackupWarning() {
  const known = useBackups();
  if (!known?.isOld) return null;
  return (
    <a href="/workshop" role="status">
      {known.backups[0] ? 'last backup is old' : 'no backup yet'}
    </a>
  );
}
