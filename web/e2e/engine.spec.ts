import { expect, test, type Browser } from '@playwright/test';
import { openCase, visit } from './open-case';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

/** The shared workers that are alive, each by a name of its own. */
async function sharedWorkers(browser: Browser): Promise<string[]> {
  const session = await browser.newBrowserCDPSession();
  const { targetInfos } = await session.send('Target.getTargets');
  await session.detach();
  return targetInfos.filter(({ type }) => type === 'shared_worker').map(({ targetId }) => targetId);
}

test('the engine outlives the page: the stages of a case share it, and it works ahead', async ({
  page,
  browser,
}) => {
  const next = page.getByRole('region', { name: 'What to do next' });
  const number = await openCase(page, /loses steps/, 'look');
  // Nothing on this page needs the engine: it starts by itself.
  await expect.poll(() => sharedWorkers(browser)).toHaveLength(1);
  const before = await sharedWorkers(browser);
  for (const stage of ['trace', 'repair', 'trace']) {
    await visit(page, `/case/${number}/${stage}`);
    if (stage === 'trace') await expect(next).toContainText('Enough measured: replace C6');
  }
  await visit(page, '/boards');
  await openCase(page, /no movement and no eject/, 'trace');
  await expect(next).toContainText('Measure next');
  expect(await sharedWorkers(browser)).toEqual(before);
});

test('two tabs on one case each get their answers', async ({ page, context }) => {
  const number = await openCase(page, /loses steps/, 'trace');
  const other = await context.newPage();
  await visit(other, `/case/${number}/trace`);
  for (const tab of [page, other])
    await expect(tab.getByRole('region', { name: 'What to do next' })).toContainText(
      'Enough measured: replace C6',
    );
  // What one files shows in its own line-up; the other goes on with what it had.
  await page.getByLabel('Reading', { exact: true }).fill('c4 0.9 esr');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('row', { name: /across C4/ })).toHaveCount(2);
  await expect(page.getByRole('region', { name: 'What to do next' })).toContainText(
    'Enough measured: replace C6',
  );
  await expect(page.getByRole('region', { name: 'Line-up of suspects' })).toContainText('C4');
  await other.close();
});

test('a browser without shared workers traces with a worker of the page', async ({
  page,
  browser,
}) => {
  await page.addInitScript(() => Reflect.deleteProperty(globalThis, 'SharedWorker'));
  await openCase(page, /loses steps/, 'trace');
  await expect(page.getByRole('region', { name: 'What to do next' })).toContainText(
    'Enough measured: replace C6',
  );
  expect(await sharedWorkers(browser)).toEqual([]);
});
