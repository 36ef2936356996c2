import type { APIRoute } from 'astro';
import { z } from 'zod';
import { Switchboard } from '../../../server/instrument/talk';
import { answer, json, problem, readBody } from '../../../server/problem';

const Said = z.object({
  host: z.string().min(1).max(253),
  port: z.number().int().min(1).max(65_535),
  message: z
    .string()
    .min(1)
    .max(4096)
    .regex(/^[ -~\t]*$/, 'one line of printable characters'),
  isQuery: z.boolean(),
});

const STATUS = { forbidden: 403, unreachable: 502, slow: 504 } as const;

let switchboard: Switchboard | undefined;

/** POST: says one program message to an instrument on the network, and gives its answer. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, Said);
    if (!body.ok) return body.response;
    switchboard ??= new Switchboard(process.env.HANZAI_INSTRUMENTS ?? '');
    const talked = await switchboard.say(body.value);
    return talked.ok
      ? json({ answer: talked.answer })
      : problem(STATUS[talked.why], 'The instrument did not answer', talked.detail);
  });
