import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { follow, openCase, visit } from './open-case';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

test('a sheet is taken out in every format and comes back in with the same parts', async ({
  page,
}) => {
  await visit(page, '/boards');
  // What comes back in has the same title, but another source.
  const sheet = page
    .getByRole('row', { name: /12 V rail, sheet 2/ })
    .filter({ hasNotText: 'again.' });
  const parts = Number(await sheet.getByRole('cell').first().textContent());
  expect(parts).toBeGreaterThan(10);
  for (const [words, ending] of [
    ['deck', 'cir'],
    ['JSON', 'json'],
    ['test netlist', 'ipc'],
    ['parts list', 'csv'],
  ] as const) {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      sheet.getByRole('link', { name: words, exact: true }).click(),
    ]);
    expect(download.suggestedFilename()).toMatch(new RegExp(`\\.${ending}$`));
    const buffer = await readFile(await download.path());
    await page
      .getByLabel('From a file')
      .setInputFiles({ name: `again.${ending}`, mimeType: 'application/octet-stream', buffer });
    await page.getByRole('button', { name: 'Import the text' }).click();
    const said = page.getByText(/is in: \d+ parts/);
    await expect(said).toBeVisible();
    // No part is lost on the way. A netlist does not say that the sheet's one supply is none, so
    // there it counts.
    expect(Number(/in: (\d+) parts/.exec((await said.textContent())!)![1]), ending).toBe(
      ending === 'ipc' ? parts + 1 : parts,
    );
    await page.reload();
  }
});

test('lists of work and of other readings leave the line-up in sight, and another reading is chosen by keyboard', async ({
  page,
}) => {
  await openCase(page, /no movement and no eject/, 'trace');
  const lineUp = page.getByRole('heading', { name: 'Line-up' });
  await expect(lineUp).toBeVisible();
  await page.getByText('Weighing what to measure next').waitFor({ state: 'hidden' });
  const [work, others] = [
    page.getByText('Or act now'),
    page.getByText('Other readings worth taking'),
  ];
  await work.click();
  await expect(page.getByRole('region', { name: /Or act now/ })).toBeVisible();
  await expect(lineUp).toBeInViewport();
  // One list at a time.
  await others.focus();
  await page.keyboard.press('Enter');
  const list = page.getByRole('region', { name: /Other readings/ });
  await expect(list).toBeVisible();
  await expect(page.getByRole('region', { name: /Or act now/ })).toBeHidden();
  await expect(lineUp).toBeInViewport();
  const first = list.getByRole('button').first();
  const points = (await first.locator('.mono').textContent())!;
  await first.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'What to do next' })).toContainText(points);
  // The strip now asks for that reading's value.
  await expect(page.getByLabel('Reading', { exact: true })).toHaveAttribute(
    'placeholder',
    new RegExp(points.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')),
  );
});

test('a verdict can be taken back, and stays so', async ({ page }) => {
  await openCase(page, /no movement and no eject/, 'trace');
  const leader = page
    .getByRole('region', { name: 'Line-up of suspects' })
    .locator('ol > li')
    .first();
  await leader.getByRole('button', { name: /^Condemn / }).click();
  await expect(page.getByText(/^Condemned: /)).toBeVisible();
  await leader.getByRole('button', { name: /Take the verdict on .* back/ }).click();
  await expect(page.getByText(/^Condemned: /)).toBeHidden();
  await expect(page.getByText('all stored')).toBeVisible();
  await page.reload();
  await expect(leader.getByRole('button', { name: /^Condemn / })).toBeVisible();
});

test('a part that is condemned already is not offered for condemning again', async ({ page }) => {
  await openCase(page, /loses steps/, 'trace');
  const next = page.getByRole('region', { name: 'What to do next' });
  await expect(next).toContainText('Enough measured: replace C6');
  await expect(next.getByRole('button', { name: 'Condemn C6' })).toHaveCount(0);
  await follow(page, next.getByRole('link', { name: 'repair it' }));
  await expect(page.getByRole('heading', { name: 'Off and on' })).toBeVisible();
});

test('the map of a logic board shows what the question is about and pins levels on it', async ({
  page,
}) => {
  await openCase(page, /lamps steady, no boot/, 'trace');
  const drawing = page.getByRole('region', { name: 'Map of the circuit' }).locator('svg');
  // A probe found RES low where a sound board has it high; of the chip that drives it only the nets
  // in question are drawn.
  await expect(drawing).toContainText('not 1');
  await expect(drawing).toContainText(/and \d+ more/);
  await expect(drawing).not.toContainText('HCLKI');
  const map = page.getByRole('region', { name: 'Map of the circuit' });
  // The whole sheet is paged through: each page says which it is, and the last is not the first.
  await page.getByRole('button', { name: 'Whole sheet' }).click();
  await expect(map.getByText(/^1 of \d+$/)).toBeVisible();
  const first = await drawing.textContent();
  await map.getByRole('button', { name: 'Next area' }).click();
  await expect(map.getByText(/^2 of \d+$/)).toBeVisible();
  await expect.poll(() => drawing.textContent()).not.toBe(first);
  // A net is asked for by name, wherever it is.
  await page.getByLabel(/Show on the map/).fill('hclki');
  await expect(drawing).toContainText('HCLKI');
  await page.getByLabel(/Show on the map/).fill('res');
  // Into the drawing by keyboard: what one comes to says what a sound board shows there.
  await map.getByRole('group', { name: /^Drawing/ }).focus();
  await page.keyboard.press('Enter');
  await page.locator('[data-item="n:RES"]').first().focus();
  await expect(map).toContainText(/RES, sound board: \d/);
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Reading', { exact: true })).toHaveValue('res ');
});
