import { useState } from 'react';
import { formatQuantity } from '@hanzai/core/quantity';
import {
  gaugeMm,
  jumperAmpere,
  trackAmpere,
  trackOhm,
  wireHenry,
  wireOhm,
} from '@hanzai/core/rework';
import { Fold } from '../../ui/Fold';
import { FormRow, Narrow } from '../../ui/FormRow';
import { TextField } from '../../ui/TextField';
import { Small } from '../../ui/Words';

const FIELDS = [
  ['width', 'Track, mm wide'],
  ['rise', 'Warmer by, °C'],
  ['length', 'Length, mm'],
  ['gauge', 'Wire gauge'],
] as const;
type Name = (typeof FIELDS)[number][0];

/** What a track and a wire in its place carry and cost, in words; empty where nothing follows. */
export function trackWords(typed: Readonly<Partial<Record<Name, number>>>): readonly string[] {
  const { width, rise, length, gauge } = typed;
  return [
    ...(width && rise
      ? [`the track carries ${formatQuantity(trackAmpere(width, rise), 'A', 2)} at ${rise} °C more`]
      : []),
    ...(width && length
      ? [`the track has ${formatQuantity(trackOhm(length, width), 'ohm', 2)}`]
      : []),
    ...(gauge !== undefined && length
      ? [
          `the wire has ${formatQuantity(wireOhm(length, gaugeMm(gauge)), 'ohm', 2)} and ${formatQuantity(wireHenry(length, gaugeMm(gauge)), 'H', 2)}, and carries ${formatQuantity(jumperAmpere(gaugeMm(gauge)), 'A', 2)}`,
        ]
      : []),
  ];
}

/** Track and wire by their figures. Files nothing. */
export function TrackFigures() {
  const [typed, setTyped] = useState<Readonly<Record<Name, string>>>({
    width: '',
    rise: '10',
    length: '',
    gauge: '30',
  });
  const numbers = Object.fromEntries(
    FIELDS.flatMap(([name]) => {
      const value = Number(typed[name].trim().replace(',', '.'));
      return typed[name].trim() !== '' && Number.isFinite(value) && value > 0
        ? [[name, value]]
        : [];
    }),
  ) as Partial<Record<Name, number>>;
  return (
    <Fold>
      <summary>A burnt track, and the wire in its place</summary>
      <FormRow>
        {FIELDS.map(([name, label]) => (
          <Narrow key={name}>
            <TextField
              id={`track-${name}`}
              label={label}
              className="mono"
              inputMode="decimal"
              value={typed[name]}
              onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
            />
          </Narrow>
        ))}
      </FormRow>
      <output aria-live="polite">
        {trackWords(numbers).map((words) => (
          <p key={words}>{words}</p>
        ))}
      </output>
      <Small>
        35 µm copper, outside: IPC-2221. Wire: ASTM B258, IEC 60028, Rosa; its amperes are common
        practice. A burnt track has a reason: find it before the wire goes on.
      </Small>
    </Fold>
  );
}
