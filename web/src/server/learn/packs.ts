import { eq, isNull } from 'drizzle-orm';
import { PatternPack, readPack, standingPacks } from '@hanzai/core/learn';
import type { Database } from '../db/client';
import { patternPack } from '../db/schema/workshop';
import { workshopId } from './setting';

/** What another workshop sent, and how far it is believed, 0 to 1. */
export interface Trusted {
  readonly pack: PatternPack;
  readonly trust: number;
}

/** The packs that count: of each workshop the newest, and none of our own. */
export async function takenPacks(db: Database): Promise<readonly Trusted[]> {
  const rows = await db.select().from(patternPack).where(isNull(patternPack.archivedAt));
  const read = rows.flatMap(({ content, trust }) => {
    const pack = PatternPack.safeParse(content);
    return pack.success ? [{ pack: pack.data, trust }] : [];
  });
  const standing = standingPacks(
    read.map(({ pack }) => pack),
    await workshopId(db),
  );
  return read.filter(({ pack }) => standing.includes(pack));
}

/** Takes a pack in; a later one of the same workshop stands for the earlier. Returns why not. */
export async function takePack(db: Database, text: string): Promise<string | undefined> {
  const read = await readPack(text);
  if (!read.ok) return read.why;
  const { pack } = read;
  if (pack.workshop === (await workshopId(db))) return 'it is of this very workshop';
  const [known] = await db
    .select()
    .from(patternPack)
    .where(eq(patternPack.workshop, pack.workshop));
  const before = PatternPack.safeParse(known?.content);
  if (!known?.archivedAt && before.success && before.data.madeAt > pack.madeAt)
    return 'a later one of the same workshop is here already';
  await db
    .insert(patternPack)
    .values({ workshop: pack.workshop, content: pack })
    .onConflictDoUpdate({
      target: patternPack.workshop,
      set: { content: pack, archivedAt: null },
    });
  return undefined;
}

/** How far a pack is believed, or that it is set aside; false where there is none. */
export async function changePack(
  db: Database,
  workshop: string,
  change: { readonly trust?: number | undefined; readonly archived?: boolean | undefined },
): Promise<boolean> {
  const { trust, archived } = change;
  const done = await db
    .update(patternPack)
    .set({
      ...(trust === undefined ? {} : { trust }),
      ...(archived === undefined ? {} : { archivedAt: archived ? new Date() : null }),
    })
    .where(eq(patternPack.workshop, workshop))
    .returning({ workshop: patternPack.workshop });
  return done.length > 0;
}
