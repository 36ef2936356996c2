import { randomUUID } from 'node:crypto';
import type { FileIssue } from '@hanzai/core/board';
import { z } from 'zod';

/** An answer that says what was wrong and what was expected. Source: RFC 9457, problem details. */
export function problem(
  status: number,
  title: string,
  detail: string,
  more: { issues?: readonly FileIssue[]; [member: string]: unknown } = {},
): Response {
  return new Response(JSON.stringify({ type: 'about:blank', title, status, detail, ...more }), {
    status,
    headers: { 'content-type': 'application/problem+json' },
  });
}

export function json(value: unknown, status = 200): Response {
  return new Response(JSON.stringify(value), {
    status,
    headers: { 'content-type': 'application/json' },
  });
}

/** The largest request body taken, bytes: a board file of 20 MB in JSON's quotes. */
const MAX_BODY = 45_000_000;

/**
 * The body of a request; undefined where it is larger than that, whatever its headers say. most:
 * bytes.
 */
export async function readLimited(request: Request, most: number): Promise<Uint8Array | undefined> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return undefined;
  const chunks: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const { done, value } = (await reader?.read()) ?? { done: true, value: undefined };
    if (done) break;
    size += value.byteLength;
    if (size > most) {
      await reader?.cancel();
      return undefined;
    }
    chunks.push(value);
  }
  return Buffer.concat(chunks);
}

/** Half a character: one of a pair of surrogates without the other. */
const HALF = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/;

/** Deepest nesting of a body that is looked into. */
const DEEPEST = 60;

/**
 * Where a text in a body is broken within a character, as a path; undefined where all are whole.
 * The database takes no halves.
 */
export function brokenText(value: unknown, path = '', depth = 0): string | undefined {
  if (typeof value === 'string') return HALF.test(value) ? path : undefined;
  if (typeof value !== 'object' || value === null || depth > DEEPEST) return undefined;
  for (const [key, own] of Object.entries(value)) {
    if (HALF.test(key)) return path;
    const found = brokenText(own, path ? `${path}.${key}` : key, depth + 1);
    if (found !== undefined) return found;
  }
  return undefined;
}

/**
 * Where a value has something that is not in what was read of it, as a path; undefined where nothing
 * was dropped. A page of a newer version may send more than this server knows of.
 */
export function dropped(raw: unknown, read: unknown, path = ''): string | undefined {
  if (typeof raw !== 'object' || raw === null) return undefined;
  // What became something else, a date for instance, was read.
  if (typeof read !== 'object' || read === null) return undefined;
  for (const [key, own] of Object.entries(raw)) {
    const at = path ? `${path}.${key}` : key;
    if (own !== undefined && !Object.hasOwn(read, key)) return at;
    const deeper = dropped(own, (read as Record<string, unknown>)[key], at);
    if (deeper !== undefined) return deeper;
  }
  return undefined;
}

/**
 * Reads a JSON body against a schema. Returns the value, or the answer to send. whole: a field that
 * the schema does not know is refused, not dropped: what is confirmed is stored.
 */
export async function readBody<T extends z.ZodType>(
  request: Request,
  schema: T,
  { whole = false } = {},
): Promise<{ ok: true; value: z.infer<T> } | { ok: false; response: Response }> {
  const length = Number(request.headers.get('content-length') ?? 0);
  if (length > MAX_BODY)
    return { ok: false, response: problem(413, 'Too large', 'expected at most 20 MB') };
  const type = request.headers.get('content-type') ?? '';
  if (!/^application\/(json|[\w.]+\+json)\b/.test(type))
    return {
      ok: false,
      response: problem(
        415,
        'Not JSON',
        `the body is ${type || 'of no stated type'}; expected application/json`,
      ),
    };
  const bytes = await readLimited(request, MAX_BODY);
  if (!bytes) return { ok: false, response: problem(413, 'Too large', 'expected at most 20 MB') };
  const text = new TextDecoder().decode(bytes);
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return {
      ok: false,
      response: problem(400, 'Not JSON', 'the body could not be read; expected a JSON object'),
    };
  }
  const broken = brokenText(raw);
  if (broken !== undefined)
    return {
      ok: false,
      response: problem(
        422,
        'Not text',
        `${broken || 'the body'}: a text holds half a character (a lone surrogate); expected whole ones`,
      ),
    };
  if (text.includes('\\u0000'))
    return {
      ok: false,
      response: problem(
        422,
        'Not text',
        'a text holds the character U+0000; expected printable text',
      ),
    };
  const parsed = schema.safeParse(raw);
  const lost = parsed.success && whole ? dropped(raw, parsed.data) : undefined;
  if (lost !== undefined)
    return {
      ok: false,
      response: problem(
        422,
        'Of another version',
        `${lost}: this version of the workshop does not know it, and would lose it; reload the page`,
      ),
    };
  if (parsed.success) return { ok: true, value: parsed.data };
  const issues = parsed.error.issues
    .slice(0, 20)
    .map((issue) => ({ what: issue.path.join('.') || 'the body', expected: issue.message }));
  return {
    ok: false,
    response: problem(
      422,
      'Not as expected',
      issues.map(({ what, expected }) => `${what}: ${expected}`).join('; '),
      { issues },
    ),
  };
}

const Id = z.uuid();

/** The id of a path, or the answer to send. */
export function pathId(
  text: string | undefined,
): { ok: true; value: string } | { ok: false; response: Response } {
  const parsed = Id.safeParse(text);
  return parsed.success
    ? { ok: true, value: parsed.data }
    : {
        ok: false,
        response: problem(404, 'Not found', 'expected the id of something that is here'),
      };
}

/**
 * What the database says of itself, by the first letters of its code. Source: PostgreSQL
 * documentation, appendix A.
 */
const DATABASE_STATES: readonly (readonly [string, number, string, string])[] = [
  [
    '22',
    422,
    'Not as expected',
    'the database cannot hold one of the values; expected ordinary text, dates and numbers',
  ],
  ['23', 422, 'Not as expected', 'it contradicts what is stored; reload and try again'],
  [
    '53100',
    507,
    'Disk full',
    'the disk of the workshop is full; nothing was changed. Make room, then try again',
  ],
  [
    '53',
    503,
    'Busy',
    'the workshop database is overloaded; nothing was changed. Try again in a moment',
  ],
  [
    '57',
    503,
    'Not stored',
    'the workshop database is going down or coming up; nothing was changed. Try again in a moment',
  ],
  [
    '08',
    503,
    'Not stored',
    'the workshop database did not answer; nothing was changed. Try again in a moment',
  ],
];
/** Failures of the way to the database. */
const UNREACHABLE = ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'ENOENT'];
const LOST = /connection|timeout exceeded|terminat/i;

/**
 * Runs an endpoint; a failure inside becomes an answer without details of the database in it: a
 * value that cannot be stored, a database that is gone, or a mistake of ours with the number under
 * which it stands in the log.
 */
export async function answer(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    return failure(error as Error & { code?: string; cause?: Error & { code?: string } });
  }
}

export async function failure(
  error: Error & { code?: string; cause?: Error & { code?: string } },
): Promise<Response> {
  const { logger } = await import('./logger');
  const code = error.cause?.code ?? error.code ?? '';
  const known = DATABASE_STATES.find(
    ([start]) => code.startsWith(start) && /^[0-9A-Z]{5}$/.test(code),
  );
  if (known) {
    logger.error({ name: error.name, code }, 'the database refused');
    return problem(known[1], known[2], known[3]);
  }
  if (
    UNREACHABLE.includes(code) ||
    (code === '' && LOST.test(error.cause?.message ?? error.message))
  ) {
    logger.error({ name: error.name, code }, 'the database is gone');
    return problem(
      503,
      'Not stored',
      'the workshop database did not answer; nothing was changed. Try again in a moment',
    );
  }
  if (error.name === 'PicturesAway') {
    logger.error({ name: error.name, why: error.message, cause: error.cause?.name }, 'no picture');
    return problem(
      503,
      'No picture',
      `${error.message}; nothing was changed. Try again in a moment`,
    );
  }
  const number = randomUUID().slice(0, 8);
  // No parameters of a query: the stack of the cause, not the message that lists them.
  const stack = (error.cause?.stack ?? error.stack ?? '').replace(/^params: .*$/gm, '');
  logger.error({ number, name: error.name, code, stack }, 'a mistake of the server');
  return problem(
    500,
    'A mistake of ours',
    `the server made a mistake (number ${number} in its log); nothing was changed`,
    { number },
  );
}
