import { useState } from 'react';
import type { Journal } from '../../case/journal';
import { valueText, weightWords } from '../../case/wording';
import type { LineUpEntry } from '../../workers/engine-messages';
import style from './LineUpList.module.css';

/** From so many cleared parts on they are searched and folded. */
const MANY = 6;

/** What is cleared, each with the reading that cleared it. */
export function Cleared({
  entries,
  journal,
}: {
  entries: readonly LineUpEntry[];
  journal: Journal;
}) {
  const [wanted, setWanted] = useState('');
  const places = entries.filter(isPlace).length;
  const parts = entries.filter((entry) => !isPlace(entry));
  const word = wanted.trim().toLowerCase();
  const found = parts.filter(({ ref, title }) => `${ref} ${title}`.toLowerCase().includes(word));
  return (
    <details className={style.cleared} open={entries.length < MANY}>
      <summary>Cleared ({parts.length})</summary>
      {parts.length >= MANY && (
        <input
          type="search"
          aria-label="Find among what is cleared"
          placeholder="find: c3, fuse"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      )}
      <ul>
        {found.map((entry) => (
          <li key={entry.ref}>
            <strong className="mono">{entry.ref}</strong> {entry.title}
            <small>{reason(entry, journal)}</small>
          </li>
        ))}
        {found.length === 0 && parts.length > 0 && <li>Nothing cleared goes by “{wanted}”.</li>}
        {places > 0 && word === '' && (
          <li>
            and {places === 1 ? 'one place' : `${places} places`} where solder could bridge or a
            track be cut
          </li>
        )}
      </ul>
    </details>
  );
}

/** A place between two points, where solder could bridge or a track be cut: no part. */
const isPlace = ({ ref }: LineUpEntry): boolean => ref.includes('~');

function reason(entry: LineUpEntry, journal: Journal): string {
  if (!entry.loudest) return 'other suspects explain the readings better';
  const reading = journal.readings.find((r) => r.entry.id === entry.loudest!.id);
  if (!reading) return '';
  const { body } = reading.entry;
  return `${body.at}${body.to ? ` to ${body.to}` : ''} read ${valueText(body.quantity, body.value)}: ${weightWords(entry.loudest.decibans)}`;
}
