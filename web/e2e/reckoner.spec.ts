import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { openCase, visit } from './open-case';
import { Server } from './server';

// The reckoner: its own place, its address, and its answer as a note of a case.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

test('reckons while one types, by the keyboard alone, and the address carries it on', async ({
  page,
}) => {
  await visit(page, '/reckoner');
  await page.getByLabel('Find').fill('bleeder');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  const one = page.getByRole('article', { name: 'Discharge and bleeder' });
  await expect(one.getByText(/Measure it with a meter/)).toBeVisible();
  await one.getByLabel('Volts on it').fill('325');
  await page.keyboard.press('Tab');
  await page.keyboard.type('220u 20%');
  await expect(one.getByText(/11\.62 J/).first()).toBeVisible();
  await expect(one.getByText(/95 %: .* J to .* J/)).toBeVisible();
  await one.getByLabel('Over a range of').selectOption({ label: 'Bleeder' });
  await expect(one.getByRole('img', { name: /time over Bleeder/ })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  // The same numbers for whoever gets the link.
  const address = page.url();
  await visit(page, '/');
  await page.goto(address);
  await expect(page.getByLabel('Volts on it')).toHaveValue('325');
  await page.getByLabel('Volts on it').fill('much');
  await expect(page.getByRole('alert')).toContainText('expected a number of volts such as 3V3');
});

test('stands where it is needed, and files its answer as a note', async ({ page }) => {
  await openCase(page, /PD-3 power board, both lamps dark/, 'repair');
  await page.getByText('Reckon here').click();
  await page.getByRole('button', { name: 'Wire and jumper' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Length').fill('40mm');
  await dialog.getByRole('button', { name: 'File it as a note' }).click();
  await expect(dialog).toBeHidden();
  await page.goto(page.url().replace('/repair', '/take-in'));
  await expect(page.getByText(/^Wire and jumper: .*Length 40mm/)).toBeVisible();
});
