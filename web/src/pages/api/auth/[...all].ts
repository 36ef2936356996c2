import type { APIRoute } from 'astro';
import { authOf } from '../../../server/people/auth';
import { withAddress } from '../../../server/people/gate';
import { database } from '../../../server/db/client';
import { answer, problem } from '../../../server/problem';

/** What of the sign-in package is used; the rest of its doors stays shut. */
const USED =
  /^\/api\/auth\/(?:sign-in\/email|sign-out|get-session|list-sessions|revoke-session|passkey\/(?:generate-register-options|verify-registration|generate-authenticate-options|verify-authentication|list-user-passkeys|delete-passkey))$/;

/** Signing in and out, and where one is signed in. */
export const ALL: APIRoute = ({ request, clientAddress, url }) =>
  answer(async () => {
    if (!USED.test(url.pathname)) return problem(404, 'Not found', `there is no ${url.pathname}`);
    const auth = await authOf(database());
    return auth.handler(
      new Request(request, { headers: withAddress(request.headers, clientAddress) }),
    );
  });
