import type { APIRoute } from 'astro';
import { z } from 'zod';
import { Role } from '../../../people/role';
import { database } from '../../../server/db/client';
import type { Outcome } from '../../../server/outcome';
import { changeRole, leave, recover } from '../../../server/people/people';
import { actorOf } from '../../../server/people/gate';
import { answer, json, pathId, problem, readBody } from '../../../server/problem';

const Change = z.union([
  z.object({ role: Role }),
  z.object({ leaves: z.literal(true) }),
  z.object({ newCode: z.literal(true) }),
]);

/** PATCH: another role, a new code, or somebody leaves. */
export const PATCH: APIRoute = ({ params, request, locals }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const body = await readBody(request, Change);
    if (!body.ok) return body.response;
    const by = actorOf(locals);
    const change = body.value;
    const done: Outcome<{ code: string } | undefined> =
      'role' in change
        ? await changeRole(database(), id.value, change.role, by)
        : 'leaves' in change
          ? await leave(database(), id.value, by)
          : await recover(database(), id.value, by);
    if (done.ok) return json(done.value ?? {});
    return problem(done.why === 'missing' ? 404 : 422, 'Not changed', done.detail);
  });
