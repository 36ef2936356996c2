import type { APIRoute } from 'astro';
import { endLink } from '../../../../../server/case/visitors';
import { database } from '../../../../../server/db/client';
import { actorOf } from '../../../../../server/people/gate';
import { answer, json, pathId, problem } from '../../../../../server/problem';

/** DELETE: ends a link; from now on it shows nothing. */
export const DELETE: APIRoute = ({ params, locals }) =>
  answer(async () => {
    const [id, link] = [pathId(params.id), pathId(params.link)];
    if (!id.ok) return id.response;
    if (!link.ok) return link.response;
    const by = actorOf(locals);
    const ended = await endLink(database(), id.value, link.value, by);
    return ended.ok ? json({}) : problem(404, 'Not ended', ended.detail);
  });
