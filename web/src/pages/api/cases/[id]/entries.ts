import type { APIRoute } from 'astro';
import { Entry } from '../../../../case/entry';
import { addEntry } from '../../../../server/case/service';
import { database } from '../../../../server/db/client';
import { learnSoon } from '../../../../server/learn/soon';
import { answer, json, pathId, problem, readBody } from '../../../../server/problem';

/**
 * POST: adds an entry to the journal. 201 when stored, 200 when it was there already, 409 where the
 * id holds another one, 422 with the reason where a rule forbids it.
 */
export const POST: APIRoute = ({ params, request, locals }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const body = await readBody(request, Entry, { whole: true });
    if (!body.ok) return body.response;
    const result = await addEntry(database(), id.value, body.value, locals.person);
    if (result.ok) {
      const { created, closed } = result.value;
      if (closed) learnSoon(database());
      return json({ id: body.value.id, created }, created ? 201 : 200);
    }
    return problem(
      result.why === 'missing' ? 404 : result.why === 'clash' ? 409 : 422,
      'Not stored',
      result.detail,
    );
  });
