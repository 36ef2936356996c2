/** What stands on a paper, before it is a page: the screen, the printer and the PDF show the same. */
export interface Paper {
  /** Above its title: `Repair report 104`. */
  readonly kind: string;
  readonly title: string;
  readonly facts: readonly (readonly [name: string, value: string])[];
  readonly sections: readonly PaperSection[];
  readonly foot: string;
}

export interface PaperSection {
  readonly title: string;
  readonly blocks: readonly Block[];
}

export type Block =
  | { readonly type: 'words'; readonly text: string }
  | { readonly type: 'list'; readonly lines: readonly string[] }
  | {
      readonly type: 'table';
      readonly head: readonly string[];
      readonly rows: readonly (readonly string[])[];
      /** Columns of figures, counted from 0. */
      readonly mono?: readonly number[];
    };

/** Said where a section has nothing. */
export const NOTHING = 'nothing recorded';

export const words = (text: string): Block => ({ type: 'words', text });
/** A list, or nothing where there are no lines. */
export const list = (lines: readonly string[]): Block[] =>
  lines.length === 0 ? [] : [{ type: 'list', lines }];

/** A section that is left out where it has nothing to say. */
export const maybe = (title: string, blocks: readonly Block[]): PaperSection[] =>
  blocks.length === 0 ? [] : [{ title, blocks }];
