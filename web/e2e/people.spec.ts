import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { asPage } from './as-page';
import { visit } from './open-case';
import { Server } from './server';

// People are added, sign in, do what is theirs, and leave.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

async function signIn(page: Page, name: string, password: string): Promise<void> {
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('Password').fill(password);
  await page.keyboard.press('Enter');
}
async function add(page: Page, name: string, role: string): Promise<string> {
  await page.getByLabel('Name', { exact: true }).fill(name);
  if (role !== 'owner') await page.locator('#person-role').selectOption(role);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const given = page.getByText(new RegExp(`^For ${name}, once:`));
  await expect(given).toBeVisible();
  return (await page.locator('[class*=code]').first().textContent())!.trim();
}
const accessible = async (page: Page): Promise<void> => {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
};

test('an owner is added, everybody signs in, and each does what is his', async ({
  page,
  browser,
  request,
}) => {
  test.slow();
  await visit(page, '/people');
  await expect(page.getByText('Nobody signs in here.')).toBeVisible();
  await accessible(page);
  const ownerCode = await add(page, 'Mara Voss', 'owner');
  // From now on nothing is told to strangers.
  const refused = await request.get(new URL('/api/cases', page.url()).href);
  expect(refused.status()).toBe(401);
  expect(await refused.text()).not.toContain('CR-40');
  await page.getByRole('link', { name: 'Sign in with it now.' }).click();
  await page.waitForURL(/\/sign-in/);
  await accessible(page);
  await signIn(page, 'mara voss', 'wrong-wrong-wrong');
  await expect(page.getByText(/do not go together/)).toBeVisible();
  await signIn(page, 'mara voss', ownerCode);
  await page.waitForURL(/\/people/);
  await page.getByLabel('The code').fill(ownerCode);
  await page.getByLabel('New password').fill('twelve looms stand still');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('It holds from now on')).toBeVisible();
  const traineeCode = await add(page, 'Wren', 'trainee');
  await accessible(page);

  const other = await browser.newContext();
  const trainee = await other.newPage();
  await trainee.goto(new URL('/stock', page.url()).href);
  await trainee.waitForURL(/\/sign-in\?to=%2Fstock/);
  await signIn(trainee, 'Wren', traineeCode);
  await trainee.waitForURL(/\/stock$/);
  await expect(trainee.getByRole('link', { name: 'Wren (code)' })).toBeVisible();
  // What a trainee reads stands in the case with his name; what is not his is refused in words.
  // A program that has the session alone changes nothing: it is not one of our pages, nor is one that
  // shows what belongs to somebody else.
  const data = { title: 'a case for a test', unitModel: 'lamp' };
  for (const headers of [{}, await asPage(other)]) {
    const unshown = await page.request.post('/api/cases', { data, headers });
    expect(unshown.status()).toBe(401);
    expect(await unshown.text()).toContain('No page of ours');
  }
  const opened = await page.request.post('/api/cases', {
    data,
    headers: await asPage(page.context()),
  });
  const { number } = (await opened.json()) as { number: number };
  await trainee.goto(new URL(`/case/${number}/trace`, page.url()).href);
  await trainee.getByLabel('Reading', { exact: true }).fill('note smells of burnt glue');
  await trainee.keyboard.press('Enter');
  await expect(trainee.getByText('all stored')).toBeVisible();
  const entries = async (): Promise<{ by?: string }[]> =>
    (
      (await (await page.request.get(`/api/cases/by-number/${number}`)).json()) as {
        entries: { by?: string }[];
      }
    ).entries;
  await expect.poll(async () => (await entries()).at(-1)?.by).toBe('Wren');
  // What waited in this browser while he was not here is not entered in his name.
  const another = await trainee.request.post(
    `/api/cases/${((await opened.json()) as { id: string }).id}/entries`,
    {
      data: {
        id: '01890000-0000-7000-8000-0000000000ee',
        madeAt: new Date().toISOString(),
        body: { kind: 'finding', text: 'of somebody else' },
      },
      headers: { 'x-hanzai-entered-by': 'somebody-else', ...(await asPage(other)) },
    },
  );
  expect(another.status()).toBe(401);
  expect(await another.text()).toContain('somebody else entered this');
  expect(JSON.stringify(await entries())).not.toContain('of somebody else');
  const tries = await trainee.request.post('/api/people', {
    data: { name: 'Friend', role: 'owner' },
    headers: await asPage(other),
  });
  expect(tries.status()).toBe(403);

  // He leaves: the next thing that he asks for is refused, and what he typed stays in his browser.
  await visit(page, '/people');
  await page.getByRole('button', { name: 'Wren leaves' }).click();
  await expect(page.getByRole('row', { name: /Wren/ })).toHaveCount(0);
  await trainee.getByLabel('Reading', { exact: true }).fill('note after he left');
  await trainee.keyboard.press('Enter');
  await expect(trainee.getByRole('status').filter({ hasText: 'Signed out' })).toBeVisible();
  expect((await entries()).at(-1)?.by).toBe('Wren');
  expect(JSON.stringify(await entries())).not.toContain('after he left');
  await other.close();

  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/\/sign-in/);
  await visit(page, '/');
  await page.waitForURL(/\/sign-in/);
});
