import { formatTolerance, parseTolerance } from '../../quantity';
import { Dielectric, type Part } from '../schema';
import { parseDeckNumber, printDeckNumber } from './deck-number';
import type { FileIssue } from '../issue';
import type { DeckLine } from './deck-lines';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** Splits `C1 tol=20% role="bulk reservoir"` into its designator and key/value pairs. */
function splitAnnotation(text: string): { ref: string; pairs: [string, string][] } {
  const [ref = '', ...rest] = text.split(/\s+/);
  const pairs = [...rest.join(' ').matchAll(/([a-z]+)=("[^"]*"|\S+)/gi)].map((m): [string, string] => [m[1]!.toLowerCase(), m[2]!.replace(/^"|"$/g, '')]);
  return { ref, pairs };
}

function positive(text: string, allowZero = false): number | undefined {
  const value = parseDeckNumber(text);
  return value !== undefined && (value > 0 || (allowZero && value === 0)) ? value : undefined;
}

/** One key of an annotation: sets it on the part and says whether the value could be read. Unknown keys are left alone. */
function apply(part: Mutable<Part>, key: string, text: string): string | undefined {
  const set = <K extends string>(field: K, value: unknown, expected: string): string | undefined => {
    if (value === undefined) return expected;
    (part as Record<string, unknown>)[field] = value;
    return undefined;
  };
  const capacitor = part.kind === 'capacitor';
  const coil = part.kind === 'inductor' || part.kind === 'winding';
  if (key === 'tol') return set('tolerance', parseTolerance(text), 'a tolerance such as 5%');
  if (key === 'pos') {
    const [x, y] = text.split(',').map(Number);
    return set('positionMm', Number.isFinite(x) && Number.isFinite(y) ? [x, y] : undefined, 'a position such as pos=12.5,40');
  }
  if (key === 'fit') return set('fitYear', /^(19|2[01])\d\d$/.test(text) ? Number(text) : undefined, 'a year such as 1988');
  if (key === 'role' && text !== '') return set('role', text.slice(0, 120), 'a word');
  if (key === 'package' || key === 'rating') return set(key, text.slice(0, 80) || undefined, 'a word');
  if (key === 'note') return set(key, text.slice(0, 400) || undefined, 'a word');
  if (key === 'kind' && capacitor) return set('dielectric', Dielectric.safeParse(text.toLowerCase()).data, Dielectric.options.join(', '));
  if (key === 'volt' && capacitor) return set('ratedVolt', positive(text.replace(/v$/i, '')), 'volts above zero');
  if (key === 'esr' && capacitor) return set('esrOhm', positive(text), 'ohms above zero');
  if (key === 'dcr' && coil) return set('dcResistanceOhm', positive(text, part.kind === 'inductor'), 'ohms');
  if (part.kind === 'opto' && key === 'ratio') return set('transferRatio', positive(text), 'a ratio above zero');
  if (part.kind === 'relay' && key === 'coil') return set('coilOhm', positive(text), 'ohms above zero');
  if (part.kind === 'relay' && key === 'pullin') return set('pullInVolt', positive(text), 'volts above zero');
  if (part.kind === 'transformer' && (key === 'primary' || key === 'secondary')) return set(`${key}Ohm`, positive(text), 'ohms above zero');
  if (part.kind === 'transformer' && key === 'peak') return set('peakVolt', positive(text), 'volts above zero');
  if (key === 'henry' && coil) return set('inductanceHenry', positive(text, true), 'henry');
  return undefined;
}

/** Applies the `*@` lines to the parts they name, in place of nothing else. Returns what could not be read; unknown designators become notes. */
export function applyAnnotations(parts: ReadonlyMap<string, Part>, annotations: readonly DeckLine[]): { issues: FileIssue[]; notes: string[] } {
  const issues: FileIssue[] = [];
  const notes: string[] = [];
  for (const { line, text } of annotations) {
    const { ref, pairs } = splitAnnotation(text);
    const part = parts.get(ref.toLowerCase());
    if (!part) {
      notes.push(`line ${line}: annotation for ${ref || 'nothing'}, which is not in the deck, skipped`);
      continue;
    }
    for (const [key, value] of pairs) {
      const expected = apply(part as Mutable<Part>, key, value);
      if (expected) issues.push({ line, what: `${ref}: cannot read ${key}=${value.slice(0, 40)}`, expected });
    }
  }
  return { issues, notes };
}

const quote = (text: string): string => (/\s/.test(text) ? `"${text.replace(/"/g, "'")}"` : text);

/** The annotation line of a part, or undefined where it has nothing to annotate. */
export function printAnnotation(part: Part): string | undefined {
  const pairs: string[] = [];
  const add = (key: string, value: string | number | undefined): void => {
    if (value !== undefined) pairs.push(`${key}=${typeof value === 'number' ? printDeckNumber(value) : quote(value)}`);
  };
  if (part.tolerance !== undefined) pairs.push(`tol=${formatTolerance(part.tolerance)}`);
  if (part.kind === 'capacitor') {
    add('kind', part.dielectric);
    add('volt', part.ratedVolt);
    add('esr', part.esrOhm);
  }
  if (part.kind === 'inductor' || part.kind === 'winding') add('dcr', part.dcResistanceOhm);
  if (part.kind === 'winding') add('henry', part.inductanceHenry);
  if (part.kind === 'opto') add('ratio', part.transferRatio);
  if (part.kind === 'relay') {
    add('coil', part.coilOhm);
    add('pullin', part.pullInVolt);
  }
  if (part.kind === 'transformer') {
    add('primary', part.primaryOhm);
    add('secondary', part.secondaryOhm);
    add('peak', part.peakVolt);
  }
  if (part.positionMm) pairs.push(`pos=${part.positionMm.join(',')}`);
  add('role', part.role);
  if (part.fitYear !== undefined) pairs.push(`fit=${part.fitYear}`);
  add('rating', part.rating);
  add('package', part.package);
  add('note', part.note);
  return pairs.length === 0 ? undefined : `*@ ${part.ref} ${pairs.join(' ')}`;
}
