import { asc, eq, isNull } from 'drizzle-orm';
import { Instrument } from '../../instruments/instrument';
import type { Database } from '../db/client';
import { instrument } from '../db/schema/instrument';
import { logger } from '../logger';

/** The workshop's instruments by name, without those set aside. One that cannot be read is left out. */
export async function listInstruments(db: Database): Promise<readonly Instrument[]> {
  const rows = await db
    .select()
    .from(instrument)
    .where(isNull(instrument.archivedAt))
    .orderBy(asc(instrument.name));
  return rows.flatMap(({ id, name, kinds, profile }) => {
    const read = Instrument.safeParse({ id, name, kinds, profile });
    if (!read.success) logger.error({ id }, 'an instrument that cannot be read');
    return read.success ? [read.data] : [];
  });
}

/** Keeps an instrument, or what it is now. */
export async function keepInstrument(db: Database, one: Instrument): Promise<Instrument> {
  const { name, kinds, profile } = one;
  await db
    .insert(instrument)
    .values(one)
    .onConflictDoUpdate({ target: instrument.id, set: { name, kinds, profile } });
  return one;
}

/** Sets an instrument aside, or takes it back; false where there is none. */
export async function archiveInstrument(
  db: Database,
  id: string,
  at: Date | null,
): Promise<boolean> {
  const done = await db
    .update(instrument)
    .set({ archivedAt: at })
    .where(eq(instrument.id, id))
    .returning({ id: instrument.id });
  return done.length > 0;
}
