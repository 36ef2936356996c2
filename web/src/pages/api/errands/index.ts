import type { APIRoute } from 'astro';
import { v7 } from 'uuid';
import { database } from '../../../server/db/client';
import { errand } from '../../../server/db/schema/errand';
import { keepFile } from '../../../server/errands/pieces';
import { errands } from '../../../server/errands/running';
import { arrived, isBusy, listErrands } from '../../../server/errands/work';
import { actorOf } from '../../../server/people/gate';
import { answer, json, problem } from '../../../server/problem';
import { ErrandKind } from '../../../workshop/errands';

/** The largest file that is sent here, bytes; a larger one is taken in by `npm run import`. */
const MOST_BYTES = 8_000_000_000;

/** GET: errands of the last day, the newest first. */
export const GET: APIRoute = () =>
  answer(async () => json({ errands: await listErrands(database()) }));

/**
 * POST: asks for an errand, `?what=`; with `take-in` the archive is the body, and `name` its name. The
 * answer comes when the errand waits in the queue.
 */
export const POST: APIRoute = ({ request, url, locals }) =>
  answer(async () => {
    const what = ErrandKind.safeParse(url.searchParams.get('what'));
    if (!what.success)
      return problem(422, 'Not asked for', `expected what=${ErrandKind.options.join(' or what=')}`);
    const db = database();
    if (await isBusy(db, what.data))
      return problem(409, 'One at a time', 'one of these goes on already: wait, or stop it');
    const id = v7();
    const comes = what.data === 'take-in';
    const day = new Date().toISOString().slice(0, 10);
    await db.insert(errand).values({
      id,
      what: what.data,
      state: comes ? 'coming' : 'waiting',
      name: comes
        ? (url.searchParams.get('name') ?? '').slice(0, 200)
        : `hanzai-workshop-${day}.tar.gz`,
      askedBy: actorOf(locals),
    });
    if (comes) {
      const refusal = await receive(request, id);
      if (refusal) return refusal;
    }
    const { send } = await errands();
    await send(id);
    return json({ id }, 202);
  });

/** Keeps what is sent; the answer to send where it is not kept. */
async function receive(request: Request, id: string): Promise<Response | undefined> {
  const db = database();
  try {
    const body = (request.body ?? new Blob().stream()) as unknown as AsyncIterable<Uint8Array>;
    await keepFile(db, id, body, MOST_BYTES);
  } catch (error) {
    await arrived(db, id, 'failed', 'It did not come whole; nothing was changed.');
    if (error instanceof RangeError) return problem(413, 'Too large', error.message);
    throw error;
  }
  if (await arrived(db, id, 'waiting')) return undefined;
  return problem(409, 'Stopped', 'somebody stopped it while it came');
}
