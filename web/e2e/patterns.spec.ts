import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { alive, openCase, visit } from './open-case';
import { Server } from './server';

// What the workshop learned, from the list of patterns to the line-up of a case.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

test('a pattern is found in an owner’s words, leads to its cases, and a case can be doubted', async ({
  page,
}) => {
  await visit(page, '/patterns');
  await page.getByLabel('What is seen').fill('dead, tray stays shut');
  const found = page.getByRole('list', { name: 'Patterns' });
  await expect(found.getByRole('heading').first()).toContainText('no movement');
  await expect(found.getByText(/of \d+ here \(\d+ to \d+ %\), .* before/).first()).toBeVisible();
  const ends = page.getByRole('region', { name: 'What boards died of' });
  const power = ends.getByRole('row', { name: /PD3-POW/ });
  await expect(power).toContainText('6 of 6');
  await expect(power).toContainText('the usual end');
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);

  // Doubted by the keyboard: one case less.
  await page.getByText('Case by case').focus();
  await page.keyboard.press('Enter');
  const doubted = page.getByRole('row', { name: /PD-3 power board no\. 200/ });
  await doubted.getByRole('checkbox').focus();
  await page.keyboard.press('Space');
  await expect(power).toContainText('5 of 5');
  await page.getByRole('checkbox', { name: /go by closed cases/ }).click();
  await expect(page.getByText('Switched off: the rate table alone.')).toBeVisible();
  await expect(ends).toContainText('No case with a sheet');
  await page.getByRole('checkbox', { name: /go by closed cases/ }).click();
  await expect(power).toContainText('5 of 5');
  await doubted.getByRole('checkbox').click();
  await expect(power).toContainText('6 of 6');

  // One of our own, with what is missing said.
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText('say what is seen')).toBeVisible();
  await page.getByLabel('Seen', { exact: true }).fill('ticks every second, dead');
  await page.getByLabel('It was, in usual order').fill('D1, then C1');
  await page.keyboard.press('Enter');
  await expect(page.getByText('D1, then C1')).toBeVisible();
});

test('what a board always dies of is said before the first reading, and at a new case', async ({
  page,
}) => {
  await openCase(page, /PD-3 power board, both lamps dark/, 'trace');
  await expect(page.getByText(/6 of 6 closed cases of this board ended at/)).toBeVisible();
  await expect(page.getByText('Seen before:')).toBeVisible();
  await page.goto('/case/new');
  await alive(page);
  await page.getByLabel('Title').fill('CR-40, gives up after three tries');
  await page.getByLabel('Serial').fill('YC2-0245');
  const known = page.getByRole('region', { name: 'Known before' });
  // The unit that came back is there twice, beside what it looks like.
  await expect(known).toContainText('YC-2 no. 245');
  await expect(known).toContainText('closed: it came back');
  await expect(known.getByRole('link', { name: /gives up after three tries/ })).toBeVisible();
});

test('a circuit says what is behind what is seen, and the shop’s figures lead to their cases', async ({
  page,
}) => {
  await visit(page, '/patterns');
  await page.getByText('First tests, usual parts').first().click();
  await expect(page.getByText('What it was here:').first()).toBeVisible();
  const board = page.getByLabel('Board sheet');
  const option = board.locator('option', { hasText: 'CR40-SRV' }).last();
  await board.selectOption((await option.getAttribute('value'))!);
  await expect(page.getByText('Being worked out')).toBeVisible();
  const computed = page.getByRole('list', { name: 'Computed patterns' });
  await expect(computed.getByRole('heading').first()).toBeVisible({ timeout: 90_000 });
  await expect(computed.getByText(/of the faults of this sheet show it/).first()).toBeVisible();

  await page.getByRole('link', { name: 'The shop’s own figures' }).click();
  const back = page.getByRole('region', { name: 'Back within the guarantee' });
  await expect(back.getByRole('row', { name: /the one part/ })).toContainText(/1 of \d+/);
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  await back.getByRole('link').first().click();
  await expect(page.getByRole('button', { name: 'Save as PDF' })).toBeVisible();

  // Its batch goes back together, on one note.
  await page.goto('/?find=' + encodeURIComponent('"batch: stores shelf 2"'));
  await alive(page);
  await page.getByLabel('Find a case').fill('"batch: stores shelf 2"');
  await page.getByRole('link', { name: /Delivery note of stores shelf 2/ }).click();
  const note = page.getByRole('article');
  await expect(note).toContainText('Units');
  await expect(note.getByRole('row', { name: /C5 replaced/ })).toHaveCount(3);
  await expect(note).toContainText('126.00 for 3 of 3');
});
