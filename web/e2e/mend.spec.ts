import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { caseOf, openCase, toStage, visit } from './open-case';
import { Server } from './server';

// From the guilty part to the mended board: decide, fit from stock, adjust, and the way back.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

const SHEET = [
  'J1 5V in: 1=P5 2=0',
  'R1 P5 A 1k pos=10,10',
  'C1 A 0 100u 16V electrolytic pos=20,10',
  'C2 P5 0 100u 16V electrolytic pos=40,10',
  'R2 A 0 10k pos=30,10',
].join('\n');

async function accessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
}

test('a part is condemned, decided on with a reason, replaced out of stock, and what is out is said', async ({
  page,
}) => {
  const number = await caseOf(page, SHEET, 'repair');
  await page.getByLabel('Another part came off').fill('C1');
  await page.keyboard.press('Enter');
  const card = page.getByRole('form', { name: 'Part C1' });
  await expect(card).toContainText('off the board');
  const out = page.getByRole('status').filter({ hasText: /^Out:/ });
  await expect(out).toContainText('off the board: C1');

  // What does not fit is refused with its figure, and the reason would be kept.
  await card.getByLabel('What goes on').fill('100u 10V electrolytic');
  await expect(card).toContainText('10 V is below the 16 V of the one that came off');
  await card.getByText('What do I have for C1?').click();
  // The demo’s own bag of them is empty.
  await expect(
    card.getByRole('button', { name: /^Take 100u 16V electrolytic 85C/ }),
  ).toBeDisabled();

  // It arrives: the stock takes it in, and the case takes it out again.
  await visit(page, '/stock');
  await page
    .getByLabel('What it is')
    .fill('100u 25V electrolytic 105C esr=0.2 h=11 d=6.3 pitch=2.5');
  await expect(page.getByText('Understood as capacitor.')).toBeVisible();
  await page.getByLabel('How many', { exact: true }).fill('2');
  await page.getByLabel('Bin').fill('Z9');
  await page.getByRole('button', { name: 'Write it down' }).click();
  // Another case waited for such a one: it is kept for it, and the docket wakes it.
  await expect(page.getByText(/waited for something that this may do for/)).toBeVisible();
  await page.getByLabel('What do I have for').fill('100u 16V electrolytic');
  const lot = page.getByRole('row', { name: /100u 25V electrolytic 105C/ });
  await expect(lot).toContainText('Z9');
  await expect(page.getByRole('region', { name: 'What open cases need' })).toContainText(
    `case ${number}, C1`,
  );
  await accessible(page);

  await visit(page, `/case/${number}/repair`);
  await card.getByText('What do I have for C1?').click();
  await card.getByRole('button', { name: /^Take 100u 25V/ }).click();
  await expect(card.getByLabel('What goes on')).toHaveValue(/100u 25V/);
  await expect(card.getByRole('button', { name: /^Take 100u 25V/ })).toBeDisabled();
  // How the old one sat was not written down here; how the new one sits is.
  await expect(card).toContainText('How the old one sat was not written down.');
  await card.getByLabel('How it sits now').fill('minus left');
  await card.getByText('How C1 comes off and goes on').click();
  await expect(card).toContainText('No cold pulling');
  await card.getByLabel('A pad is gone').selectOption('1');
  await expect(card.getByRole('row', { name: /R2.1/ })).toContainText('mΩ');
  await card.getByRole('checkbox').last().check();
  await card.getByRole('button', { name: 'C1 went on' }).click();
  await expect(out).toHaveCount(0);

  // A swab keeps the case open until it is out.
  await page.getByLabel('Laid in', { exact: true }).fill('swab under R2');
  await page.keyboard.press('Enter');
  await visit(page, '/?find=loses%20steps');
  await expect(page.getByRole('row', { name: /loses steps when warm/ })).toContainText(
    'here: 100u 25V electrolytic',
  );
  await visit(page, `/case/${number}/repair`);
  await toStage(page, 'Hand back');
  await expect(page.getByText(/still in the unit: swab under R2/).first()).toBeVisible();
});

test('courses stand side by side, one is chosen by the keyboard, and the owner’s word sets the limit', async ({
  page,
}) => {
  await openCase(page, /gives up after three/, 'decide');
  const table = page.getByRole('region', { name: 'What to do about it' });
  await expect(table.getByRole('row')).not.toHaveCount(2, { timeout: 30_000 });
  await table.getByRole('button', { name: /^Choose: take it off and test it/ }).press('Enter');
  await page.keyboard.type('its brothers read half of it');
  await page.keyboard.press('Enter');
  await expect(
    page.getByText(/take it off and test it\. “its brothers read half of it”/),
  ).toBeVisible();
  await page.getByLabel('Agreed to').fill('take it off and test it');
  await page.getByLabel('Up to').fill('40');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Stop and ask:|Ask first:/)).toBeVisible();
  await expect(page.getByLabel('Message')).toHaveValue(/We agreed on 40/);
  await accessible(page);
});

test('a setting without a first place is not turned; the search proposes, one press goes all the way back', async ({
  page,
}) => {
  await openCase(page, /still hunts/, 'adjust');
  await expect(page.getByRole('row', { name: /spindle phase/ })).toContainText('20° clockwise');
  const search = page.getByRole('region', { name: 'Search' });
  await search.getByRole('button', { name: 'Into the form' }).first().click();
  await expect(page.getByLabel('Degrees')).not.toHaveValue('');
  // Larger than a tenth at a time: it asks why.
  await page.getByLabel('Degrees').fill('80');
  await page.getByRole('button', { name: 'Enter the turn' }).click();
  await expect(page.getByRole('form', { name: 'A turn' }).getByRole('alert')).toContainText(
    'say why',
  );
  await page.getByRole('button', { name: 'All of it is turned back' }).click();
  await expect(page.getByRole('row', { name: /spindle phase/ })).toContainText('as found');
  await expect(page.getByRole('status').filter({ hasText: /^Out:/ })).toHaveCount(0);
  await accessible(page);
});
