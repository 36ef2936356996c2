import { queryOptions } from '@tanstack/react-query';
import { v7 } from 'uuid';
import { z } from 'zod';
import { ask } from '../store/answers';

const place = z.tuple([z.number(), z.number()]);

/** A picture of one side of a board, and the points by which it lies on it. */
export const BoardPicture = z.object({
  id: z.uuid(),
  side: z.enum(['top', 'bottom']),
  ties: z.array(z.object({ onPicture: place, onBoard: place })),
  widthPx: z.number().int(),
  heightPx: z.number().int(),
});
export type BoardPicture = z.infer<typeof BoardPicture>;
export type Side = BoardPicture['side'];

export const pictureHref = (id: string): string => `/api/board-pictures/${id}`;

/** The pictures of the sheet that a board is a version of. */
export function boardPicturesQuery(boardId: string) {
  return queryOptions({
    queryKey: ['board-pictures', boardId],
    queryFn: () => ask(`/api/boards/${boardId}/pictures`, z.array(BoardPicture)),
    enabled: boardId !== '',
  });
}

/** The picture of a side that is shown: the newest. */
export function pictureOf(pictures: readonly BoardPicture[], side: Side): BoardPicture | undefined {
  return pictures.findLast((one) => one.side === side);
}

/** Keeps a picture of a side of a board. */
export function sendBoardPicture(boardId: string, side: Side, file: Blob): Promise<BoardPicture> {
  return ask(`/api/boards/${boardId}/pictures?id=${v7()}&side=${side}`, BoardPicture, {
    method: 'POST',
    headers: { 'content-type': file.type || 'application/octet-stream' },
    body: file,
  });
}
