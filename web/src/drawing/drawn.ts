import { isInsidePackage, replaceableRef } from '@hanzai/core/board';
import type { Gate } from './gates';

/** How a part of two pins is drawn. */
export type TwoPin =
  | 'resistor'
  | 'capacitor'
  | 'polarised'
  | 'coil'
  | 'motor'
  | 'head'
  | 'lamp'
  | 'crystal'
  | 'diode'
  | 'zener'
  | 'led'
  | 'fuse'
  | 'switchOpen'
  | 'switchClosed'
  | 'contact'
  | 'link'
  | 'supply'
  | 'current'
  | 'box';

/** What a box is, drawn within it. */
export type Glyph = 'opto' | 'relay' | 'transformer' | 'regulator';

/** How a part of more pins is drawn. */
export type Many = 'npn' | 'pnp' | 'amplifier' | 'gate' | 'box';

/** A pin as it is drawn: on a side, joined by a wire, or with a sign of its own. */
export interface DrawnPin {
  /** Number or numbers on the package, as `3`. */
  readonly pin: string;
  readonly name: string;
  readonly side: 'west' | 'east';
  readonly net: string;
  /**
   * wire: joined to the net's bar; ground and rail: a sign at the pin; label: the net's name at the
   * pin, where a wire would be too long to follow or has nowhere to go; bus: one line of a bundle.
   */
  readonly by: 'wire' | 'ground' | 'rail' | 'label' | 'bus';
  /** What stands at a pin that has a label: the net's name and where it goes on. */
  readonly label?: string;
  /** What the lines of its bundle are called before their number. */
  readonly bus?: string;
}

/** One symbol: a part, an element of an array, or one gate of a package. */
export type Drawn =
  | {
      readonly form: 'leg' | 'hat';
      readonly key: string;
      readonly ref: string;
      readonly symbol: TwoPin;
      readonly value: string;
      /** The net whose bar it is on. */
      readonly net: string;
      /** ground, the rail's name, or undefined where its other end is open. */
      readonly end: string | undefined;
      /** True where pin 2 is on the bar. */
      readonly turned: boolean;
    }
  | {
      readonly form: 'across';
      readonly key: string;
      readonly ref: string;
      readonly symbol: TwoPin;
      readonly value: string;
      readonly nets: readonly [string, string];
      /** True where pin 2 is on the left. */
      readonly turned: boolean;
      /** What stands at its ends where the net's name is drawn in place of a wire. */
      readonly labels: readonly [string | undefined, string | undefined];
    }
  | {
      readonly form: 'block';
      readonly key: string;
      readonly ref: string;
      readonly symbol: Many;
      readonly value: string;
      readonly pins: readonly DrawnPin[];
      readonly gate?: Gate;
      /** What stands in a box between its pins. */
      readonly glyph?: Glyph;
      /** How many more nets it has that the view leaves out. */
      readonly left: number;
    };

/**
 * Under which name an element is drawn: elements of an array and pins of a connector stand on their
 * own, the inside of a package is one box.
 */
export function drawnRef(ref: string): string {
  return isInsidePackage(ref) ? replaceableRef(ref) : ref;
}

/** The nets whose bars a symbol is joined to, by a wire, in a bundle or by their name. */
export function netsOf(one: Drawn): readonly string[] {
  if (one.form === 'across') return one.nets;
  if (one.form === 'block')
    return [
      ...new Set(
        one.pins.filter(({ by }) => by !== 'ground' && by !== 'rail').map(({ net }) => net),
      ),
    ];
  return [one.net];
}
