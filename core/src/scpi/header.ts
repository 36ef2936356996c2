import { ScpiError } from './error';

/** One mnemonic of a command: its long and its short form, and whether it may be left out. */
export interface HeaderNode {
  readonly long: string;
  readonly short: string;
  readonly optional: boolean;
}

/**
 * The nodes of a header as the manuals write it: `CONFigure[:SCALar]:VOLTage[:DC]`: capitals are
 * the short form, brackets what may be left out. Source: SCPI-1999, volume 1, 5.1 and 6.2.1.
 */
export function headerNodes(pattern: string): readonly HeaderNode[] {
  return [...pattern.matchAll(/(\[)?:?(\*?[A-Z]+)([a-z]*)\]?/g)].map(([, open, short, rest]) => ({
    long: `${short}${rest}`.toUpperCase(),
    short: short!,
    optional: open !== undefined,
  }));
}

/**
 * How a written path goes along these nodes: the nodes that it stands for, those left out included;
 * undefined where it is not this header. A suffix of 1 may be written to any mnemonic and changes
 * nothing.
 *
 * @throws ScpiError -114 where the only thing wrong is a number behind a mnemonic.
 */
export function matchHeader(
  nodes: readonly HeaderNode[],
  path: readonly string[],
): readonly string[] | undefined {
  let outOfRange = false;
  const along = (n: number, p: number): boolean => {
    if (n === nodes.length) return p === path.length;
    const node = nodes[n]!;
    const [, name, suffix] = /^(.*?)(\d*)$/.exec(path[p] ?? '')!;
    const named = name === node.long || name === node.short || path[p] === node.long;
    if (p < path.length && named && along(n + 1, p + 1)) {
      if (suffix !== '' && Number(suffix) !== 1) outOfRange = true;
      return true;
    }
    return node.optional && along(n + 1, p);
  };
  if (!along(0, 0)) return undefined;
  if (outOfRange) throw new ScpiError('-114', path.join(':'));
  return nodes.map(({ long }) => long);
}

/** The short form of a keyword such as `IMMediate`, and whether a word is one of its two forms. */
export function isKeyword(word: string, keyword: string): boolean {
  const [node] = headerNodes(keyword);
  return node !== undefined && (word === node.long || word === node.short);
}
