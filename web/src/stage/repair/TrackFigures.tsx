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
import { NumberFields } from '../../form/NumberFields';
import { numbersOf, type Typed } from '../../form/numbers';
import { Fold } from '../../ui/Fold';
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
  const [typed, setTyped] = useState<Typed<Name>>({ rise: '10', gauge: '30' });
  const numbers = numbersOf(typed);
  return (
    <Fold>
      <summary>A burnt track, and the wire in its place</summary>
      <NumberFields id="track" fields={FIELDS} typed={typed} onType={setTyped} />
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
