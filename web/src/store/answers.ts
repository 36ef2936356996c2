import type { z } from 'zod';
import { changes, RENEWED, TOKEN_HEADER, tokenIn } from '../people/page-token';
import { sawSignIn } from './signed-in';

/**
 * A request that did not do what was asked. again: the same request may do it later (nobody
 * answered, or what the server needs is away); else it never will, and `detail` says why.
 */
export class AnswerError extends Error {
  constructor(
    readonly detail: string,
    readonly again: boolean,
    readonly status?: number,
  ) {
    super(detail);
  }
}

/**
 * Answers of a server whose database, disk or way is not there at the moment, or that does not know
 * who asks any more: once signed in again, the same request is taken.
 */
const AWAY: readonly number[] = [401, 408, 421, 429, 502, 503, 504, 507];

const NOBODY = 'the workshop server does not answer';
/** How long an answer may take, milliseconds. */
const PATIENCE = 20_000;

/** What shows that a request comes from a page of the workshop. Nothing in a worker, which only reads. */
function shown(method = 'GET'): Readonly<Record<string, string>> {
  if (!changes(method) || typeof document === 'undefined') return {};
  const token = tokenIn(document.cookie);
  return token === undefined ? {} : { [TOKEN_HEADER]: token };
}

export type Asked = Omit<RequestInit, 'headers'> & {
  readonly headers?: Readonly<Record<string, string>>;
};

/**
 * Asks the workshop as one of its pages. Where the page has nothing to show yet, or of a session that
 * has ended, the answer brings it, and the same is asked once more.
 */
export async function askAsPage(path: string, options: Asked = {}): Promise<Response> {
  const asked = (): Promise<Response> =>
    fetch(path, { ...options, headers: { ...options.headers, ...shown(options.method) } });
  const response = await asked();
  return response.status === 401 && response.headers.get(TOKEN_HEADER) === RENEWED
    ? asked()
    : response;
}

/**
 * Asks the workshop and checks the answer against its schema. Throws an AnswerError.
 */
export async function ask<T extends z.ZodType>(
  path: string,
  schema: T,
  options: Asked = {},
): Promise<z.infer<T>> {
  let response: Response;
  try {
    response = await askAsPage(path, { signal: AbortSignal.timeout(PATIENCE), ...options });
  } catch {
    throw new AnswerError(NOBODY, true);
  }
  // Something between here and the workshop may answer in its place.
  if (!(response.headers.get('content-type') ?? '').includes('json'))
    throw new AnswerError(NOBODY, true, response.status);
  sawSignIn(response.status !== 401);
  const body = (await response.json().catch(() => undefined)) as unknown;
  if (!response.ok) {
    const detail = (body as { detail?: string } | undefined)?.detail;
    throw new AnswerError(
      detail ?? `the server answered ${response.status}`,
      AWAY.includes(response.status),
      response.status,
    );
  }
  const read = schema.safeParse(body);
  if (read.success) return read.data as z.infer<T>;
  throw new AnswerError('the answer is not of this version; reload the page', false);
}

/** A request with a JSON body. */
export function withBody(
  method: 'POST' | 'PATCH',
  body: unknown,
): Asked & { readonly headers: Readonly<Record<string, string>> } {
  return { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
}

/** Whether trying again is worth it, in words for a form that keeps what was typed. */
export function whyNot(error: unknown): string {
  if (!(error instanceof AnswerError)) return String((error as Error).message ?? error);
  return error.again
    ? `${error.detail}; what you typed is still here. Try again in a moment.`
    : error.detail;
}
