import { useEffect, useState } from 'react';
import { useOutbox } from '../store/use-outbox';

/**
 * Where a picture is shown from: this browser while it waits to be sent, the server afterwards.
 * Undefined for the moment in between. small: its thumbnail will do.
 */
export function usePictureSource(picture: string, small = false): string | undefined {
  const { waiting } = useOutbox();
  const file = waiting.find(
    ({ entry: { body } }) => body.kind === 'picture' && body.picture === picture,
  )?.picture;
  const [own, setOwn] = useState<string>();
  useEffect(() => {
    if (!file) return undefined;
    const address = URL.createObjectURL(file);
    setOwn(address);
    return () => {
      setOwn(undefined);
      URL.revokeObjectURL(address);
    };
  }, [file]);
  return file ? own : `/api/pictures/${picture}${small ? '?small' : ''}`;
}
