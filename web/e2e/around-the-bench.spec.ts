import { expect, test } from '@playwright/test';
import { openCase, visit } from './open-case';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

test('a part is found by a few letters and put into the reading line; the keys are shown by ?', async ({
  page,
}) => {
  await openCase(page, /loses steps/, 'trace');
  await expect(page.getByRole('heading', { name: 'Line-up' })).toBeVisible();
  // The cursor is in the reading line from the start; Escape leaves it.
  await expect(page.getByLabel('Reading', { exact: true })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys of this screen' })).toContainText(
    'bench mode',
  );
  await page.keyboard.press('Escape');
  await page.keyboard.press('/');
  await page.keyboard.type('reservoir');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Reading', { exact: true })).toHaveValue('c1 ');
  await page.getByRole('button', { name: 'Whole sheet' }).click();
  await expect(
    page.getByRole('region', { name: 'Map of the circuit' }).locator('svg'),
  ).toContainText('PHA');
});

test('a reading is taken back from the list, and a wrong line stays for mending', async ({
  page,
}) => {
  await openCase(page, /loses steps/, 'trace');
  await expect(page.getByRole('heading', { name: 'Line-up' })).toBeVisible();
  const strip = page.getByLabel('Reading', { exact: true });
  await strip.fill('r99 4k7');
  await strip.press('Enter');
  await expect(page.locator('#strip-says')).toContainText('no part, pin or net "r99"');
  await expect(strip).toHaveValue('r99 4k7');
  await strip.fill('lamp gnd 1.1k ohm');
  await strip.press('Enter');
  const log = page.getByRole('region', { name: 'Readings' });
  await expect(log).toContainText('LAMP to ground');
  await log.getByRole('button', { name: 'Take back lamp gnd 1.1k ohm' }).click();
  await expect(log).not.toContainText('LAMP to ground');
  await expect(page.getByText('all stored')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('region', { name: 'Readings' })).not.toContainText('LAMP to ground');
});

test('two tabs correct one card: the second is told, and keeps what it typed', async ({
  browser,
}) => {
  const context = await browser.newContext({ baseURL: process.env.E2E_ADDRESS! });
  const [one, two] = [await context.newPage(), await context.newPage()];
  await visit(one, '/');
  const href = await one
    .getByRole('row', { name: /lamps steady/ })
    .getByRole('link')
    .getAttribute('href');
  const path = href!.replace(/[^/]+$/, 'take-in');
  await visit(one, path);
  await visit(two, path);
  await expect(two.getByText('all stored')).toBeVisible();
  await two.getByLabel('Waits for').fill("the owner's word");
  await one.getByLabel('Waits for').fill('static RAM, ordered');
  await one.getByRole('button', { name: 'Store the card' }).click();
  await expect(one.getByText('Stored.')).toBeVisible();
  // Coming back to the tab brings the newer card in; what is typed here must not silently win over
  // it.
  await two.evaluate(() => window.dispatchEvent(new Event('focus')));
  await two.waitForTimeout(500);
  await two.getByRole('button', { name: 'Store the card' }).click();
  await expect(two.getByText(/somebody changed this case meanwhile/)).toBeVisible();
  await expect(two.getByLabel('Waits for')).toHaveValue("the owner's word");
  await visit(one, '/');
  await expect(one.getByRole('row', { name: /lamps steady/ })).toContainText(/static RAM, ordered/);
  await context.close();
});

test('an empty search and a page that is not there say so', async ({ page }) => {
  await visit(page, '/');
  await page.getByPlaceholder(/find by unit/).fill('nothing has these words');
  await expect(page.getByText(/No case has all of these words/)).toBeVisible();
  const answer = await page.goto('/case/9999/trace');
  expect(answer!.status()).toBe(404);
  await expect(page.getByRole('heading', { name: 'Not here' })).toBeVisible();
});

test('the service answers wrong doors and other sites as it answers wrong input', async ({
  request,
}) => {
  const [nothing, elsewhere, wrong] = [
    await request.get('/api/nothing'),
    await request.post('/api/cases', { headers: { origin: 'http://elsewhere.example' }, data: {} }),
    await request.delete('/api/boards'),
  ];
  for (const [answer, status] of [
    [nothing, 404],
    [elsewhere, 403],
    [wrong, 404],
  ] as const) {
    expect([answer.status(), answer.headers()['content-type']]).toEqual([
      status,
      'application/problem+json',
    ]);
    expect(await answer.json()).toMatchObject({
      status,
      title: expect.any(String),
      detail: expect.any(String),
    });
  }
});
