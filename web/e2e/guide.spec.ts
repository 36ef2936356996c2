import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { visit } from './open-case';
import { Server } from './server';

// The guide is in the application, and every line of the reading line in it is one.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

test('the guide is a key away on every screen, whole, and leads back', async ({ page }) => {
  const errors: string[] = [];
  page.on('console', (message) => {
    if (message.type() === 'error') errors.push(message.text());
  });
  await visit(page, '/');
  await page.keyboard.press('?');
  await page.getByRole('link', { name: /a first repair in fifteen minutes/ }).click();
  await expect(
    page.getByRole('heading', { name: 'A first repair in fifteen minutes' }),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /run 24 of card 14/ })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Docket' })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  expect(errors).toEqual([]);
});
