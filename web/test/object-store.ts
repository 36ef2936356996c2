import { createHash, createHmac } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

// A small object store that speaks enough of S3 for the tests: it keeps what is put, gives it back, and
// looks at every signature by itself. Source: AWS General Reference, Signature Version 4; S3 API
// Reference, PutObject and GetObject; from memory.

export const STORE_KEY = { id: 'AKIDBENCH', secret: 'a secret of the tests' };

const hash = (bytes: Buffer | string): string => createHash('sha256').update(bytes).digest('hex');
const mac = (key: Buffer | string, words: string): Buffer =>
  createHmac('sha256', key).update(words).digest();

/** Whether a request is signed with the key, for just this method, path, headers and body. */
function isSigned(request: IncomingMessage, body: Buffer): boolean {
  const said =
    /^AWS4-HMAC-SHA256 Credential=([^/]+)\/(\d{8})\/([^/]+)\/s3\/aws4_request, SignedHeaders=([^,]+), Signature=([0-9a-f]{64})$/.exec(
      request.headers.authorization ?? '',
    );
  if (!said || said[1] !== STORE_KEY.id) return false;
  const [, , day, region, names, signature] = said as unknown as string[];
  const given = String(request.headers['x-amz-content-sha256']);
  if (given !== 'UNSIGNED-PAYLOAD' && given !== hash(body)) return false;
  const { pathname, searchParams } = new URL(request.url!, 'http://x');
  const query = [...searchParams]
    .map(([name, value]) => `${encodeURIComponent(name)}=${encodeURIComponent(value)}`)
    .sort()
    .join('&');
  const headers = names!
    .split(';')
    .map((name) => `${name}:${String(request.headers[name]).trim()}\n`)
    .join('');
  const canonical = [request.method, pathname, query, headers, names, given].join('\n');
  const scope = `${day}/${region}/s3/aws4_request`;
  const words = ['AWS4-HMAC-SHA256', request.headers['x-amz-date'], scope, hash(canonical)].join(
    '\n',
  );
  const key = [region!, 's3', 'aws4_request'].reduce<Buffer>(
    (made, part) => mac(made, part),
    mac(`AWS4${STORE_KEY.secret}`, day!),
  );
  return mac(key, words).toString('hex') === signature;
}

/** Starts one. objects: what is in it, by bucket and key; away: it answers 503 to everything. */
export async function startObjectStore() {
  const objects = new Map<string, Buffer>();
  const state = { away: false, refused: 0 };
  const serve = async (request: IncomingMessage, response: ServerResponse): Promise<unknown> => {
    const chunks: Buffer[] = [];
    for await (const chunk of request) chunks.push(chunk as Buffer);
    const body = Buffer.concat(chunks);
    const path = new URL(request.url!, 'http://x').pathname;
    const answer = (status: number, code: string): void => {
      response.writeHead(status, { 'content-type': 'application/xml' });
      response.end(`<?xml version="1.0"?><Error><Code>${code}</Code></Error>`);
    };
    if (state.away) return answer(503, 'SlowDown');
    if (!isSigned(request, body)) {
      state.refused += 1;
      return answer(403, 'SignatureDoesNotMatch');
    }
    if (request.method === 'PUT') {
      objects.set(path, body);
      response.writeHead(200, { etag: `"${createHash('md5').update(body).digest('hex')}"` });
      return response.end();
    }
    const object = objects.get(path);
    if (request.method !== 'GET' || !object) return answer(404, 'NoSuchKey');
    response.writeHead(200, { 'content-type': 'image/jpeg', 'content-length': object.length });
    return response.end(object);
  };
  const server = createServer((request, response) => void serve(request, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    objects,
    state,
    endpoint: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    stop: () =>
      new Promise<void>((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  };
}
