import { createServer } from 'node:net';
import { freePort } from './database.mjs';
import { Remedy } from './say.mjs';

const USUAL_PORT = 4711;
export const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];

/**
 * Where the application is to listen, from the environment: { host, port }. Throws a Remedy of one
 * sentence where that cannot be.
 */
export async function addressToUse(env = process.env) {
  const host = env.HOST ?? '127.0.0.1';
  if (!LOOPBACK.includes(host) && env.HANZAI_ALLOW_NETWORK !== '1')
    throw new Remedy(
      `HOST=${host} would let others on the network in: leave HOST away, or set HANZAI_ALLOW_NETWORK=1 if that is meant (people sign in then, and what they type goes in the clear unless a proxy with TLS stands before it).`,
    );
  if (env.PORT === undefined || env.PORT === '')
    return { host, port: (await isFree(host, USUAL_PORT)) ? USUAL_PORT : await freePort() };
  const port = /^\d{1,5}$/.test(env.PORT) ? Number(env.PORT) : NaN;
  if (!(port >= 1 && port <= 65_535))
    throw new Remedy(`PORT=${env.PORT} is no port: a whole number from 1 to 65535 is.`);
  const why = await reasonAgainst(host, port);
  if (why) throw new Remedy(why);
  return { host, port };
}

/** Why a port cannot be listened on, in one sentence; undefined where it can. */
async function reasonAgainst(host, port) {
  const code = await tryToListen(host, port);
  if (code === undefined) return undefined;
  if (code === 'EADDRINUSE')
    return `Port ${port} is taken by ${(await isHanzai(host, port)) ? 'another Hanzai' : 'another program'}: stop it, or choose another PORT.`;
  if (code === 'EACCES')
    return `Port ${port} needs more rights than this account has: choose a PORT above 1023.`;
  if (code === 'EADDRNOTAVAIL' || code === 'ENOTFOUND' || code === 'EAI_AGAIN')
    return `HOST=${host} is no address of this machine.`;
  return `Port ${port} at ${host} cannot be used (${code}).`;
}

const isFree = async (host, port) => (await tryToListen(host, port)) === undefined;

/** The error's code, or undefined where listening works. */
function tryToListen(host, port) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', ({ code }) => resolve(code ?? 'unknown'));
    probe.listen(port, host, () => probe.close(() => resolve(undefined)));
  });
}

async function isHanzai(host, port) {
  try {
    const response = await fetch(
      `http://${host.includes(':') ? `[${host}]` : host}:${port}/api/health`,
      { signal: AbortSignal.timeout(2000) },
    );
    return 'instance' in (await response.json());
  } catch {
    return false;
  }
}
