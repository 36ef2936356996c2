import type { FileIssue } from '@hanzai/core/board';
import { z } from 'zod';

/** An answer that says what was wrong and what was expected. Source: RFC 9457, problem details. */
export function problem(status: number, title: string, detail: string, more: { issues?: readonly FileIssue[]; [member: string]: unknown } = {}): Response {
  return new Response(JSON.stringify({ type: 'about:blank', title, status, detail, ...more }), {
    status,
    headers: { 'content-type': 'application/problem+json' },
  });
}

export function json(value: unknown, status = 200): Response {
  return new Response(JSON.stringify(value), { status, headers: { 'content-type': 'application/json' } });
}

/** The largest request body taken, bytes: a board file of 20 MB in JSON's quotes. */
const MAX_BODY = 45_000_000;

/** Reads a JSON body against a schema. Returns the value, or the answer to send. */
export async function readBody<T extends z.ZodType>(request: Request, schema: T): Promise<{ ok: true; value: z.infer<T> } | { ok: false; response: Response }> {
  const length = Number(request.headers.get('content-length') ?? 0);
  if (length > MAX_BODY) return { ok: false, response: problem(413, 'Too large', 'expected at most 20 MB') };
  const type = request.headers.get('content-type') ?? '';
  if (!/^application\/(json|[\w.]+\+json)\b/.test(type))
    return { ok: false, response: problem(415, 'Not JSON', `the body is ${type || 'of no stated type'}; expected application/json`) };
  const text = await request.text();
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return { ok: false, response: problem(400, 'Not JSON', 'the body could not be read; expected a JSON object') };
  }
  if (text.includes('\\u0000')) return { ok: false, response: problem(422, 'Not text', 'a text holds the character U+0000; expected printable text') };
  const parsed = schema.safeParse(raw);
  if (parsed.success) return { ok: true, value: parsed.data };
  const issues = parsed.error.issues.slice(0, 20).map((issue) => ({ what: issue.path.join('.') || 'the body', expected: issue.message }));
  return { ok: false, response: problem(422, 'Not as expected', issues.map(({ what, expected }) => `${what}: ${expected}`).join('; '), { issues }) };
}

const Id = z.uuid();

/** The id of a path, or the answer to send. */
export function pathId(text: string | undefined): { ok: true; value: string } | { ok: false; response: Response } {
  const parsed = Id.safeParse(text);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, response: problem(404, 'Not found', 'expected the id of something that is here') };
}

/** Runs an endpoint; a failure inside becomes an answer without details of the database in it. */
export async function answer(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    const { logger } = await import('./logger');
    logger.error({ name: (error as Error).name, code: (error as { code?: string; cause?: { code?: string } }).cause?.code }, 'request failed');
    return problem(503, 'Not stored', 'the workshop database did not answer; nothing was changed. Try again in a moment');
  }
}
