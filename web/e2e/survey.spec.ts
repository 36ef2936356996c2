import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { caseOf, openCase, visit } from './open-case';
import { atPace } from './pace';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

/** Ten filters of two capacitors each, 20 mm apart. */
const SHEET = [
  'J1 5V in: 1=N0 2=0',
  ...Array.from({ length: 10 }, (_, i) => [
    `R${i + 1} N${i} N${i + 1} 1k pos=${20 * i},5`,
    `C${2 * i + 1} N${i + 1} 0 47u 16V electrolytic pos=${20 * i},10`,
    `C${2 * i + 2} N${i + 1} 0 100n pos=${20 * i},20`,
  ]).flat(),
].join('\n');

const strip = (page: Page) => page.getByLabel('Reading', { exact: true });
const pane = (page: Page) => page.getByRole('region', { name: 'Capacitors', exact: true });
async function put(page: Page, text: string): Promise<void> {
  await strip(page).fill(text);
  await page.keyboard.press('Enter');
}

test('twenty capacitors are surveyed at a person’s pace in under four minutes', async ({
  page,
}) => {
  await caseOf(page, SHEET, 'trace');
  await strip(page).press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('s');
  await expect(pane(page)).toContainText('of 20 read');
  await expect(pane(page)).toContainText('zero the meter first');
  await put(page, 'zero 0.02');
  await expect(pane(page)).toContainText('The leads add 20 mΩ');
  const started = Date.now();
  for (let i = 0; i < 20; i += 1) {
    // The probes go to the next part, and a person types what the meter shows.
    await page.waitForTimeout(atPace(1500));
    await strip(page).pressSequentially(i === 3 ? '-' : `0.${11 + i}`, { delay: atPace(150) });
    await page.keyboard.press('Enter');
    await expect(pane(page)).toContainText(`${i < 3 ? i + 1 : i} of 20 read`);
  }
  const seconds = (Date.now() - started) / 1000;
  // Probing takes a person three or four seconds rather than one and a half: as much again is left.
  expect(seconds).toBeLessThan(120);
  await expect(pane(page)).toContainText('19 of 20 read');
  await expect(pane(page).getByRole('cell', { name: 'out of reach' })).toBeVisible();
  await expect(
    pane(page)
      .getByText(/would read like this by itself: lift its leg/)
      .first(),
  ).toBeVisible();
  await pane(page).getByRole('button', { name: 'Chart' }).click();
  await expect(
    pane(page).getByRole('img', { name: /ESR against capacitance of 19/ }),
  ).toBeVisible();
  await pane(page).getByRole('button', { name: 'How far' }).click();
  await expect(pane(page)).toContainText('The line falls at');
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze();
  expect(violations.map(({ id, nodes }) => `${id} ${nodes[0]?.html}`)).toEqual([]);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    pane(page).getByRole('button', { name: 'CSV' }).click(),
  ]);
  const csv = await readFile(await download.path(), 'utf8');
  expect(csv.trim().split('\r\n')).toHaveLength(21);
});

test('a unit without a sheet is surveyed from a quick list', async ({ page }) => {
  await openCase(page, /dead, no sheet/, 'trace');
  await page
    .getByLabel('One a line: its name, value, volts')
    .fill('C1 470u 16V electrolytic\nC2 470u 16V electrolytic\nC3 470u 16V electrolytic\nR1 10k');
  await page.getByRole('button', { name: 'Begin the survey' }).click();
  await expect(page.getByText('Now C1: its ESR and Enter below')).toBeVisible();
  await expect(page.getByText('Not understood: line 4')).toBeVisible();
  await put(page, '0.03 0.04 1.03');
  await expect(page.getByRole('row', { name: /^C3/ })).toContainText('BAD');
  await page.getByRole('button', { name: 'Choose' }).first().click();
  await expect(page.getByRole('row', { name: 'the bad ones 1: C3' })).toHaveAttribute(
    'aria-current',
    'true',
  );
});

test('an instrument is written down, taken into use, and its name stands by what it read', async ({
  page,
}) => {
  await caseOf(page, 'J1 9V in: 1=VIN 2=0\nR1 VIN A 1k\nR2 A 0 1k', 'take-in');
  const number = /case\/(\d+)/.exec(page.url())![1]!;
  await visit(page, '/instruments');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText(/what it is called/)).toBeVisible();
  await page.getByLabel('Name').fill('yellow hand meter');
  await page.getByLabel('Volts: ± percent').fill('5');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'volts ±(5 % + 2)' })).toBeVisible();
  await visit(page, `/case/${number}/trace`);
  await strip(page).fill('a 4.5');
  const standard = await page.locator('#strip-says').textContent();
  await strip(page).fill('');
  await page.getByRole('button', { name: 'Take readings from a meter' }).click();
  await page.getByRole('button', { name: 'Read with yellow hand meter' }).click();
  await expect(page.getByText(/In use: yellow hand meter \(volts/)).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await strip(page).fill('a 4.5');
  // The band is that of the meter in use.
  await expect(page.locator('#strip-says')).toContainText('sound: 4.50 V');
  await expect(page.locator('#strip-says')).not.toHaveText(standard ?? '');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Readings' })).toContainText(
    'by yellow hand meter',
  );
});

test('a guided check is filed by keyboard, moves the line-up, and is taken back', async ({
  page,
}) => {
  await caseOf(
    page,
    'J1 9V in: 1=VIN 2=0\nL1 VIN A 47u dcr=12\nR1 A 0 100\nL2 A B 47u dcr=12\nR2 B 0 100',
    'trace',
  );
  await strip(page).press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('k');
  const checks = page.getByRole('region', { name: 'Guided checks' });
  await checks.getByLabel('which part').fill('L2');
  await checks.getByLabel(/tap to the first end/).fill('12');
  await checks.getByLabel(/tap to the second end/).fill('OL');
  await checks.getByLabel(/^end to end, Ω/).fill('OL');
  await expect(checks).toContainText('second end is open');
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze();
  expect(violations.map(({ id, nodes }) => `${id} ${nodes[0]?.html}`)).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(checks).toContainText('L2, coil with a centre tap: bad');
  await expect(
    page.getByRole('region', { name: 'Line-up of suspects' }).getByText('L2').first(),
  ).toBeVisible();
  await checks.getByRole('button', { name: /^Take back: L2/ }).click();
  await expect(checks).not.toContainText('L2, coil with a centre tap: bad');
});
