import { nameKey } from '../../nets';

/** A place in a text where a part or a net is named. line: from 1; from, to: offsets in its text. */
export interface NameUse {
  readonly line: number;
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/**
 * Every place of a bench sheet that names a part or a net: words of its own, and behind the `=` of a
 * pin. `C1` is named by `C1.2` too. What stands in remarks, in quotes and in JSON is not looked at.
 */
export function usesInSheet(source: string, name: string): NameUse[] {
  const key = nameKey(name);
  if (key === '') return [];
  const uses: NameUse[] = [];
  source.split(/\r\n|\n|\r/).forEach((text, i) => {
    if (/^\s*==/.test(text)) return;
    const end = /(?:^|\s)#|json=/.exec(text)?.index ?? text.length;
    for (const { 0: word, index } of text.slice(0, end).matchAll(/(?:[^\s"]|"[^"]*")+/g)) {
      if (word.includes('"')) continue;
      const at = word.indexOf('=') + 1;
      const named = word.slice(at).replace(/[:,]+$/, '');
      const [part = ''] = named.split('.');
      for (const one of new Set([named, part]))
        if (one !== '' && nameKey(one) === key)
          uses.push({
            line: i + 1,
            from: index + at,
            to: index + at + one.length,
            text: text.trim(),
          });
    }
  });
  return uses;
}

/** The text with a part or a net called otherwise everywhere; blanks and order stay. */
export function renameInSheet(source: string, name: string, as: string): string {
  const byLine = new Map<number, NameUse[]>();
  for (const use of usesInSheet(source, name))
    byLine.set(use.line, [...(byLine.get(use.line) ?? []), use]);
  return source
    .split('\n')
    .map((text, i) =>
      (byLine.get(i + 1) ?? [])
        .sort((a, b) => b.from - a.from)
        .reduce((line, { from, to }) => line.slice(0, from) + as + line.slice(to), text),
    )
    .join('\n');
}
