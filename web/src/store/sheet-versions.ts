import { queryOptions } from '@tanstack/react-query';
import { z } from 'zod';
import { ask } from './answers';

/** One version of a sheet, as the server lists them. */
export const SheetVersion = z.object({
  id: z.uuid(),
  version: z.number().int(),
  madeBy: z.string(),
  createdAt: z.string(),
  changes: z.array(z.string()),
  parts: z.number().int().nullable(),
});
export type SheetVersion = z.infer<typeof SheetVersion>;

/** All versions of the sheet that a board is one of, the newest first. */
export function versionsQuery(id: string) {
  return queryOptions({
    queryKey: ['versions', id],
    queryFn: () => ask(`/api/boards/${id}/versions`, z.array(SheetVersion)),
  });
}

/** What lies between a version and the newest one; undefined where it is the newest. */
export function newerThan(
  id: string,
  versions: readonly SheetVersion[],
): { readonly newest: SheetVersion; readonly changes: readonly string[] } | undefined {
  const at = versions.findIndex((one) => one.id === id);
  const [newest] = versions;
  if (at <= 0 || !newest) return undefined;
  return {
    newest,
    changes: versions
      .slice(0, at)
      .reverse()
      .flatMap(({ changes }) => changes),
  };
}
