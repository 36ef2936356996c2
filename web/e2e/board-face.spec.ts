import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { fileURLToPath } from 'node:url';
import { openCase, visit } from './open-case';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

const FACE = fileURLToPath(new URL('../../data/demo/pictures/face-yc2.jpg', import.meta.url));
const editor = (page: Page) => page.getByLabel('Sheet, one line one part');
const axe = async (page: Page) => {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
};

test('a board gets its outline, a picture laid on it by three corners, and its parts tapped onto it', async ({
  page,
}) => {
  await visit(page, '/boards/new');
  await editor(page).click();
  await page.keyboard.insertText(
    'title Shuttle picture\nJ1 12V in: 1=V12 2=0\nC1 V12 0 470u 16V\nU3 74LS14 1=A 2=B 14=V12 7=0\n',
  );
  await page.getByRole('button', { name: 'Store the sheet' }).click();
  await page.waitForURL(/\/boards\/[0-9a-f-]{36}$/);
  await page.getByRole('button', { name: 'Board and picture' }).click();
  await page.getByLabel('Width, mm').fill('wide');
  await page.getByRole('button', { name: 'That is its outline' }).click();
  await expect(page.getByText('“wide” is no width')).toBeVisible();
  await page.getByLabel('Width, mm').fill('100');
  await page.getByLabel('Height, mm').fill('36');
  await page.getByRole('button', { name: 'That is its outline' }).click();
  await expect(editor(page)).toContainText('outline 100 x 36');

  // What is no picture is refused; a picture is laid on by its corners, by tap and by keyboard.
  const file = page.getByLabel('Picture of the top');
  await file.setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: Buffer.from('no') });
  await expect(page.getByText('this is not a picture that can be read')).toBeVisible();
  await file.setInputFiles(FACE);
  const photo = page.getByRole('application', { name: /Picture of the top/ });
  await expect(page.getByText('Tap its upper left corner')).toBeVisible();
  const box = (await photo.boundingBox())!;
  await photo.click({ position: { x: 2, y: 2 } });
  await expect(page.getByText('Tap its upper right corner')).toBeVisible();
  await photo.click({ position: { x: box.width - 2, y: 2 } });
  await expect(page.getByText('Tap its lower left corner')).toBeVisible();
  for (let i = 0; i < 11; i += 1) await photo.press('Shift+ArrowLeft');
  for (let i = 0; i < 11; i += 1) await photo.press('Shift+ArrowDown');
  await photo.press('Enter');

  // The next part without a place is in hand; a tap places it, and the next one comes.
  const board = page.getByRole('application', { name: /The board, top side/ });
  await expect(page.getByText('Tap the middle of J1: 3 of 3 without a place')).toBeVisible();
  await board.click({ position: { x: 120, y: 120 } });
  await expect(page.getByText('Tap the middle of C1: 2 of 3 without a place')).toBeVisible();
  await board.click({ position: { x: 220, y: 120 } });
  await board.click({ position: { x: 330, y: 130 } });
  await expect(page.getByText('Every part has its place.')).toBeVisible();
  await expect(editor(page)).toContainText('package=DIP14');
  await page.getByLabel('Part in hand', { exact: true }).selectOption('U3');
  const line = async (): Promise<string> =>
    (await editor(page).innerText()).replace(/\s+/g, ' ').match(/U3 .*/)![0];
  const before = await line();
  await page.getByRole('button', { name: 'Turn it (R)' }).click();
  await expect.poll(line).not.toBe(before);
  await board.focus();
  const turned = await line();
  await board.press('ArrowRight');
  await expect.poll(line).not.toBe(turned);
  await axe(page);
  await page.getByRole('button', { name: 'Store as version 2' }).click();
  await expect(page.getByText('2 versions')).toBeVisible();
  // The picture belongs to the sheet, whatever its version.
  await page.getByRole('button', { name: 'Board and picture' }).click();
  await expect(page.locator('image[href^="/api/board-pictures/"]')).toHaveCount(1);
});

test('the board by position shows where the probes go next, and a part is picked on it', async ({
  page,
}) => {
  await openCase(page, /no movement and no eject/, 'trace');
  await expect(page.getByText(/A sound board shows/)).toBeVisible();
  await page.getByRole('button', { name: 'Board', exact: true }).click();
  const face = page.getByRole('region', { name: 'Board by position' });
  await expect(face.getByText(/the rings are where the probes go next/)).toBeVisible();
  await expect(page.locator('image[href^="/api/board-pictures/"]')).toHaveCount(1);
  await axe(page);
  await face.getByRole('button', { name: /^F1,/ }).click();
  await expect(page.getByLabel('Reading', { exact: true })).toHaveValue(/^f1 /);
  await face.getByRole('button', { name: /Turn it over/ }).click();
  await expect(face.getByRole('button', { name: 'Back to the top' })).toBeVisible();
  await face.getByRole('button', { name: 'Circuit' }).click();

  // A fault put on a copy of the board, beside what was read; the way from one point to another.
  await page
    .getByRole('button', { name: /^What if L1/ })
    .first()
    .click();
  const what = page.getByRole('region', { name: 'What if' });
  await expect(what.getByRole('status')).toContainText('What if L1');
  await expect(what.getByRole('status')).toContainText(/readings/);
  await what.getByLabel('Another fault, or two').fill('l2 open');
  await what.getByRole('button', { name: 'Ask' }).click();
  await expect(what.getByRole('alert')).toContainText('the board has no part l2');
  await what.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel(/Show on the map/).fill('p9f to vm');
  await expect(page.getByText('from P9F to VM')).toBeVisible();
});

test('a marking is read off the picture as a suggestion, and taken by a press', async ({
  page,
}) => {
  await visit(page, '/boards');
  await page
    .getByRole('link', { name: /PD3-POW/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Board and picture' }).click();
  await page.getByLabel('Part in hand', { exact: true }).selectOption('U2');
  await page.getByRole('button', { name: 'Read its marking off the picture' }).click();
  const offer = page.getByRole('button', { name: '74LS14?' });
  await expect(offer).toBeVisible({ timeout: 40_000 });
  // Nothing was taken by itself.
  await expect(page.getByText('as it is stored')).toBeVisible();
  await offer.click();
  await page.getByRole('button', { name: 'Table of parts' }).click();
  await page.getByLabel('Find', { exact: true }).fill('rstrc');
  await expect(page.getByRole('row', { name: /U2/ })).toContainText('74LS14');
});

test('a newer version of a sheet says what it would change in the belief, and a copy is compared', async ({
  page,
}) => {
  await visit(page, '/boards');
  await page
    .getByRole('link', { name: /CR40-SRV supply entry/ })
    .first()
    .click();
  await expect(page.getByText('as it is stored')).toBeVisible();
  await editor(page).click();
  await page.keyboard.press('Control+End');
  await page.keyboard.insertText('\nF9 P9F VM T1A # fitted by an earlier visitor');
  await page.getByRole('button', { name: 'Store as version 2' }).click();
  await expect(page.getByText('2 versions')).toBeVisible();
  await page.getByRole('button', { name: 'Compare' }).click();
  await page.getByLabel('What is different here from').selectOption({ label: 'version 1' });
  const compare = page.getByRole('region', { name: 'Compare' });
  await expect(compare.getByText('F9 is new')).toBeVisible();

  await openCase(page, /no movement and no eject/, 'trace');
  await expect(page.getByText('Version 2 of this sheet is stored.')).toBeVisible();
  await page.getByRole('button', { name: 'What would it change?' }).click();
  await expect(page.getByText(/It would change .*%/)).toBeVisible();
  await page.getByRole('button', { name: 'Move this case to it' }).click();
  await expect(page.getByText('Version 2 of this sheet is stored.')).toBeHidden();

  await visit(page, '/boards');
  await page.getByRole('link', { name: /^Copy CR40-SRV supply entry/ }).click();
  await expect(editor(page)).toContainText('CR40-SRV supply entry, sheet 1, copy');
  await expect(page.getByRole('button', { name: 'Store the sheet' })).toBeEnabled();
});

test('what is found while one traces is written on the sheet beside the map, and the case goes on with it', async ({
  page,
}) => {
  await openCase(page, /keys do nothing/, 'trace');
  await expect(page.getByText(/A sound board shows/)).toBeVisible();
  await page.getByText('More', { exact: true }).click();
  await page.getByRole('button', { name: 'Write the sheet here' }).click();
  const drawer = page.getByRole('complementary', { name: 'The sheet, to write on' });
  await expect(editor(page)).toContainText('TL9-BOX');
  await editor(page).click();
  await page.keyboard.press('Control+End');
  await page.keyboard.insertText('\nC2 P5 0 100n');
  await axe(page);
  await drawer.getByRole('button', { name: 'Store as the next version' }).click();
  await expect(drawer).toBeHidden();
  await page.getByLabel(/Show on the map/).fill('c2');
  await expect(page.getByRole('button', { name: 'C2, 100n' })).toBeVisible();
  await expect(page.getByText(/A sound board shows/)).toBeVisible();
});
