import { autocompletion, type Completion, type CompletionContext } from '@codemirror/autocomplete';
import {
  foldService,
  HighlightStyle,
  StreamLanguage,
  syntaxHighlighting,
} from '@codemirror/language';
import type { Extension } from '@codemirror/state';
import { EditorView, ViewPlugin } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { nameKey, type Board } from '@hanzai/core/board';
import { completionsAt } from './completions';

const SHEET_WORDS = /^(title|outline|edge|point|setup|see|hazard|ring|model|part|no)$/;

/** Colours of a bench sheet: by what a word is, never the only sign of it. */
const language = StreamLanguage.define<{ first: boolean }>({
  name: 'bench sheet',
  startState: () => ({ first: true }),
  token(stream, state) {
    if (stream.sol()) state.first = true;
    if (stream.eatSpace()) return null;
    if (state.first && stream.match('==')) {
      stream.skipToEnd();
      return 'heading';
    }
    if (stream.match(/^#.*/)) return 'comment';
    if (stream.match(/^json=.*/)) return 'meta';
    const [word = ''] = (stream.match(/^(?:[^\s"]|"[^"]*")+/) as RegExpMatchArray | null) ?? [];
    if (word === '') {
      stream.next();
      return null;
    }
    if (state.first) {
      state.first = false;
      return SHEET_WORDS.test(word) ? 'keyword' : 'variableName.definition';
    }
    if (word.includes('=')) return 'propertyName';
    return /^[\d.]/.test(word) || word === '?' ? 'number' : 'variableName';
  },
});

const colours = HighlightStyle.define([
  { tag: tags.heading, color: 'var(--copper)', fontWeight: '700' },
  { tag: tags.keyword, color: 'var(--enamel)' },
  { tag: tags.definition(tags.variableName), color: 'var(--ink)', fontWeight: '700' },
  { tag: tags.number, color: 'var(--sea)' },
  { tag: tags.propertyName, color: 'var(--enamel)' },
  { tag: tags.comment, color: 'var(--ink-soft)', fontStyle: 'italic' },
  { tag: tags.meta, color: 'var(--ink-soft)' },
]);

/** A section folds from its header to the next one. */
const folding = foldService.of((state, from, to) => {
  const isHeader = (text: string): boolean => /^\s*==\s*\S/.test(text);
  if (!isHeader(state.doc.sliceString(from, to))) return null;
  let last = state.doc.lineAt(from).number;
  while (last < state.doc.lines && !/^\s*==/.test(state.doc.line(last + 1).text)) last += 1;
  const end = state.doc.line(last).to;
  return end > to ? { from: to, to: end } : null;
});

const look = EditorView.theme({
  '&': { height: '100%', fontSize: '15px', backgroundColor: 'var(--sheet)', color: 'var(--ink)' },
  '.cm-content': { fontFamily: 'var(--mono)', caretColor: 'var(--ink)' },
  '.cm-gutters': { backgroundColor: 'var(--paper)', color: 'var(--ink-soft)', border: 'none' },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--paper)' },
  '.cm-lint-marker': { content: '""', width: '12px', height: '12px', marginTop: '5px' },
  '.cm-lint-marker-error': { border: '3px solid var(--amber)', backgroundColor: 'var(--amber)' },
  '.cm-lint-marker-warning': { border: '3px solid var(--amber)', borderRadius: '50%' },
  '.cm-lintRange-error, .cm-lintRange-warning': {
    backgroundImage: 'none',
    borderBottom: '2px dotted var(--amber)',
  },
  '.cm-lintRange-error': { borderBottomStyle: 'solid' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)', borderLeftWidth: '2px' },
  '.cm-tooltip': {
    backgroundColor: 'var(--sheet)',
    color: 'var(--ink)',
    border: '1.5px solid var(--rule)',
  },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    backgroundColor: 'var(--enamel)',
    color: 'var(--sheet)',
  },
  '&.cm-focused': { outline: '3px solid var(--enamel)', outlineOffset: '-3px' },
});

/** The editor's side of a bench sheet. board: what the text says at the moment. */
/** What scrolls is reached by keyboard too. */
const reachable = ViewPlugin.define((view) => {
  view.scrollDOM.tabIndex = 0;
  return {};
});

export function sheetExtensions(
  board: () => Board,
  chips: readonly string[],
): readonly Extension[] {
  const complete = (context: CompletionContext) => {
    const line = context.state.doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    const word = /[^\s=]*$/.exec(before)![0];
    if (word === '' && !context.explicit && !before.endsWith('=')) return null;
    const options: Completion[] = completionsAt(before, board(), chips).map(
      ({ label, detail, type }) => ({ label, type, ...(detail ? { detail } : {}) }),
    );
    const key = nameKey(word);
    const fitting = options.filter(({ label }) => nameKey(label) !== key);
    return fitting.length === 0 ? null : { from: context.pos - word.length, options: fitting };
  };
  return [
    reachable,
    language,
    syntaxHighlighting(colours),
    folding,
    look,
    EditorView.lineWrapping,
    EditorView.contentAttributes.of({ 'aria-label': 'Sheet, one line one part' }),
    autocompletion({ override: [complete], activateOnTyping: true }),
  ];
}
