import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { TraceFile } from '../src/case/trail';
import { copyCase, openCase, visit } from './open-case';
import { Server } from './server';

const server = new Server();
test.beforeAll(async () => {
  await server.start();
  // What is tried here is the bench: the line-up goes by the rate table alone.
  const answer = await fetch(`${process.env.E2E_ADDRESS}/api/patterns`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json', origin: process.env.E2E_ADDRESS! },
    body: JSON.stringify({ on: false, since: null }),
  });
  expect(answer.status).toBe(200);
});
test.afterAll(() => server.stop());

const strip = (page: Page) => page.getByLabel('Reading', { exact: true });
const says = (page: Page) => page.locator('#strip-says');

async function clean(page: Page, what: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(violations.map((v) => `${what}: ${v.id} ${v.nodes[0]?.html}`)).toEqual([]);
}

test('the reading line completes, says what a value would mean, takes several things, and takes them back', async ({
  page,
}) => {
  await copyCase(page, /no movement and no eject/, 'trace');
  await strip(page).fill('p9f 8.95');
  await expect(says(page)).toContainText('sound: 8.95 V');
  await expect(says(page)).toContainText(/in band, then L1 (\d+ in \d+|nearly sure)/);
  await strip(page).fill('not');
  await page.keyboard.press('Tab');
  await expect(strip(page)).toHaveValue('note');
  await strip(page).fill('f1 open; c6 off; note flux under the fuse');
  await expect(says(page)).toContainText('3 at once');
  await page.keyboard.press('Enter');
  await expect(says(page)).toContainText('Filed: 3 at once');
  // The newest goes first.
  await strip(page).fill('back');
  await page.keyboard.press('Enter');
  await expect(says(page)).toContainText('Taken back: note flux under the fuse');
  await strip(page).fill('again');
  await page.keyboard.press('Enter');
  await expect(says(page)).toContainText('Filed again');
  for (const taken of ['note', 'C6 off', 'f1 open']) {
    await page.keyboard.press('Control+z');
    await expect(says(page)).toContainText(`Taken back: ${taken}`);
  }
  // An odd value is asked about once and never blocks.
  await strip(page).fill('vm 860');
  await page.keyboard.press('Enter');
  await expect(says(page)).toContainText('Enter once more files it');
  await page.keyboard.press('Escape');
});

test('why, ahead, skipping and the trace are reached by keyboard, and pass the accessibility rules', async ({
  page,
}) => {
  await copyCase(page, /no movement and no eject/, 'trace');
  await expect(page.getByRole('region', { name: 'Line-up of suspects' })).toContainText('1 in 2');
  await strip(page).press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  const why = page.getByRole('region', { name: 'Why', exact: true });
  await expect(why).toContainText('Of the two it is F1');
  await expect(why.getByRole('img', { name: /What each reading did/ })).toBeVisible();
  await why.getByLabel('that one').selectOption('nothing wrong');
  await expect(why).toContainText('It rests on one reading');
  await clean(page, 'why');
  await page.keyboard.press('w');
  await expect(why).toBeHidden();

  const card = page.getByRole('region', { name: 'What to do next' });
  await page.getByText('Weighing what to measure next').waitFor({ state: 'hidden' });
  await card.getByRole('button', { name: 'A few steps ahead' }).click();
  await expect(card.getByRole('region', { name: 'A few steps ahead' })).toContainText('enough: F1');
  await expect(card).toContainText('P9F to ground');
  await card.getByText('Not this one').click();
  await card.getByRole('button', { name: 'no probe comes there' }).click();
  await expect(card.locator('p', { hasText: 'P9F to ground' })).toHaveCount(0);
  await page.getByText('What may be proposed').click();
  await page.getByRole('button', { name: 'Propose P9F again' }).click();
  await expect(card).toContainText('P9F to ground');

  await page.getByRole('button', { name: 'As it happened' }).click();
  const trail = page.getByRole('region', { name: 'As it happened' });
  await expect(trail).toContainText('F1 1 in 2');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    trail.getByRole('button', { name: 'File (JSON)' }).click(),
  ]);
  const file = TraceFile.parse(JSON.parse(await readFile(await download.path(), 'utf8')));
  expect(file.steps.length).toBeGreaterThan(1);
  await trail.getByRole('button', { name: /As it was after p5/ }).click();
  await expect(page.getByText('line-up and proposals are those after 1 of')).toBeVisible();
  await clean(page, 'trail');
  await trail.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('line-up and proposals are those after')).toBeHidden();
});

test('a chip is read pin by pin with single keys, and its swaps keep a tally', async ({ page }) => {
  await openCase(page, /host says no unit/, 'trace');
  await strip(page).press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('c');
  const chip = page.getByRole('region', { name: 'Chip', exact: true });
  await expect(chip).toContainText('Supply and ground first');
  await clean(page, 'chip');
  const pins = chip.getByRole('listbox');
  await pins.focus();
  for (let i = 0; i < 20; i += 1) await page.keyboard.press('ArrowUp');
  await expect(pins.getByRole('option', { selected: true })).toContainText('1');
  await page.keyboard.press('1');
  // Filed, or refused with the reason where probes have to wait.
  await expect(async () => {
    const filed = await pins.getByRole('option', { name: /pin 1 .*read 1/ }).count();
    const refused = await chip.getByText(/locked until|acknowledged/).count();
    expect(filed + refused).toBeGreaterThan(0);
  }).toPass();
  // A chip of the map opens by a press, too.
  await chip.getByRole('button', { name: 'Close' }).click();
  await page
    .locator('svg [role=button], svg g[tabindex]')
    .filter({ hasText: 'U4' })
    .first()
    .click();
  await expect(chip.getByLabel('which chip')).toHaveValue('U4');
  await chip.getByRole('button', { name: 'Chips and swaps' }).click();
  const sockets = chip.getByRole('checkbox');
  await sockets.nth(0).check();
  await sockets.nth(1).check();
  await expect(chip).toContainText('one after the other: 2.0 swaps on average');
  await chip.getByRole('button', { name: 'It works with them' }).click();
  await expect(chip).toContainText(/Good: U\d/);
  await clean(page, 'swaps');
});

test('a ready list is gone through with values alone, in the large view too', async ({ page }) => {
  await copyCase(page, /no movement and no eject/, 'trace');
  await page.getByText('Ready lists').click();
  await page.getByRole('button', { name: /^rails, power on/ }).click();
  const list = page.getByRole('region', { name: 'List of readings' });
  await expect(list).toContainText('rails, power on');
  const left = await list.getByRole('listitem').count();
  await expect(strip(page)).toBeFocused();
  await page.keyboard.type('5.01 ');
  await page.keyboard.press('Enter');
  await expect(says(page)).toContainText('Filed');
  await page.keyboard.press('Alt+b');
  const bench = page.getByRole('dialog', { name: 'Bench mode' });
  await expect(bench).toContainText(`of ${left}`);
  await expect(bench).toContainText(/is (in band|off)/);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Leave the list' }).click();
  await expect(page.getByRole('region', { name: 'What to do next' })).toBeVisible();
  for (;;) {
    await page.keyboard.press('Control+z');
    if ((await says(page).textContent())?.includes('5.01')) break;
  }
});

for (const [width, height] of [
  [820, 1180],
  [390, 844],
] as const) {
  test(`nothing is cut off at ${width} by ${height}, and the caution of the next step stays in sight`, async ({
    page,
  }) => {
    await page.setViewportSize({ width, height });
    const number = await copyCase(page, /no movement and no eject/, 'trace');
    const fits = async (what: string): Promise<void> => {
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - window.innerWidth,
      );
      expect(over, what).toBeLessThanOrEqual(0);
    };
    await fits('trace');
    const faces = page.getByRole('navigation', { name: 'What is shown' });
    for (const face of ['Map', 'Next']) {
      await faces.getByRole('button', { name: face }).click();
      await expect(
        page.getByText('Powered: one hand').locator('visible=true').first(),
      ).toBeVisible();
      await fits(face);
    }
    // What opens in the place of the next step does not take its caution away.
    await faces.getByRole('button', { name: 'Next' }).click();
    const suspects = faces.getByRole('button', { name: 'Line-up' });
    if (await suspects.isVisible()) await suspects.click();
    await page.getByRole('button', { name: 'Why F1', exact: true }).click();
    await expect(page.getByRole('region', { name: 'Why', exact: true })).toContainText(
      'Of the two',
    );
    await expect(page.getByText('Powered: one hand').locator('visible=true').first()).toBeVisible();
    await fits('why');
    await page.getByRole('button', { name: 'Close' }).locator('visible=true').first().click();
    await clean(page, `trace at ${width}`);
    // The track folds away and comes back by a press.
    const track = page.getByRole('navigation', { name: 'Stages of the case' });
    await expect(track).toBeHidden();
    await page.getByRole('button', { name: /of \d+$/ }).click();
    await expect(track.getByRole('link', { name: 'Repair' })).toBeVisible();
    for (const stage of [
      'take-in',
      'swaps',
      'make-safe',
      'open-up',
      'look',
      'first-aid',
      'decide',
      'repair',
      'adjust',
      'prove',
      'hand-back',
    ]) {
      await visit(page, `/case/${number}/${stage}`);
      await fits(stage);
    }
    for (const path of ['/', '/boards', '/stock', '/patterns', '/instruments', '/case/new']) {
      await visit(page, path);
      await fits(path);
    }
  });
}
