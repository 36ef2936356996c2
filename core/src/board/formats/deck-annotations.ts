import { formatTolerance, parseTolerance } from '../../quantity';
import { Dielectric, type Part } from '../schema';
import { parseDeckNumber, printDeckNumber } from './deck-number';
import type { FileIssue } from '../issue';
import type { DeviceLibrary } from '../library';
import { ChipModel } from '../chip-model';
import type { DeckLine } from './deck-lines';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** The `key=value` pairs of an annotation; a value with blanks stands in double quotes. */
export function readPairs(text: string): [string, string][] {
  return [...text.matchAll(/\s([a-z]+)=("[^"]*"|\S+)/gi)].map((m): [string, string] => [
    m[1]!.toLowerCase(),
    m[2]!.replace(/^"|"$/g, ''),
  ]);
}

function positive(text: string, allowZero = false): number | undefined {
  const value = parseDeckNumber(text);
  return value !== undefined && (value > 0 || (allowZero && value === 0)) ? value : undefined;
}

/** `12.5,40;-;15,40`: places of the pins in order, a dash where it is not known. */
function pinPlaces(text: string): ([number, number] | null)[] | undefined {
  const places = text
    .split(';')
    .map((place) => (place === '-' ? null : place.split(',').map(Number)));
  return places.every(
    (place) => place === null || (place.length === 2 && place.every(Number.isFinite)),
  )
    ? (places as ([number, number] | null)[])
    : undefined;
}

/**
 * One key of an annotation: sets it on the part and says whether the value could be read. Unknown
 * keys are left alone.
 */
function apply(part: Mutable<Part>, key: string, text: string): string | undefined {
  const set = <K extends string>(
    field: K,
    value: unknown,
    expected: string,
  ): string | undefined => {
    if (value === undefined) return expected;
    (part as Record<string, unknown>)[field] = value;
    return undefined;
  };
  if (text === '?') return undefined; // not known: as if it were not there
  const capacitor = part.kind === 'capacitor';
  const coil = part.kind === 'inductor' || part.kind === 'winding';
  if (key === 'tol') return set('tolerance', parseTolerance(text), 'a tolerance such as 5%');
  if (key === 'pos') {
    const [x, y] = text.split(',').map(Number);
    return set(
      'positionMm',
      Number.isFinite(x) && Number.isFinite(y) ? [x, y] : undefined,
      'a position such as pos=12.5,40',
    );
  }
  if (key === 'pins')
    return set('pinPositionsMm', pinPlaces(text), 'places such as pins=1,2;-;3,4');
  if (key === 'side')
    return set('side', text === 'top' || text === 'bottom' ? text : undefined, 'top or bottom');
  if (key === 'fit')
    return set(
      'fitYear',
      /^(19|2[01])\d\d$/.test(text) ? Number(text) : undefined,
      'a year such as 1988',
    );
  if (key === 'role' && text !== '') return set('role', text.slice(0, 120), 'a word');
  if (key === 'package' || key === 'rating')
    return set(key, text.slice(0, 80) || undefined, 'a word');
  if (key === 'note') return set(key, text.slice(0, 400) || undefined, 'a word');
  if (key === 'section') return set(key, text.slice(0, 60) || undefined, 'a word');
  if (key === 'kind' && capacitor)
    return set(
      'dielectric',
      Dielectric.safeParse(text.toLowerCase()).data,
      Dielectric.options.join(', '),
    );
  if (key === 'volt' && capacitor)
    return set('ratedVolt', positive(text.replace(/v$/i, '')), 'volts above zero');
  if (key === 'esr' && capacitor)
    return set('esrOhm', positive(text, true), 'ohms, or ? where they are not known');
  if (key === 'dcr' && coil)
    return set('dcResistanceOhm', positive(text, part.kind === 'inductor'), 'ohms');
  if (part.kind === 'chip' && (key === 'program' || key === 'title')) {
    if (!part.model.blackBox) return 'nothing: what this chip does is in the library';
    const model =
      key === 'title'
        ? { ...part.model, title: text }
        : { ...part.model, function: text.split(' ; ') };
    return set(
      'model',
      ChipModel.safeParse(model).data,
      'statements such as program="Y = A & B ; Q = 1 when OE"',
    );
  }
  if (part.kind === 'opto' && key === 'ratio')
    return set('transferRatio', positive(text), 'a ratio above zero');
  if (part.kind === 'relay' && key === 'coil')
    return set('coilOhm', positive(text), 'ohms above zero');
  if (part.kind === 'relay' && key === 'pullin')
    return set('pullInVolt', positive(text), 'volts above zero');
  if (part.kind === 'transformer' && (key === 'primary' || key === 'secondary'))
    return set(`${key}Ohm`, positive(text), 'ohms above zero');
  if (part.kind === 'transformer' && key === 'peak')
    return set('peakVolt', positive(text), 'volts above zero');
  if (key === 'henry' && coil) return set('inductanceHenry', positive(text, true), 'henry');
  return undefined;
}

/**
 * Applies the `*@` lines to the parts they name, in place of nothing else. Returns what could not
 * be read; unknown designators become notes.
 */
export function applyAnnotations(
  parts: ReadonlyMap<string, Part>,
  annotations: readonly DeckLine[],
): { issues: FileIssue[]; notes: string[] } {
  const issues: FileIssue[] = [];
  const notes: string[] = [];
  for (const { line, text } of annotations) {
    const [ref = ''] = text.split(/\s+/);
    const part = parts.get(ref.toLowerCase());
    if (!part) {
      notes.push(
        `line ${line}: annotation for ${ref || 'nothing'}, which is not in the deck, skipped`,
      );
      continue;
    }
    for (const [key, value] of readPairs(text)) {
      const expected = apply(part as Mutable<Part>, key, value);
      if (expected)
        issues.push({ line, what: `${ref}: cannot read ${key}=${value.slice(0, 40)}`, expected });
    }
  }
  return { issues, notes };
}

/**
 * A value as an annotation has it: on one line, in quotes where it has blanks or none of anything.
 */
export function quoted(text: string): string {
  const plain = text.replace(/[\r\n]+/g, ' ').replace(/"/g, "'");
  return /\s/.test(plain) || plain === '' ? `"${plain}"` : plain;
}

/** A black box that does on this board what the one of the library does not say. */
function hasOwnProgram(
  { model, ref, pins }: Extract<Part, { kind: 'chip' }>,
  library: DeviceLibrary,
): boolean {
  if (!model.blackBox) return false;
  const known = library.find(model.name)?.make(ref, pins);
  return (
    known?.kind !== 'chip' ||
    known.model.title !== model.title ||
    known.model.function.join() !== model.function.join()
  );
}

/** The annotation line of a part, or undefined where it has nothing to annotate. */
export function printAnnotation(part: Part, library: DeviceLibrary): string | undefined {
  const pairs: string[] = [];
  const add = (key: string, value: string | number | undefined): void => {
    if (value !== undefined)
      pairs.push(`${key}=${typeof value === 'number' ? printDeckNumber(value) : quoted(value)}`);
  };
  if (part.tolerance !== undefined) pairs.push(`tol=${formatTolerance(part.tolerance)}`);
  if (part.kind === 'capacitor') {
    add('kind', part.dielectric);
    add('volt', part.ratedVolt);
    add('esr', part.esrOhm);
  }
  if (part.kind === 'inductor' || part.kind === 'winding') add('dcr', part.dcResistanceOhm);
  if (part.kind === 'winding') add('henry', part.inductanceHenry);
  if (part.kind === 'chip' && hasOwnProgram(part, library)) {
    add('program', part.model.function.join(' ; '));
    add('title', part.model.title);
  }
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
  if (part.pinPositionsMm && part.pinPositionsMm.length > 0)
    pairs.push(`pins=${part.pinPositionsMm.map((place) => place?.join(',') ?? '-').join(';')}`);
  add('side', part.side);
  add('role', part.role);
  if (part.fitYear !== undefined) pairs.push(`fit=${part.fitYear}`);
  add('rating', part.rating);
  add('package', part.package);
  add('note', part.note);
  add('section', part.section);
  return pairs.length === 0 ? undefined : `*@ ${part.ref} ${pairs.join(' ')}`;
}
