import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { visit } from './open-case';
import { Server } from './server';

// Exercises: begun, worked on with the strip, debriefed; and nothing of them in the workshop.

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

async function begin(page: Page, level: number, seed: number): Promise<void> {
  await visit(page, '/practice');
  await page
    .getByLabel('Board', { exact: true })
    .selectOption({ label: 'YC2-DRV 12 V rail, sheet 2' });
  await page.getByRole('radio', { name: new RegExp(`^${level}:`) }).check();
  await page.getByLabel('Drawn from').fill(String(seed));
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/practice\/.+\/trace/);
  await expect(page.getByText(/at the bench/)).toBeVisible();
}

const strip = async (page: Page, text: string, says: RegExp): Promise<void> => {
  await page.getByLabel('Reading', { exact: true }).fill(text);
  await page.keyboard.press('Enter');
  await expect(page.locator('#strip-says')).toHaveText(says);
};

test('a hidden fault is measured, named, replaced and debriefed, and nothing reaches the workshop', async ({
  page,
}) => {
  const sent: string[] = [];
  page.on('request', (request) => {
    if (request.method() !== 'GET') sent.push(`${request.method()} ${request.url()}`);
  });
  // Level 1 with this number hides an open fuse on this board.
  await begin(page, 1, 1);
  await expect(page.getByRole('region', { name: 'Exercise' })).toContainText(
    'Exercise, no real unit',
  );
  await strip(page, 'v12', /Read: .*V/);
  await strip(page, 'f1', /Read: .*open/);
  await expect(page.getByRole('region', { name: 'Readings' })).toContainText('across F1');
  // A value is the meter's to give.
  await strip(page, 'v12 12', /type the point alone/);
  await page.getByLabel('Reading', { exact: true }).fill('');
  await page.getByRole('button', { name: /Whom do you suspect/ }).click();
  await expect(page.getByLabel('What was said')).toContainText('F1');
  await strip(page, 'condemn f1', /Filed/);
  // Left and opened again it stands as it stood.
  await page.reload();
  await expect(page.getByRole('region', { name: 'Readings' })).toContainText('across F1');
  await expect(page.getByText(/at the bench/)).toBeVisible();
  await page.getByRole('link', { name: 'Take a part off' }).click();
  await strip(page, 'f1 off', /Filed/);
  // A new fuse goes in only after the ohms behind it.
  await strip(page, 'f1 on same', /read the ohms from RAW/);
  await strip(page, 'raw ohms', /Read: /);
  await strip(page, 'f1 on same', /Filed/);
  await page.getByRole('link', { name: 'Measure again' }).click();
  await strip(page, 'v12', /Read: .*1[12]/);
  await page.getByRole('link', { name: /Done/ }).click();
  await page.getByRole('button', { name: 'It is done' }).click();
  await expect(page.getByText('It is sound.')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('It was F1 open')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Safety' })).toContainText('10 of 10');
  await expect(page.getByRole('row', { name: /F1 replaced: it was bad/ })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  expect(sent).toEqual([]);
  await visit(page, '/practice');
  await expect(page.getByRole('region', { name: 'What is there' })).toContainText('1 of 1');
  await visit(page, '/');
  await expect(page.getByRole('row', { name: /YC2-DRV 12 V rail, sheet 2/ })).toHaveCount(0);
});

test('without a sheet the parts are what is seen, and what comes and goes is brought', async ({
  page,
}) => {
  await begin(page, 8, 2);
  const seen = page.getByRole('region', { name: 'What is seen on it' });
  await expect(seen).toContainText('F1');
  await strip(page, 'f1', /Read: /);
  await expect(page.getByRole('region', { name: 'Readings' })).toContainText(/F1/i);
  await page.getByLabel('What', { exact: true }).selectOption('Leave it on, and let it get warm');
  await expect(page.getByText('press with an insulated stick')).toBeVisible();
  await page.getByLabel('Minutes').fill('6');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Last: left on for 6 min.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('Last: left on for 6 min.')).toBeVisible();
  await expect(page.getByText(/at the bench/)).toBeVisible();
  // Repair and the debrief have no sheet either.
  await strip(page, 'condemn r1', /Filed/);
  await page.getByRole('link', { name: 'Take a part off' }).click();
  await strip(page, 'r1 off', /Filed/);
  await strip(page, 'r1 on 470', /Filed/);
  await page.getByRole('link', { name: /Done/ }).click();
  await page.getByRole('button', { name: 'It is done' }).click();
  await expect(page.getByRole('heading', { name: 'Move by move' })).toBeVisible({
    timeout: 120_000,
  });
  await expect(page.getByRole('row', { name: /left on for 6 min/ })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
});

test('the tour teaches the reading line, step by step, and counts for no skill', async ({
  page,
}) => {
  await visit(page, '/practice');
  await page
    .getByLabel('Board', { exact: true })
    .selectOption({ label: 'YC2-DRV 12 V rail, sheet 2' });
  await page.getByRole('button', { name: 'A tour of five minutes' }).click();
  await page.waitForURL(/\/trace/);
  const tour = page.getByRole('region', { name: 'The reading line' });
  await expect(tour).toContainText('0 of 8');
  await expect(page.getByText(/at the bench/)).toBeVisible();
  for (let done = 1; done <= 3; done += 1) {
    await tour.locator('li[aria-current=step]').getByRole('button').click();
    await page.keyboard.press('Enter');
    await expect(tour).toContainText(`${done} of 8`);
  }
  await visit(page, '/practice');
  await expect(page.getByRole('region', { name: 'What is there' })).toHaveCount(0);
});

test('a course is made, taken in, begun, and its results are handed back as files', async ({
  page,
}) => {
  await visit(page, '/practice');
  await page.getByText('Make a course').click();
  await page.getByLabel('Title').fill('First week');
  await page.getByRole('checkbox', { name: 'YC2-DRV 12 V rail, sheet 2' }).check();
  await page.getByRole('checkbox', { name: /^2:/ }).uncheck();
  await page.getByLabel('Exercises of each level').fill('1');
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the course' }).click();
  const file = await (await saving).path();
  const taking = page.getByLabel('Take in a course, or results');
  await taking.setInputFiles({
    name: 'spoilt.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"hanzai course"}'),
  });
  await expect(page.getByText(/spoilt.json: version/)).toBeVisible();
  await taking.setInputFiles(file);
  await expect(page.getByText('0 of 1 done')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  await page.getByRole('button', { name: 'Begin the next' }).click();
  await page.waitForURL(/\/trace/);
  await page.getByRole('link', { name: /Done/ }).click();
  await page.getByRole('button', { name: 'It is done' }).click();
  await expect(page.getByText('It is not sound.')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('Nothing was done.')).toBeVisible();
  await visit(page, '/practice');
  await expect(page.getByText('1 of 1 done')).toBeVisible();
  await page.getByLabel('Results are of').fill('Ada');
  const handing = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the results' }).click();
  const results = await (await handing).path();
  expect(JSON.parse(readFileSync(results, 'utf8'))).toMatchObject({
    who: 'Ada',
    course: 'First week',
  });
  await taking.setInputFiles(results);
  await expect(page.getByText('1 done, 0 sound, 1 without harm')).toBeVisible();
});

test('a closed case is gone through once more, with what was really read', async ({ page }) => {
  await visit(page, '/');
  const number = await page.evaluate(async () => {
    const ask = async (path: string) => (await fetch(path)).json();
    const { lines } = await ask('/api/cases?most=500');
    for (const { number: one, state } of lines as { number: number; state: string }[]) {
      if (state !== 'closed') continue;
      const { boardId, entries } = await ask(`/api/cases/by-number/${one}`);
      const kinds = (entries as { body: { kind: string } }[]).map(({ body }) => body.kind);
      if (boardId && kinds.includes('fitted') && kinds.includes('reading')) return one;
    }
    return undefined;
  });
  await visit(page, `/case/${number}/hand-back`);
  await page.getByRole('link', { name: 'Go through it as practice' }).click();
  await expect(page.getByRole('heading', { name: `As in case ${number}` })).toBeVisible();
  await page.getByRole('button', { name: 'Go through it once more' }).click();
  await page.waitForURL(/\/practice\/.+\/trace/);
  await expect(page.getByText(/at the bench/)).toBeVisible();
});
