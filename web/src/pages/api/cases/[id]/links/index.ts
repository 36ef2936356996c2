import type { APIRoute } from 'astro';
import { linksOf, makeLink } from '../../../../../server/case/visitors';
import { database } from '../../../../../server/db/client';
import { actorOf } from '../../../../../server/people/gate';
import { answer, json, pathId, problem, readBody } from '../../../../../server/problem';
import { NewLink } from '../../../../../visit/visitor-link';

/** GET: the links that show this case to somebody who does not sign in. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    return id.ok ? json(await linksOf(database(), id.value)) : id.response;
  });

/** POST: makes one; the answer has its path, and nothing else ever has it. */
export const POST: APIRoute = ({ params, request, locals }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const body = await readBody(request, NewLink);
    if (!body.ok) return body.response;
    const by = actorOf(locals);
    const made = await makeLink(database(), id.value, body.value, by);
    return made.ok ? json(made.value, 201) : problem(404, 'Not made', made.detail);
  });
