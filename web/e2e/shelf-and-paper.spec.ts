import { expect, test } from '@playwright/test';
import { follow, openCase, toStage, visit } from './open-case';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

test('several units alike become a batch by the keyboard alone, and the docket shows it by itself', async ({
  page,
}) => {
  await visit(page, '/case/new');
  await expect(page.getByLabel('Title')).toBeFocused();
  await page.keyboard.type('Shuttle lamp, dark');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Brackwater shuttle lamp');
  await page.getByLabel('How many like it').fill('0');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('How many like it')).toHaveAccessibleDescription('at least one');
  await expect(page).toHaveURL(/\/case\/new$/);
  await page.getByLabel('How many like it').fill('3');
  await page.getByLabel('Name of the batch').fill('loom lamps');
  await page.keyboard.press('Enter');
  await expect(page).not.toHaveURL(/\/case\/new$/);
  await visit(page, '/');
  const alike = page.getByRole('row', { name: /Shuttle lamp, dark/ });
  await expect(alike).toHaveCount(3);
  await alike.first().getByRole('button', { name: 'batch: loom lamps' }).press('Enter');
  await expect(page.getByRole('row')).toHaveCount(4);
  // Words by themselves also find the loom hall whose lamps are steady.
  await expect(page.getByPlaceholder(/find by unit/)).toHaveValue('"batch: loom lamps"');
  await page.getByPlaceholder(/find by unit/).fill('loom lamps');
  await expect(page.getByRole('row')).not.toHaveCount(4);
});

test('a fault that comes with the warmth is told from one that does not, and says how many clean starts prove a cure', async ({
  page,
}) => {
  await visit(page, '/case/new');
  await page.getByLabel('Title').fill('YC-2, stops when warm');
  await page.getByLabel('Unit', { exact: true }).fill('Brackwater YC-2 carriage');
  await expect(page.getByLabel('Kind of unit')).toHaveValue('stepper-carriage');
  await follow(page, page.getByRole('button', { name: 'Open the case' }));
  for (let i = 0; i < 8; i += 1) {
    const warm = i % 2 === 0;
    await page
      .getByRole('radio', { name: warm ? /^(?!it does them all)/ : 'it does them all' })
      .last()
      .check();
    await page.getByLabel('Other conditions').fill(warm ? 'sun on the case' : 'shade');
    await page.getByRole('button', { name: 'Add the start' }).click();
    await expect(page.getByRole('region', { name: /^Starts/ })).toContainText(`${i + 1}.`);
  }
  await toStage(page, 'Swaps');
  const starts = page.getByRole('region', { name: 'Starts' });
  await expect(starts).toContainText('8 in the log, 4 failed');
  // Four of four against none of four: two of the seventy ways to deal four failures out over eight
  // starts, 2.9 %.
  const row = starts.getByRole('row', { name: /sun on the case/ });
  await expect(row).toContainText('4 of 4 / 0 of 4');
  await expect(row).toContainText('3 %');
  await expect(row).toContainText('fails with it');
  await expect(starts.getByRole('row', { name: /shade/ })).toContainText('fails without it');
  // Four of eight failed: six clean ones in a row leave less than one in twenty (beta-binomial).
  await expect(starts).toContainText('6 clean starts in a row');
});

test('the report goes to paper without what belongs to the screen', async ({ page }) => {
  await openCase(page, /dead after a jolt/, 'hand-back');
  const report = page.getByRole('article').or(page.locator('main')).first();
  await expect(report).toContainText('Complaint');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Stages of the case' })).toBeHidden();
  await expect(page.getByLabel('Reading', { exact: true })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Print it' })).toBeHidden();
  await expect(report).toContainText('Complaint');
  const paper = await page.pdf({ format: 'A4' });
  expect(paper.subarray(0, 5).toString()).toBe('%PDF-');
  expect(paper.length).toBeGreaterThan(10_000);
  await page.emulateMedia({ media: 'screen' });
  await expect(page.getByRole('button', { name: 'Print it' })).toBeVisible();
});
