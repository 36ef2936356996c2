import type { APIRoute } from 'astro';
import { database } from '../../../server/db/client';
import { answer, json, problem, readBody } from '../../../server/problem';
import { UnitCode } from '../../../case/unit-code';
import { addUnitCode } from '../../../server/unit/service';

/** POST: writes down a code for a kind of unit. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, UnitCode);
    if (!body.ok) return body.response;
    const result = await addUnitCode(database(), body.value);
    return result.ok
      ? json(result.value, 201)
      : problem(
          result.why === 'missing' ? 404 : 422,
          'The code was not written down',
          result.detail,
        );
  });
