import { isDesignator, nameKey, readSheetLines, ringInto, withRing } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import type { Journal, TakenLoose } from './journal';
import { valueText } from './wording';

/**
 * What a case without a sheet has named so far, as the beginning of one: its parts with open ends, its
 * rails and points as edges, and what was read there as remarks.
 */
export function sheetFromCase(title: string, journal: Journal): string {
  const lines = [`title ${title.replace(/\s+/g, ' ').trim() || 'bench sheet'}`];
  const nets = new Map<string, string>();
  const parts = new Map<string, { ref: string; value: string }>();
  const name = (point: string): void => {
    const [first = ''] = point.split('.');
    if (first === '' || first === '0') return;
    if (isDesignator(first)) {
      if (!parts.has(nameKey(first))) parts.set(nameKey(first), { ref: first, value: '' });
    } else nets.set(nameKey(point), point);
  };
  for (const { body } of journal.rails) name(body.net);
  for (const { entry } of journal.loose) {
    name(entry.body.at);
    name(entry.body.to);
  }
  for (const { body } of journal.condemned) name(body.ref);
  for (const { ref, value } of journal.ledger) {
    name(ref);
    const known = parts.get(nameKey(ref));
    if (known) known.value ||= value;
  }
  for (const net of nets.values()) lines.push(`edge ${net}`);
  lines.push('');
  for (const { ref, value } of parts.values()) lines.push(lineFor(ref, value));
  const readings = journal.loose.map(
    ({ entry: { body } }) =>
      `# ${body.at}${body.to === '' ? '' : ` to ${body.to}`}: ${valueText(body.quantity, body.value)}`,
  );
  const sheet = `${[...lines, ...(readings.length > 0 ? ['', ...readings] : [])].join('\n')}\n`;
  return journal.loose.reduce(withBeep, sheet);
}

/** The sheet with what a continuity test of the case joins, and whose word it is. */
function withBeep(sheet: string, { entry: { body, madeAt } }: TakenLoose): string {
  if (body.quantity !== 'continuity' || body.to === '') return sheet;
  const joined = body.value === 'beep';
  const ring = { a: body.at.toUpperCase(), b: body.to.toUpperCase(), joined };
  const put = ringInto(sheet, ring, LIBRARY);
  const moment = new Date(madeAt);
  return withRing(put.ok ? put.text : sheet, {
    ...ring,
    ...(Number.isNaN(moment.getTime()) ? {} : { at: `${moment.toISOString().slice(0, 16)}Z` }),
    reading: body.typed.slice(0, 120),
  });
}

/** A part with ends that nobody has said; as a remark where not even its kind is known. */
function lineFor(ref: string, value: string): string {
  for (const line of [`${ref} ? ? ${value}`.trim(), `${ref} ? ? ?`, `${ref} ${value} 1=?`.trim()])
    if (readSheetLines(line, LIBRARY).issues.length === 0) return line;
  return `# ${ref} ${value}`.trim();
}
