import { NO_LIBRARY, type DeviceLibrary } from './library';
import { kindSaid, makePart, unsaidNet } from './part-words';
import type { Board, Part } from './schema';

const DESIGNATOR =
  /^(R|RN|RA|VR|C|L|FB|D|ZD|LD|LED|Q|TR|U|IC|F|S|SW|J|JP|CN|K|T|X|Y|M|W)\d{1,4}[A-Z]?$/i;

/**
 * Whether a name is that of a part, as `C7`, `U3`, `RN2`, by the letters that parts go by. Anything
 * else is a net: `P5` and `N12` are supplies, `A0` an address.
 */
export const isDesignator = (name: string): boolean => DESIGNATOR.test(name);

/** Words of a reading that are no names: numbers, kinds and what a meter says. */
const NO_NAME =
  /^([-+.\d].*|ol|beep|open|hi|lo|high|low|[01pz]|pulse|pulsing|float|yes|no|esr|ohms?|diode|volts?|logic|amps?|current|on|off|unloaded)$/i;

/**
 * A board on which just those parts and nets are that the words of a reading name, so that a reading
 * can be understood where there is no sheet. Nothing on it is joined to anything.
 */
export function scratchBoard(text: string, library: DeviceLibrary = NO_LIBRARY): Board {
  const parts = new Map<string, Part>();
  const pins = new Map<string, number>();
  const nets = new Map<string, string>();
  text
    .trim()
    .split(/\s+/)
    .forEach((word, i) => {
      if (word === '' || word.length > 60 || (i > 0 && NO_NAME.test(word))) return;
      const [name = '', pin] = word.split('.');
      // As boards are marked, however it was typed.
      if (!isDesignator(name)) nets.set(word.toLowerCase(), word.toUpperCase());
      else {
        const number = /^\d{1,3}$/.test(pin ?? '') ? Number(pin) : 1;
        pins.set(name.toUpperCase(), Math.max(pins.get(name.toUpperCase()) ?? 1, number));
      }
    });
  for (const [ref, most] of pins) parts.set(ref, namedPart(ref, most, library));
  const named = [...nets.values()].filter((net) => !/["=\s]/.test(net) && net !== '0');
  return {
    format: 'hanzai-board',
    version: 1,
    title: 'what is named',
    parts: [
      ...parts.values(),
      ...named.map((net, i): Part => ({ kind: 'unspecified', ref: `NET_${i + 1}`, pins: [net] })),
      { kind: 'unspecified', ref: 'NET_0', pins: ['0'] },
    ],
  };
}

/** What a designator says by its letters; a box with pins where they do not say it. */
function namedPart(ref: string, most: number, library: DeviceLibrary): Part {
  const kind = kindSaid(ref, []);
  const made =
    kind === undefined || kind === 'voltageSource' || kind === 'currentSource'
      ? undefined
      : makePart(
          { ref, words: kind === 'transistor' ? ['NPN'] : [], pins: [], deckOrder: true },
          library,
        );
  if (made?.ok && made.part.pins.length >= most) return made.part;
  // More than two, so that a reading on it has to name its pin.
  const pins = Array.from({ length: Math.max(3, most) }, (_, i) => unsaidNet(ref, i + 1));
  return { kind: 'unspecified', ref, pins };
}
