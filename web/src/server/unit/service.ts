import { ARCHETYPES } from '@hanzai/data';
import type { UnitCode } from '../../case/unit-code';
import type { Database } from '../db/client';
import type { Outcome } from '../outcome';
import { codesOf, insertCode } from './repository';

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
