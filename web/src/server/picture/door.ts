import type { Outcome } from '../outcome';
import { json, problem, readLimited } from '../problem';
import { MOST_PICTURE_BYTES } from './service';

const NOT_KEPT = 'The picture was not kept';

/** The file that is a request's body, given to `keep`; the answer says what became of it. */
export async function keepSentPicture<T>(
  request: Request,
  keep: (file: Uint8Array) => Promise<Outcome<T>>,
): Promise<Response> {
  const file = await readLimited(request, MOST_PICTURE_BYTES);
  if (!file)
    return problem(
      413,
      NOT_KEPT,
      `the file is larger than ${MOST_PICTURE_BYTES / 1e6} MB; take it again at a lower resolution`,
    );
  const result = await keep(file);
  return result.ok
    ? json(result.value, 201)
    : problem(result.why === 'missing' ? 404 : 422, NOT_KEPT, result.detail);
}
