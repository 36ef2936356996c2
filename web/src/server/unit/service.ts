import { ARCHETYPES } from '@hanzai/data';
import { z } from 'zod';
import type { Database } from '../db/client';
import type { Outcome } from '../outcome';
import { codesOf, insertCode } from './repository';

/** A code of the workshop's own for a unit of one maker and type. */
export const UnitCode = z.object({
  id: z.uuid(),
  unitType: z.string().min(1).max(40),
  unitModel: z.string().trim().min(1, 'the unit as its card names it').max(120),
  code: z.string().trim().min(1, 'a code such as 3-1 or E4').max(20),
  stage: z.string().min(1).max(40),
  meaning: z.string().trim().min(1, 'what it means, in a few words').max(160),
});
export type UnitCode = z.infer<typeof UnitCode>;

/** The workshop's codes for a unit; of a code written down twice the newest. */
export async function unitCodes(
  db: Database,
  unitType: string,
  unitModel: string,
): Promise<readonly UnitCode[]> {
  if (unitType === '') return [];
  const newest = new Map(
    (await codesOf(db, unitType, unitModel)).map(({ id, code, stage, meaning }) => [
      code,
      { id, unitType, unitModel, code, stage, meaning },
    ]),
  );
  return [...newest.values()];
}

export async function addUnitCode(db: Database, code: UnitCode): Promise<Outcome<UnitCode>> {
  const model = ARCHETYPES.find(({ name }) => name === code.unitType);
  if (!model) return { ok: false, why: 'missing', detail: 'no such kind of unit' };
  if (!model.stages.some(({ name }) => name === code.stage))
    return {
      ok: false,
      why: 'refused',
      detail: `${model.title} has no stage ${code.stage}; expected one of ${model.stages.map(({ name }) => name).join(', ')}`,
    };
  await insertCode(db, code);
  return { ok: true, value: code };
}
