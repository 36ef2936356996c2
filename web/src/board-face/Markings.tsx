import { useState } from 'react';
import { markingSuggestions, type Suggestion } from '@hanzai/core/board';
import { OTHER_CHIPS, SERIES_74 } from '@hanzai/data';
import { whyNot } from '../store/answers';
import { Button } from '../ui/Button';
import { Actions } from '../ui/FormRow';
import { pictureHref, type BoardPicture } from './board-pictures';

const FAMILIES = ['74', '74LS', '74HC', '74HCT', '74S', '74ALS', '74F', '74AS'];
const KNOWN = [
  ...SERIES_74.flatMap(({ number }) => FAMILIES.map((family) => `${family}${number}`)),
  ...OTHER_CHIPS.map(({ number }) => number),
  '7805',
  '7812',
  '7905',
  '7912',
];

/** How much of the board about a part is looked at, mm. */
const LOOKED_AT_MM = { width: 26, height: 14 } as const;

/**
 * What is printed on a part, read off the picture: offered to be taken, never taken by itself. at:
 * its place on the picture, 0 to 1; mm: how wide the whole picture is on the board.
 */
export function Markings({
  of,
  picture,
  at,
  mm,
  onTake,
  read = defaultRead,
}: {
  /** The part that it is read off. */
  of: string;
  picture: BoardPicture;
  at: readonly [number, number];
  mm: number;
  onTake: (words: string) => void;
  /** Reads the text about a place of a picture. */
  read?: (
    href: string,
    at: readonly [number, number],
    size: readonly [number, number],
  ) => Promise<string>;
}) {
  const [busy, setBusy] = useState(false);
  const [found, setFound] = useState<readonly Suggestion[]>();
  const [failure, setFailure] = useState<string>();

  async function look(): Promise<void> {
    setBusy(true);
    try {
      const width = LOOKED_AT_MM.width / mm;
      const height = ((LOOKED_AT_MM.height / mm) * picture.widthPx) / picture.heightPx;
      setFound(
        markingSuggestions(await read(pictureHref(picture.id), at, [width, height]), KNOWN, of),
      );
      setFailure(undefined);
    } catch (error) {
      setFailure(whyNot(error));
    } finally {
      setBusy(false);
    }
  }
  return (
    <Actions>
      <Button look="quiet" disabled={busy} onClick={() => void look()}>
        {busy ? 'Reading the picture' : 'Read its marking off the picture'}
      </Button>
      {failure && <span role="alert">{failure}</span>}
      {found?.length === 0 && (
        <span role="status">Nothing that the library knows: read it with your own eyes.</span>
      )}
      {found && found.length > 0 && <span role="status">It may say, look before you take it:</span>}
      {found?.map(({ words, from }) => (
        <Button key={words} look="quiet" title={`read as “${from}”`} onClick={() => onTake(words)}>
          {words}?
        </Button>
      ))}
    </Actions>
  );
}

/** The reader is large: it is fetched when it is asked for. */
const defaultRead = async (
  ...asked: Parameters<typeof import('./read-markings').readTextAt>
): Promise<string> => (await import('./read-markings')).readTextAt(...asked);
