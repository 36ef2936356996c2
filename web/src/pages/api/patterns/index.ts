import type { APIRoute } from 'astro';
import { LearningSetting } from '../../../patterns/patterns';
import { database } from '../../../server/db/client';
import { patternsOf } from '../../../server/learn/lessons';
import { setLearning } from '../../../server/learn/setting';
import { answer, json, readBody } from '../../../server/problem';

/** GET: all that the workshop knows of what fails. */
export const GET: APIRoute = () => answer(async () => json(await patternsOf(database())));

/** PATCH: whether it learns, and since when. */
export const PATCH: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, LearningSetting);
    if (!body.ok) return body.response;
    await setLearning(database(), body.value);
    return json(await patternsOf(database()));
  });
