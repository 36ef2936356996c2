import type { Imported } from './read';

/** What an import did, in words. */
export function importWords({ added, known, renumbered }: Imported): string {
  const rows = Object.entries(added).map(([table, n]) => `  ${n} × ${table.replace('_', ' ')}`);
  return [
    rows.length > 0 ? 'Came in:' : 'Nothing came in: all of it was here already.',
    ...rows,
    ...(rows.length > 0 && known > 0 ? [`${known} rows were here already.`] : []),
    ...renumbered.map(
      ([theirs, ours]) => `Case ${theirs} is case ${ours} here: its number was another's.`,
    ),
    '',
  ].join('\n');
}
