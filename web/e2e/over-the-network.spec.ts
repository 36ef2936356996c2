import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type APIRequestContext } from '@playwright/test';
import { asPage } from './as-page';
import { visit } from './open-case';
import { Server } from './server';

// The application as others on the network reach it: behind the proxy of docs/set-ups.md, in two
// processes, and with a certificate of its own.

test.use({ ignoreHTTPSErrors: true });
const folder = mkdtempSync(join(tmpdir(), 'over-the-network-'));
const [certificate, key] = [join(folder, 'bench.pem'), join(folder, 'bench.key')];
const server = new Server();
let proxy: ChildProcess;
let base: string;

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

/** The proxy's configuration as it is documented, with the addresses and files of this test. */
function configuration(port: number): string {
  const documented = readFileSync(join(process.env.E2E_ROOT!, 'docs/set-ups.md'), 'utf8');
  const block = /```nginx\n([\s\S]*?)```/.exec(documented)![1]!;
  const own = block
    .replace('443', `127.0.0.1:${port}`)
    .replace('bench.lan;', 'localhost;')
    .replace('/etc/ssl/bench.lan.pem', certificate)
    .replace('/etc/ssl/private/bench.lan.key', key)
    .replace('127.0.0.1:4711', new URL(process.env.E2E_ADDRESS!).host);
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((name) => `${name}_temp_path ${folder}/${name};`)
    .join('\n');
  return `user root;\ndaemon off;\npid ${folder}/pid;\nerror_log ${folder}/error.log;\nevents {}\nhttp {\naccess_log off;\n${temporary}\n${own}\n}\n`;
}

test.beforeAll(async () => {
  execFileSync(
    'openssl',
    `req -x509 -newkey ec -pkeyopt ec_paramgen_curve:P-256 -nodes -days 30 -subj /CN=localhost -keyout ${key} -out ${certificate}`.split(
      ' ',
    ),
    { stdio: 'ignore' },
  );
  const port = await freePort();
  base = `https://localhost:${port}`;
  writeFileSync(join(folder, 'nginx.conf'), configuration(port));
  proxy = spawn('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], {
    stdio: 'inherit',
  });
});
test.afterAll(async () => {
  proxy.kill('SIGTERM');
  await server.stop();
});

const signIn = (request: APIRequestContext, at: string, password: string, headers = {}) =>
  request.post(`${at}/api/auth/sign-in/email`, {
    data: { email: '6d61726120766f7373@people.invalid', password },
    headers: { origin: at, ...headers },
  });

test('behind a proxy with TLS: cookies are secure, news come, a visitor sees one case', async ({
  page,
  browser,
}) => {
  test.slow();
  await server.start({
    HANZAI_PUBLIC_URL: base,
    HANZAI_PROXY: '127.0.0.1',
    HANZAI_PROCESSES: '2',
  });
  await visit(page, `${base}/people`);
  await page.getByLabel('Name', { exact: true }).fill('Mara Voss');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const code = (await page.locator('[class*=code]').first().textContent())!.trim();
  await page.getByRole('link', { name: 'Sign in with it now.' }).click();
  await page.waitForURL(/\/sign-in/);
  await page.getByLabel('Name', { exact: true }).fill('mara voss');
  await page.getByLabel('Password').fill(code);
  await page.keyboard.press('Enter');
  await page.waitForURL(({ pathname }) => pathname === '/people');
  const cookies = await page.context().cookies();
  expect(cookies.length).toBeGreaterThan(0);
  // One is read by the workshop's own pages, to show that they are; it is good for nothing else.
  const forPages = cookies.filter(({ name }) => name === '__Host-hanzai-page');
  expect(forPages).toMatchObject([
    { secure: true, httpOnly: false, sameSite: 'Strict', path: '/', domain: 'localhost' },
  ]);
  for (const { name, secure, httpOnly, sameSite } of cookies.filter((one) => one !== forPages[0]))
    expect({ name, secure, httpOnly, sameSite }).toEqual({
      name: expect.stringMatching(/^__Secure-hanzai/) as unknown as string,
      secure: true,
      httpOnly: true,
      sameSite: 'Lax',
    });

  // A page of another origin writes nothing, whatever cookies come with it.
  const foreign = await page.request.post(`${base}/api/cases`, {
    data: { title: 'x', unitModel: 'x' },
    headers: { origin: 'https://elsewhere.invalid', ...(await asPage(page.context())) },
  });
  expect(foreign.status()).toBe(403);

  // News come through the proxy as they happen, whichever process has them.
  const made = await page.request.post(`${base}/api/cases`, {
    data: { title: 'a drive for a visitor', unitModel: 'CR-40', complaint: 'it stands still' },
    headers: { origin: base, ...(await asPage(page.context())) },
  });
  const { id, number } = (await made.json()) as { id: string; number: number };
  await page.goto(`${base}/case/${number}/take-in`);
  await expect(page.getByRole('heading', { name: /a drive for a visitor/ })).toBeVisible();
  await page.goto(`${base}/case/${number}/hand-back`);
  await page.getByText('A link for its owner', { exact: true }).click();
  await page.getByLabel('For whom').fill('Ilse');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = (await page.locator('code').filter({ hasText: '/visit/' }).textContent())!;
  expect(link).toMatch(new RegExp(`^${base}/visit/`));
  await expect(page.getByText(/For Ilse, until/)).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).include('details[open]').analyze();
  expect(violations.map(({ id: rule }) => rule)).toEqual([]);

  const stranger = await browser.newContext({ ignoreHTTPSErrors: true });
  const visitor = await stranger.newPage();
  const shown = await visitor.goto(link);
  expect(shown!.headers()['referrer-policy']).toBe('no-referrer');
  expect(shown!.headers()['cache-control']).toContain('no-store');
  await expect(visitor.getByRole('heading', { name: 'a drive for a visitor' })).toBeVisible();
  await expect(
    visitor.getByText('Nothing of it is proven before it is handed back.'),
  ).toBeVisible();
  expect((await new AxeBuilder({ page: visitor }).analyze()).violations).toEqual([]);
  for (const path of ['/', `/case/${number}/trace`, `/api/cases/${id}`])
    expect([401, 302]).toContain(
      (await stranger.request.get(`${base}${path}`, { maxRedirects: 0 })).status(),
    );
  await page.getByRole('button', { name: 'End the link for Ilse' }).click();
  await expect(page.getByText(/For Ilse, until/)).toHaveCount(0);
  expect((await visitor.goto(link))!.status()).toBe(404);
  await expect(visitor.getByRole('heading', { name: 'This link shows nothing' })).toBeVisible();

  // Guesses are counted where they come from: by another address in a header nobody gets more of them.
  const seen: number[] = [];
  for (let i = 0; i < 12; i += 1)
    seen.push(
      (
        await signIn(stranger.request, base, `guess ${i}`, { 'x-forwarded-for': `10.0.0.${i}` })
      ).status(),
    );
  expect(seen.at(-1)).toBe(429);
  await stranger.close();
  await server.stop();
});

test('with a certificate of its own', async ({ playwright }) => {
  await server.start({ HANZAI_CERTIFICATE: certificate, HANZAI_KEY: key });
  const own = process.env.E2E_ADDRESS!.replace('http:', 'https:');
  const request = await playwright.request.newContext({ ignoreHTTPSErrors: true });
  const answered = await request.get(`${own}/api/health`);
  expect(answered.status()).toBe(200);
  expect((await signIn(request, own, 'not the password')).status()).toBeGreaterThanOrEqual(400);
  await expect(request.get(process.env.E2E_ADDRESS!)).rejects.toThrow();
  await request.dispose();
});
