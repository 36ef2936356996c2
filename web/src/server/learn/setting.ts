import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import { z } from 'zod';
import { LearningSetting } from '../../patterns/patterns';
import type { Database } from '../db/client';
import { workshopSetting } from '../db/schema/workshop';

const LEARNING = 'learning';
const WORKSHOP = 'workshop';
const LEARNS: LearningSetting = { on: true, since: null };

/** Whether the workshop learns, and since when. */
export async function learningSetting(db: Database): Promise<LearningSetting> {
  const [row] = await db.select().from(workshopSetting).where(eq(workshopSetting.name, LEARNING));
  const read = LearningSetting.safeParse(row?.value);
  return read.success ? read.data : LEARNS;
}

export async function setLearning(db: Database, value: LearningSetting): Promise<void> {
  await db
    .insert(workshopSetting)
    .values({ name: LEARNING, value })
    .onConflictDoUpdate({
      target: [workshopSetting.belongsTo, workshopSetting.name],
      set: { value },
    });
}

/** The id of this workshop in its packs; made when it is first asked for. */
export async function workshopId(db: Database): Promise<string> {
  await db.insert(workshopSetting).values({ name: WORKSHOP, value: v7() }).onConflictDoNothing();
  const [row] = await db.select().from(workshopSetting).where(eq(workshopSetting.name, WORKSHOP));
  return z.uuid().parse(row!.value);
}
