import { nameKey } from './nets';
import { lettersOf } from './part-words';
import type { Part } from './schema';

/** One way to say what a black box is: in words, and as the line of a bench sheet. */
export interface Mending {
  readonly words: string;
  readonly line: string;
}

const ORDERS = ['e b c', 'c b e', 'e c b', 'b c e', 'b e c', 'c e b'] as const;

/**
 * What a black box may be, by the letters of its designator and what it is called: which pin of a
 * diode or transistor is which, a plug that feeds the board. Nothing where there is no telling.
 */
export function mendingsOf(part: Part): Mending[] {
  if (part.kind !== 'unspecified') return [];
  const { ref, pins, rating = '' } = part;
  const words = rating
    .split(/\s+/)
    .filter((word) => word !== '' && !/^(diode|connector_?\d*)$/i.test(word));
  const called = words[0] ?? '';
  const tail = part.package === undefined ? '' : ` package=${part.package}`;
  if (lettersOf(ref) === 'D' && pins.length === 2)
    return [
      { words: 'pin 1 is the anode', line: `${ref} ${called} a=${pins[0]} k=${pins[1]}${tail}` },
      { words: 'pin 1 is the cathode', line: `${ref} ${called} a=${pins[1]} k=${pins[0]}${tail}` },
    ];
  if (lettersOf(ref) === 'Q' && pins.length === 3)
    return ORDERS.map((order) => {
      const names = order.split(' ');
      return {
        words: names.map((name, i) => `${i + 1} ${name}`).join(', '),
        line: `${ref} ${called || 'NPN'} ${names.map((name, i) => `${name}=${pins[i]}`).join(' ')}${tail}`,
      };
    });
  const volts = words.find((word) => /^\d+(\.\d+)?V\d?$/i.test(word));
  if (['J', 'P', 'CN'].includes(lettersOf(ref)) && pins.length === 2 && volts)
    return [
      {
        words: `it feeds ${volts} in`,
        line: `${ref} ${volts} in: 1=${pins[0]} 2=${pins[1]}${tail}`,
      },
    ];
  return [];
}

/** The text of a sheet with the line of one part changed; as it was where the part is on none. */
export function withPartLine(source: string, ref: string, line: string): string {
  const lines = source.split('\n');
  const at = lines.findIndex((text) => nameKey(text.trim().split(/\s+/)[0] ?? '') === nameKey(ref));
  if (at < 0) return source;
  return lines.map((text, i) => (i === at ? line : text)).join('\n');
}
