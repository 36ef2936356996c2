import type { Entry, EntryBody } from '../entry';
import type { CaseState } from '../use-case';
import { kindOf } from '../kinds';
import { readingEntry } from '../written-points';
import type { StripItem } from './grammar';
import { printEntry } from './printed';

/** Words are taken back from the strip for so long, readings and lines of the ledger always. */
const WORDS_FOR_MILLISECONDS = 10 * 60_000;
const LASTING: readonly EntryBody['kind'][] = ['reading', 'removed', 'fitted', 'leftOut'];

/** An entry as the strip shows it. */
export function stripText({ body }: Entry): string {
  return body.kind === 'reading' ? body.typed : (printEntry(body) ?? kindOf(body.kind).said(body));
}

/** One item as the line that says it. */
export function itemText(item: StripItem): string {
  return 'typed' in item ? item.typed : item.kind;
}

/** What `back` would take back: the newest that the strip files. now: milliseconds. */
export function lastFiled(standing: readonly Entry[], now: number): Entry | undefined {
  return standing.findLast(
    ({ body, madeAt }) =>
      LASTING.includes(body.kind) ||
      (printEntry(body) !== undefined &&
        kindOf(body.kind).takeBack !== 'never' &&
        now - Date.parse(madeAt) < WORDS_FOR_MILLISECONDS),
  );
}

/** What `again` would file: what was taken back last and does not stand again. */
export function lastTakenBack(
  entries: readonly Entry[],
  standing: readonly Entry[],
): Entry | undefined {
  const place = new Map(entries.map(({ id }, i) => [id, i]));
  const back = entries.flatMap(({ body }, i) =>
    body.kind === 'retract' ? [{ id: body.entry, at: i }] : [],
  );
  for (const { id, at } of back.reverse()) {
    const entry = entries.find((one) => one.id === id);
    const said = entry && JSON.stringify(entry.body);
    const again = standing.some(
      (one) => (place.get(one.id) ?? -1) > at && JSON.stringify(one.body) === said,
    );
    if (entry && !again) return entry;
  }
  return undefined;
}

/** What became of an item: words for what was done, or why it was not. */
export type Outcome =
  { readonly ok: true; readonly words: string } | { readonly ok: false; readonly why: string };

/** Takes the newest thing that the strip filed back. */
export function takeBack({ journal, append }: CaseState): Outcome {
  const last = lastFiled(journal.standing, Date.now());
  if (!last) return { ok: false, why: 'there is nothing to take back' };
  const why = append({ kind: 'retract', entry: last.id });
  return why === undefined
    ? { ok: true, words: `Taken back: ${stripText(last)}` }
    : { ok: false, why };
}

/** Does what one item of a line says. instrument: what took its reading, if not a person's eye. */
export function carryOut(state: CaseState, item: StripItem, instrument?: string): Outcome {
  const { append, entries, journal } = state;
  if (item.kind === 'back') return takeBack(state);
  if (item.kind === 'again') {
    const last = lastTakenBack(entries, journal.standing);
    if (!last) return { ok: false, why: 'nothing was taken back' };
    const why = append(last.body);
    return why === undefined
      ? { ok: true, words: `Filed again: ${stripText(last)}` }
      : { ok: false, why };
  }
  const body =
    item.kind === 'reading'
      ? readingEntry(item.measurement, item.value, item.typed, instrument)
      : item.body;
  const why = append(body);
  return why === undefined ? { ok: true, words: 'Filed' } : { ok: false, why };
}
