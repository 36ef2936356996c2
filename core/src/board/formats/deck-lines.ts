/**
 * One statement of a deck after comments are dropped and `+` lines joined. `line` is where it
 * began, from 1.
 */
export interface DeckLine {
  readonly line: number;
  readonly text: string;
}

export interface DeckText {
  readonly title: string;
  readonly statements: readonly DeckLine[];
  /** The `*@ REF key=value` comments, without their mark. */
  readonly annotations: readonly DeckLine[];
  readonly notes: readonly string[];
}

/**
 * Splits a deck into its title, statements and annotations. Never fails: what the statements mean
 * is for the reader to say.
 */
export function splitDeck(source: string): DeckText {
  const lines = source.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/);
  const statements: { line: number; text: string }[] = [];
  const annotations: DeckLine[] = [];
  const notes: string[] = [];
  let control = false;
  for (let i = 1; i < lines.length; i += 1) {
    const raw = lines[i]!.trim();
    const line = i + 1;
    if (raw.startsWith('*@')) annotations.push({ line, text: raw.slice(2).trim() });
    if (raw === '' || raw.startsWith('*')) continue;
    const text = raw
      .replace(/;.*$/, '')
      .replace(/(^|\s)\$(\s.*)?$/, '')
      .trim();
    if (text === '') continue;
    const word = text.split(/\s/, 1)[0]!.toLowerCase();
    if (word === '.control') {
      control = true;
      notes.push(`line ${line}: control block skipped`);
    }
    if (control) {
      if (word === '.endc') control = false;
      continue;
    }
    if (word === '.end') break;
    if (text.startsWith('+') && statements.length > 0)
      statements[statements.length - 1]!.text += ` ${text.slice(1)}`;
    else statements.push({ line, text });
  }
  return { title: lines[0]!.trim(), statements, annotations, notes };
}
