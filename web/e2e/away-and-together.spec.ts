import { expect, test, type Page } from '@playwright/test';
import { alive, openCase, toStage, visit } from './open-case';
import { Server } from './server';

// Work goes on while the server is away, and several people see each other's work at once.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

const CASE = /gives up after three tries/;

/** Waits until the browser keeps the application, and the case that is open. */
async function kept(page: Page): Promise<void> {
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await expect
    .poll(() =>
      page.evaluate(async () => {
        const names = await caches.keys();
        const counts = await Promise.all(
          names.map(async (name) => (await (await caches.open(name)).keys()).length),
        );
        return names.some((name, i) => name === 'cases' && counts[i]! > 0);
      }),
    )
    .toBe(true);
}

const symptom = async (page: Page, text: string): Promise<void> => {
  await page.getByLabel('Add a symptom').fill(text);
  await page.keyboard.press('Enter');
};

test('with the server away a case is opened again, worked on in another stage, and stored when it is back', async ({
  page,
}) => {
  const number = await openCase(page, CASE, 'take-in');
  await kept(page);
  await server.stop('SIGKILL');
  await expect(page.getByText(/server does not answer/)).toBeVisible();
  await symptom(page, 'clicks twice');
  await page.reload();
  await alive(page);
  await expect(page.getByText('clicks twice')).toBeVisible();
  await expect(page.getByText(/1 entry is kept in this browser/)).toBeVisible();
  // The sheet in use is chosen also where the list of sheets came late, or not at all.
  await expect(page.getByLabel('Board sheet')).toHaveValue(/^[0-9a-f-]{36}$/);
  // A page that was never looked at while the server was there.
  await visit(page, `/case/${number}/trace`);
  await expect(page.getByText('Measure next')).toBeVisible();
  await toStage(page, 'Take in');
  await symptom(page, 'then nothing');
  await server.start();
  await expect(page.getByText('all stored')).toBeVisible();
  await page.reload();
  await alive(page);
  await expect(page.getByText('clicks twice')).toBeVisible();
  await expect(page.getByText('then nothing')).toBeVisible();
});

test('what another person enters is there without a reload, in the case and in the docket', async ({
  browser,
}) => {
  const contexts = await Promise.all(
    [1, 2].map(() => browser.newContext({ baseURL: process.env.E2E_ADDRESS! })),
  );
  const [one, two] = [await contexts[0]!.newPage(), await contexts[1]!.newPage()];
  await openCase(one, CASE, 'take-in');
  await openCase(two, CASE, 'take-in');
  await symptom(one, 'hums when warm');
  await expect(two.getByText('hums when warm')).toBeVisible({ timeout: 3000 });
  await visit(two, '/');
  await one.getByRole('button', { name: 'Leave off' }).click();
  await one.getByLabel('Where were you?').fill('lid is off');
  await one.keyboard.press('Enter');
  await expect(two.getByRole('row', { name: CASE })).toContainText('lid is off', {
    timeout: 3000,
  });
  await Promise.all(contexts.map((context) => context.close()));
});

test('an entry that the server never takes steps aside, is shown on every page, and the rest goes on', async ({
  page,
}) => {
  await openCase(page, CASE, 'take-in');
  await page.route('**/entries', (route) =>
    route.request().postData()?.includes('never')
      ? route.fulfill({
          status: 422,
          contentType: 'application/problem+json',
          body: '{"detail":"this version does not know it"}',
        })
      : route.continue(),
  );
  await symptom(page, 'never to be taken');
  await symptom(page, 'taken all the same');
  await expect(page.getByRole('button', { name: '1 not stored' })).toBeVisible();
  await expect(page.getByText('all stored')).toBeHidden();
  await expect(page.getByText('taken all the same')).toBeVisible();
  await visit(page, '/');
  await page.getByRole('button', { name: '1 not stored' }).click();
  const tray = page.getByRole('dialog', { name: 'Not stored' });
  await expect(tray).toContainText('never to be taken');
  await expect(tray).toContainText('this version does not know it');
  await tray.getByRole('button', { name: 'Understood' }).click();
  await expect(page.getByText('all stored')).toBeVisible();
});

test('a picture taken while the server is away waits with the rest', async ({ page }) => {
  await openCase(page, CASE, 'take-in');
  await server.stop('SIGKILL');
  await expect(page.getByText(/server does not answer/)).toBeVisible();
  await page
    .getByLabel('Add pictures')
    .setInputFiles(new URL('../../data/demo/pictures/cr40-board.jpg', import.meta.url).pathname);
  await expect(page.getByRole('button', { name: /cr40-board waits to be sent/ })).toBeVisible();
  // It is there to be looked at, and to pin a note on, before the server has it.
  await page.getByRole('button', { name: /cr40-board waits to be sent/ }).click();
  const shown = page.getByRole('dialog').getByRole('img', { name: 'cr40-board' });
  await expect
    .poll(() => shown.evaluate((element) => (element as HTMLImageElement).naturalWidth))
    .toBeGreaterThan(0);
  await page.keyboard.press('Escape');
  await server.start();
  await expect(page.getByText('all stored')).toBeVisible();
  const image = page.getByRole('img', { name: 'cr40-board' });
  await expect(image).toHaveAttribute('src', /\/api\/pictures\//);
  await expect
    .poll(() => image.evaluate((element) => (element as HTMLImageElement).naturalWidth))
    .toBeGreaterThan(0);
});

test('what is in stock can be looked up while the server is away, and nothing is taken', async ({
  page,
}) => {
  const number = await openCase(page, /still hunts/, 'repair');
  await kept(page);
  const look = async (): Promise<void> => {
    await page.getByLabel('Another part came off').fill('C1');
    await page.keyboard.press('Enter');
    await page.getByText('What do I have for C1?').click();
  };
  await look();
  const take = page.getByRole('button', { name: /^Take / }).first();
  await expect(take).toBeEnabled();
  await server.stop('SIGKILL');
  await visit(page, `/case/${number}/repair`);
  await page.getByText('What do I have for C1?').click();
  await take.click();
  await expect(page.getByText(/workshop server does not answer/).first()).toBeVisible();
  await expect(take).toBeEnabled();
  await server.start();
});
