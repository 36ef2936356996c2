// Takes the pictures of docs/screenshots from a running demo workshop: npm start, then  node
// scripts/screenshots.mjs [address] [folder]
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';

const address = process.argv[2] ?? 'http://127.0.0.1:4711';
const folder = process.argv[3] ?? new URL('../docs/screenshots/', import.meta.url).pathname;
const only = process.argv[4];
mkdirSync(folder, { recursive: true });

const CHROMIUM = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM });

/** The case number of a demo case by words of its title. */
async function caseNumber(page, words) {
  await page.goto(address);
  const row = page.getByRole('row', { name: words }).first();
  return /\/case\/(\d+)/.exec(await row.getByRole('link').getAttribute('href'))[1];
}

async function shot(name, theme, visit) {
  if (only && !name.includes(only)) return;
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    colorScheme: theme === 'night' ? 'dark' : 'light',
  });
  const page = await context.newPage();
  page.on('pageerror', (error) => process.stderr.write(`${name}: ${error.message}\n`));
  page.on(
    'console',
    (message) => message.type() === 'error' && process.stderr.write(`${name}: ${message.text()}\n`),
  );
  await visit(page);
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await context.close();
}

const settled = (page) =>
  page
    .getByRole('heading', { name: 'Line-up' })
    .waitFor({ timeout: 20_000 })
    .then(() =>
      page
        .getByText('Measure next')
        .or(page.getByText('Or measure on'))
        .first()
        .waitFor({ timeout: 20_000 }),
    )
    .then(() =>
      page
        .getByRole('region', { name: 'Map of the circuit' })
        .locator('svg rect')
        .first()
        .waitFor({ timeout: 20_000 }),
    )
    // What is refined while one looks is shown as it comes to rest.
    .then(() =>
      page.waitForFunction(
        () => !/first look|Weighing|still being/.test(document.body.innerText),
        undefined,
        { timeout: 90_000 },
      ),
    );
/** A page has come to life when none of its islands is as the server sent it. */
const alive = (page) =>
  page.waitForFunction(
    () =>
      !document.querySelector('astro-island[ssr]') &&
      document.querySelector('main') &&
      !/being (opened|fetched) …/.test(document.body.innerText),
  );
const go = (words, stage) => async (page) => {
  await page.goto(`${address}/case/${await caseNumber(page, words)}/${stage}`);
  await alive(page);
};

await shot('docket', 'day', async (page) => {
  await page.goto(address);
  await alive(page);
});
await shot('take-in', 'day', go(/no movement and no eject/, 'take-in'));
for (const stage of ['swaps', 'look']) await shot(stage, 'day', go(/gives up after three/, stage));
await shot('practice', 'day', async (page) => {
  await page.goto(`${address}/practice`);
  await page.getByRole('radio', { name: /^2:/ }).check();
  await page.getByLabel('Drawn from').fill('3');
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByText(/at the bench/).waitFor();
  for (const point of ['p5', 'f1', 'vm ohms']) {
    await page.getByLabel('Reading', { exact: true }).fill(point);
    await page.keyboard.press('Enter');
    await page.getByText(/Read: /).waitFor();
    await page.waitForTimeout(600);
  }
  await page.getByRole('button', { name: /Whom do you suspect/ }).click();
  await page.getByLabel('What was said').getByText('%').waitFor();
});
await shot('make-safe', 'day', go(/loses steps/, 'make-safe'));
await shot('trace', 'day', async (page) => {
  await go(/no movement and no eject/, 'trace')(page);
  await settled(page);
});
await shot('why', 'day', async (page) => {
  await go(/no movement and no eject/, 'trace')(page);
  await settled(page);
  await page.getByRole('button', { name: 'Why F1', exact: true }).click();
  const why = page.getByRole('region', { name: 'Why', exact: true });
  await why.getByLabel('that one').selectOption('nothing wrong');
  await why.getByText('It rests on one reading').waitFor({ timeout: 20_000 });
  await page.waitForTimeout(800);
});
await shot('bench-mode', 'night', async (page) => {
  await go(/no movement and no eject/, 'trace')(page);
  await settled(page);
  await page.keyboard.press('Alt+b');
});
await shot('decide', 'day', async (page) => {
  await go(/gives up after three/, 'decide')(page);
  await page.getByText(/being (weighed|planned)/).waitFor({ state: 'detached', timeout: 60_000 });
});
await shot('adjust', 'day', go(/still hunts/, 'adjust'));
await shot('stock', 'day', async (page) => {
  await page.goto(`${address}/stock`);
  await alive(page);
  await page.getByLabel('What do I have for').fill('10u 16V electrolytic 105C');
  await page.waitForTimeout(600);
});
await shot('repair', 'day', go(/loses steps/, 'repair'));
await shot('prove', 'day', async (page) => {
  await go(/dead after a jolt/, 'prove')(page);
  await page.getByRole('heading', { name: 'New joints' }).scrollIntoViewIfNeeded();
  await page.getByText('a good board draws').scrollIntoViewIfNeeded();
});
await shot('patterns', 'day', async (page) => {
  await page.goto(`${address}/patterns`);
  await alive(page);
  await page.getByRole('list', { name: 'Patterns' }).waitFor();
});
await shot('hand-back', 'day', async (page) => {
  await go(/dead after a jolt/, 'hand-back')(page);
  await page.getByText('One page for the owner').click();
  await page.getByText('What you told us').waitFor();
});
await shot('sheet-bench', 'day', async (page) => {
  await page.goto(`${address}/boards`);
  await alive(page);
  const link = page.getByRole('link', { name: /TL9-CAP/ }).first();
  await page.goto(`${address}${await link.getAttribute('href')}`);
  await page.locator('svg g').first().waitFor({ timeout: 20_000 });
  await page.waitForTimeout(1500);
});
await shot('reckoner', 'day', async (page) => {
  await page.goto(
    `${address}/reckoner?calculator=divider&in=12V&upper=10k+5%25&lower=4k7+5%25&load=100k`,
  );
  await alive(page);
  await page.getByLabel('Over a range of').selectOption('load');
  await page.waitForTimeout(1200);
});
// The last one, because it files readings.
await shot('survey', 'day', async (page) => {
  await go(/gives up after three/, 'trace')(page);
  await settled(page);
  await page.getByText(/^Ready lists/).click();
  await page.getByRole('button', { name: /every capacitor, ESR/ }).click();
  const line = page.getByLabel('Reading', { exact: true });
  for (const typed of ['zero 0.02', '0.6 0.3 0.27 5.6 5.2', '0.07 0.08 0.07 0.31 7.9']) {
    await line.fill(typed);
    await page.keyboard.press('Enter');
    await page.waitForTimeout(300);
  }
  const pane = page.getByRole('region', { name: 'Capacitors', exact: true });
  await pane.getByText('BAD').first().waitFor({ timeout: 60_000 });
  await pane.getByRole('button', { name: 'Chart' }).click();
  await page.waitForTimeout(1500);
});
await browser.close();
