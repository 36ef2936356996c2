import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../server/db/client';
import { authOf, LEAST_PASSWORD } from '../../../server/people/auth';
import { withAddress } from '../../../server/people/gate';
import { hasOwnPassword } from '../../../server/people/people';
import { answer, json, problem, readBody } from '../../../server/problem';

const NewPassword = z.object({
  current: z.string().min(1).max(128),
  password: z.string().min(LEAST_PASSWORD, `at least ${LEAST_PASSWORD} letters`).max(128),
});

/** GET: who asks; null where nobody signs in. */
export const GET: APIRoute = ({ locals }) =>
  answer(async () =>
    json(locals.person ? { ...locals.person, hasCode: locals.hasCode === true } : null),
  );

/** POST: a password of one's own in the place of the code or the one before; ends every other session. */
export const POST: APIRoute = ({ request, locals, clientAddress }) =>
  answer(async () => {
    if (!locals.person) return problem(422, 'Not changed', 'nobody signs in here');
    const body = await readBody(request, NewPassword);
    if (!body.ok) return body.response;
    const auth = await authOf(database());
    const changed = await auth.api.changePassword({
      body: {
        currentPassword: body.value.current,
        newPassword: body.value.password,
        revokeOtherSessions: true,
      },
      headers: withAddress(request.headers, clientAddress),
      asResponse: true,
    });
    if (!changed.ok) return problem(422, 'Not changed', 'the present password or code is another');
    await hasOwnPassword(database(), locals.person.id);
    const answered = json({ changed: true });
    for (const cookie of changed.headers.getSetCookie())
      answered.headers.append('set-cookie', cookie);
    return answered;
  });
