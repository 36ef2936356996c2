import type { APIRoute } from 'astro';
import { z } from 'zod';
import { PersonName, Role } from '../../../people/role';
import { database } from '../../../server/db/client';
import { actorOf, closeHouse } from '../../../server/people/gate';
import { addPerson, auditLines, listPeople } from '../../../server/people/people';
import { answer, json, problem, readBody } from '../../../server/problem';

const NewPerson = z.object({ name: PersonName, role: Role });

/** GET: who works here, and the last of what was done to the workshop itself. */
export const GET: APIRoute = () =>
  answer(async () =>
    json({ people: await listPeople(database()), audit: await auditLines(database()) }),
  );

/** POST: adds somebody; the answer has the code to come in with, and nothing else ever has it. */
export const POST: APIRoute = ({ request, locals }) =>
  answer(async () => {
    const body = await readBody(request, NewPerson);
    if (!body.ok) return body.response;
    const added = await addPerson(database(), body.value, actorOf(locals));
    if (!added.ok) return problem(added.why === 'clash' ? 409 : 422, 'Not added', added.detail);
    closeHouse(database());
    return json(added.value, 201);
  });
