import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { visit } from './open-case';
import { Server } from './server';

// The whole workshop as open files, asked for on the screen; the server dies meanwhile.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

test('the archive is made although the server is killed, is fetched, and is taken in once', async ({
  page,
}) => {
  test.slow();
  await visit(page, '/workshop');
  await page.getByRole('button', { name: 'Make the archive' }).click();
  const list = page.getByRole('list', { name: 'What was asked for in the last day' });
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await server.stop('SIGKILL');
  await server.start();
  await expect(list.getByText(/: made, \d/)).toBeVisible({ timeout: 60_000 });
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    list.getByRole('link', { name: 'Take it along' }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/^hanzai-workshop-[\d-]+\.tar\.gz$/);
  const archive = readFileSync((await download.path())!);
  expect(archive.subarray(0, 2)).toEqual(Buffer.from([0x1f, 0x8b]));
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id }) => id)).toEqual([]);

  const take = async (name: string, bytes: Buffer): Promise<void> => {
    await page
      .getByLabel('An archive of another workshop')
      .setInputFiles({ name, mimeType: 'application/gzip', buffer: bytes });
    await page.getByRole('button', { name: 'Take it in' }).click();
  };
  await take('same.tar.gz', archive);
  await expect(list.getByText('Nothing came in: all of it was here already.')).toBeVisible();
  await take('half.tar.gz', archive.subarray(0, archive.length / 2));
  await expect(list.getByText(/^Nothing was changed: /)).toBeVisible();
  // What has ended can be forgotten; the keyboard alone does it.
  await list.getByRole('button', { name: 'Forget half.tar.gz' }).focus();
  await page.keyboard.press('Enter');
  await expect(list.getByRole('listitem')).toHaveCount(2);
});
