import type { APIRoute } from 'astro';
import { CaseCorrection } from '../../../../case/case-card';
import { caseView, correctCase } from '../../../../server/case/service';
import { database } from '../../../../server/db/client';
import { answer, json, pathId, problem, readBody } from '../../../../server/problem';

/** GET: the case with its whole journal. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const view = await caseView(database(), id.value);
    return view ? json(view) : problem(404, 'Not found', 'no such case');
  });

/**
 * PATCH: corrects what stands on the case's card. 409 where somebody else has changed it since
 * `version`.
 */
export const PATCH: APIRoute = ({ params, request }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const body = await readBody(request, CaseCorrection);
    if (!body.ok) return body.response;
    const result = await correctCase(database(), id.value, body.value);
    if (result.ok) return json(result.value);
    const status = { missing: 404, clash: 409, refused: 422 }[result.why];
    return problem(status, 'Not changed', result.detail);
  });
