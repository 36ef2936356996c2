import { spawn, type ChildProcess } from 'node:child_process';
import { expect, test, type Page } from '@playwright/test';
import { copyCase } from './open-case';
import { Server } from './server';

const server = new Server();
let bench: ChildProcess | undefined;
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());
test.afterEach(() => bench?.kill());

const strip = (page: Page) => page.getByLabel('Reading', { exact: true });
const bar = (page: Page) => page.getByRole('region', { name: 'Live meter' });
const card = (page: Page) => page.getByRole('region', { name: 'What to do next' });

async function connect(page: Page, choose: () => Promise<void>): Promise<void> {
  await page.getByRole('button', { name: 'Take readings from a meter' }).click();
  await choose();
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
}

test('a hidden fault is traced through the simulated bench with the space bar alone', async ({
  page,
}) => {
  await copyCase(page, /no movement and no eject/, 'trace');
  await connect(page, () => page.getByLabel('What is wrong with it').fill('F1:open'));
  await expect(bar(page)).toContainText('simulated bench');
  // Readings of another board than that whose two are filed: both have F1 open, so they agree.
  const filed = page.getByRole('region', { name: 'Readings' }).getByRole('row');
  let rows = await filed.count();
  for (
    let i = 0;
    i < 8 &&
    !(await card(page)
      .getByText(/Enough measured/)
      .isVisible());
    i += 1
  ) {
    await page.getByText('Weighing what to measure next').waitFor({ state: 'hidden' });
    await page.getByRole('button', { name: 'Put the probes there' }).click();
    await expect(bar(page)).toContainText(/held in the line|at rest\./);
    await strip(page).focus();
    // What probes in the air show too is asked for by a press of its own.
    if (await bar(page).getByText('at rest.').isVisible()) await page.keyboard.press('Space');
    await expect(strip(page)).not.toHaveValue('');
    await page.keyboard.press('Space');
    await expect(filed).toHaveCount(rows + 1);
    rows += 1;
  }
  await expect(card(page)).toContainText('F1');
  await expect(card(page)).toContainText(/Enough measured/);
  await expect(page.getByRole('region', { name: 'Readings' })).toContainText(
    'by Hanzai simulated bench',
  );
  await page.getByRole('button', { name: 'Tell what is wrong with it' }).click();
  await expect(bar(page)).toContainText('On it: F1:open');
});

test('a meter on the network is read, and said to be gone when it is', async ({ page }) => {
  bench = spawn(
    process.execPath,
    ['cli/bin/hanzai.mjs', 'simulate', 'data/demo/boards/cr40-srv.cir', '--port', '0'],
    { cwd: process.env.E2E_ROOT, stdio: ['ignore', 'pipe', 'ignore'] },
  );
  const port = await new Promise<string>((resolve) =>
    bench!.stdout!.on('data', (data) => {
      const found = /port (\d+)/.exec(String(data))?.[1];
      if (found) resolve(found);
    }),
  );
  await copyCase(page, /no movement and no eject/, 'trace');
  const address = async (to: string) => {
    await page.getByText('On the network').click();
    await page.getByLabel('Address').fill(to);
  };
  // Not on the list; then nobody there; then the bench.
  await connect(page, () => address('198.51.100.7:5025'));
  await expect(bar(page)).toContainText('not on this workshop');
  await page.getByRole('button', { name: 'Connect again' }).click();
  await address(`127.0.0.1:${port}`);
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(bar(page)).toContainText('Hanzai simulated bench');
  // Its probes are in the air: volts near nothing are shown, and not put into the line.
  await expect(bar(page)).toContainText('at rest.');
  await expect(strip(page)).toHaveValue('');
  bench.kill('SIGKILL');
  await expect(bar(page)).toContainText('is gone');
  await expect(strip(page)).toHaveValue('');
});
