import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { alive, follow, visit } from './open-case';
import { atPace } from './pace';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

const editor = (page: Page) => page.getByLabel('Sheet, one line one part');
const drawing = (page: Page) => page.getByRole('region', { name: 'Drawing of the circuit' });

/** Types at the end of the sheet, as a person would, without taking what is offered. */
async function write(page: Page, text: string): Promise<void> {
  await editor(page).click();
  await page.keyboard.press('Control+End');
  for (const line of text.split('\n')) {
    await page.keyboard.type(line);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');
  }
}

async function read(page: Page, line: string): Promise<void> {
  const strip = page.getByLabel('Reading', { exact: true });
  await strip.fill(line);
  await strip.press('Enter');
  await expect(page.locator('#strip-says')).toContainText('Filed:');
}

test('a sheet is written by keyboard, drawn as it is typed, kept, stored and changed', async ({
  page,
}) => {
  await visit(page, '/boards');
  await follow(page, page.getByRole('link', { name: 'Write a sheet' }));
  await expect(page.getByText('Nothing drawn yet')).toBeVisible();
  await write(
    page,
    'title Shuttle lamp\nJ1 12V in: 1=VIN 2=0\nF1 VIN V12 T1A\nR1 V12 LMP 680\nD1 LMP',
  );
  await expect(page.getByText('1 line to mend first')).toBeVisible();
  await expect(page.getByText('D1 has 1 net')).toBeVisible();
  // The rest is drawn all the same, and can be asked for by name.
  await expect(
    drawing(page)
      .getByRole('button', { name: 'F1, T1A' })
      .or(drawing(page).getByRole('button', { name: 'F1' }))
      .first(),
  ).toBeVisible();
  await page.getByRole('button', { name: /^line 5$/ }).click();
  await page.keyboard.press('End');
  await page.keyboard.type(' 0 LED');
  await page.keyboard.press('Escape');
  await expect(page.getByText('Nothing: every line is understood.')).toBeVisible();
  await expect(page.getByText('3 parts, 4 nets')).toBeVisible();

  // A page that is left keeps what was typed.
  await page.reload();
  await expect(page.getByText('Your unsaved lines are here again.')).toBeVisible();
  await expect(editor(page)).toContainText('D1 LMP 0 LED');
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
  await page.getByRole('button', { name: 'Store the sheet' }).click();
  await page.waitForURL(/\/boards\/[0-9a-f-]{36}$/);

  // Another version, with what is different in words; a net called otherwise everywhere.
  await expect(page.getByText('as it is stored')).toBeVisible();
  await page.getByRole('button', { name: 'Find, rename' }).click();
  await page.getByLabel('Part or net').fill('lmp');
  await page.getByLabel('Call it').fill('LAMP');
  await page.getByRole('button', { name: 'Rename everywhere' }).click();
  await expect(page.getByText('net LMP is called LAMP')).toBeVisible();
  await page.getByRole('button', { name: 'Store as version 2' }).click();
  await expect(page.getByText('2 versions')).toBeVisible();
  await expect(editor(page)).toContainText('R1 V12 LAMP 680R');
});

test('a sheet is put together from a section and from beeps', async ({ page }) => {
  await visit(page, '/boards/new');
  await write(page, 'title Shuttle reset\nV1 P5 0 5V');
  await page.getByRole('button', { name: 'Put a section in' }).click();
  const dialog = page.getByRole('dialog', { name: 'Put a section in' });
  await dialog.getByLabel(/Find a section/).fill('third try');
  await dialog.getByRole('button', { name: 'Reset by RC and Schmitt trigger' }).click();
  await dialog.getByLabel('reset, low while it holds').fill('RESET');
  await dialog.getByRole('button', { name: 'Put it in' }).click();
  await expect(editor(page)).toContainText('U1 74LS14 1=RSTRC 2=RSTN 3=RSTN 4=RESET');

  await page.getByRole('button', { name: 'Ring through' }).click();
  const said = page.getByLabel('Two points, and beep or open');
  await said.fill('u9.3 u1.4 beep');
  await said.press('Enter');
  await expect(page.getByText('U9.3 and U1.4 are on RESET')).toBeVisible();
  await expect(editor(page)).toContainText('U9 box 3=RESET');
  // What contradicts the sheet is decided by a press.
  await said.fill('rstn reset beep');
  await said.press('Enter');
  await expect(page.getByText('one net, or a bridge')).toBeVisible();
  await page.getByRole('button', { name: 'Leave it: it is a fault' }).click();
  await said.fill('rubbish');
  await said.press('Enter');
  await expect(page.getByText('“rubbish” is no ring')).toBeVisible();
  await expect(said).toHaveValue('rubbish');
});

test('several parts are changed at once in the table, and the drawing is printed by areas', async ({
  page,
}) => {
  await visit(page, '/boards/new');
  const chain = Array.from({ length: 60 }, (_, i) => `R${i + 1} N${i} N${i + 1} 1k`).join('\n');
  await write(page, `title Shuttle ladder\nJ1 12V in: 1=N0 2=0`);
  await page.keyboard.insertText(chain);
  await expect(page.getByText(/^60 parts/)).toBeVisible();
  await expect(drawing(page).getByText(/^\d of \d$/)).toBeVisible();
  await page.getByRole('button', { name: 'Table of parts' }).click();
  const table = page.getByRole('region', { name: 'Table of parts' });
  await table.getByLabel('Find').fill('1k');
  await table.getByRole('checkbox', { name: 'All that are found' }).check();
  await table.getByLabel('Make it').fill('2k2 1%');
  await table.getByRole('button', { name: 'Change 60' }).click();
  await expect(table.getByText('60 lines changed')).toBeVisible();
  await expect(editor(page)).toContainText('R60 N59 N60 2k2 1%');

  // Page down turns to the next area; the one with the cursor is turned to by itself.
  await drawing(page).getByRole('button', { name: 'Area before' }).press('Enter');
  const frame = drawing(page).getByRole('group', { name: /^Drawing\. Enter/ });
  await frame.focus();
  const before = await drawing(page)
    .getByText(/^\d of \d$/)
    .textContent();
  await frame.press('PageUp');
  await expect(drawing(page).getByText(/^\d of \d$/)).not.toHaveText(before!);

  const printed = page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        window.print = () => resolve(document.querySelectorAll('body > div > section svg').length);
      }),
  );
  await drawing(page).getByText('More', { exact: true }).click();
  await drawing(page).getByRole('button', { name: 'Print this' }).click();
  expect(await printed).toBe(Number(/of (\d)/.exec(before!)![1]));
});

test('a netlist of another program is looked at first, and its black boxes are mended by a press', async ({
  page,
}) => {
  await visit(page, '/boards');
  const buffer = Buffer.from(
    'net,ref,pin,value\nVCC,R1,1,4k7\nOUT,R1,2,\nOUT,D4,1,1N4148\nGND,D4,2,\nVCC,J1,1,5V in\nGND,J1,2,\nOUT,X1,7,\n',
  );
  await page
    .getByLabel('From a file')
    .setInputFiles({ name: 'pins.csv', mimeType: 'text/csv', buffer });
  await page.getByText('What was understood of the file').click();
  await expect(
    page.getByText('1 part understood, 3 black boxes with pins, 0 skipped'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'D4: pin 1 is the anode' }).click();
  await page.getByRole('button', { name: 'J1: it feeds 5V in' }).click();
  await expect(editor(page)).toContainText('D4 1N4148 a=OUT k=0');
  await expect(page.getByText('nothing feeds this sheet')).toBeHidden();
  await page.getByRole('button', { name: 'Store the sheet' }).click();
  await page.waitForURL(/\/boards\/[0-9a-f-]{36}$/);
});

test('a unit without any sheet is traced, repaired, proven and closed; its sheet grows from what was named', async ({
  page,
}) => {
  await visit(page, '/case/new');
  await page.getByLabel('Title').fill('Shuttle radio, dead');
  await page.getByLabel('Unit', { exact: true }).fill('Shuttle radio');
  await page.getByLabel('Unit', { exact: true }).press('Enter');
  await page.waitForURL(/take-in/);
  await alive(page);
  const number = /\/case\/(\d+)/.exec(page.url())![1]!;
  await page.getByLabel('Add a symptom').fill('no lamp');
  await page.keyboard.press('Enter');
  await visit(page, `/case/${number}/trace`);
  await read(page, 'p9 0.02');
  await read(page, 'c12 14 esr');
  await expect(page.getByRole('button', { name: 'Take back: c12 14 esr' })).toBeVisible();
  await page.getByLabel('Part', { exact: true }).fill('c12');
  await page.getByLabel('What says so').fill('14 ohm ESR');
  await page.getByRole('button', { name: 'Condemn it' }).click();
  await follow(page, page.getByRole('link', { name: 'Go on to Repair' }));

  const part = page.getByRole('form', { name: 'Part C12' });
  await part.getByLabel('What comes off').fill('470u 16V');
  await part.getByRole('button', { name: 'C12 came off' }).click();
  await part.getByRole('button', { name: 'C12 went on' }).click();
  await expect(part).toContainText('check which way round C12 sits');
  await part.getByLabel(/which way round it sits/).check();
  await part.getByRole('button', { name: 'C12 went on' }).click();
  await expect(part).toContainText('Went on: 470u 16V');

  await visit(page, `/case/${number}/prove`);
  // Power stays off: nobody has said what feeds it.
  await page.getByLabel('Reading', { exact: true }).fill('p9 9');
  await page.keyboard.press('Enter');
  await expect(page.locator('#strip-says')).toContainText('no rail is known');
  await page.getByLabel('Rail', { exact: true }).fill('p9');
  await page.getByLabel('Volts', { exact: true }).fill('9');
  await page.getByRole('button', { name: 'Name it' }).click();
  await read(page, 'p9 480 ohm');
  await page.getByRole('button', { name: 'No short: P9 to ground' }).click();
  await read(page, 'p9 8.97');
  await page.getByRole('button', { name: 'Gone: no lamp' }).click();
  await page.getByRole('button', { name: 'Lamp dim or low limit held, nothing warm' }).click();
  await page.getByLabel('Passes right').fill('5');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Proven.')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);

  await visit(page, `/boards/new?case=${number}`);
  await expect(editor(page)).toContainText('C12 ? ? 470u 16V');
  await expect(editor(page)).toContainText('edge P9');
  await visit(page, `/case/${number}/hand-back`);
  await page.getByRole('button', { name: 'Close the case' }).click();
  await expect(page.getByText('Closed.')).toBeVisible();
});

/** A person at the bench types some five keys a second, and looks at the sketch before each line. */
const KEY_MILLISECONDS = atPace(200);
const LOOK_MILLISECONDS = atPace(1500);

// Fifteen parts of a supply entry and its reset, as they stand on a pencil sketch.
const SKETCH = [
  'J1 9V in: 1=S 2=0',
  'F1 S A T1A',
  'D1 0 A 1N4001',
  'L1 A VM 100u',
  'C1 VM 0 470u 16V',
  'C2 VM 0 100n',
  'U1 7805 in=VM ground=0 out=P5',
  'C3 P5 0 100u 10V',
  'C4 P5 0 100n',
  'R1 P5 T 22k',
  'C5 T 0 10u 16V',
  'D2 T P5 1N4148',
  'U2 74LS14 1=T 2=N 3=N 4=RES 7=0 14=P5',
  'R2 P5 P 330',
  'D3 P 0 LED',
  'edge RES',
];

test('fifteen parts of a sketch are typed in less than ten minutes and 450 keys, from the library in two', async ({
  page,
}) => {
  test.setTimeout(400_000);
  await visit(page, '/boards/new');
  await editor(page).click();
  let keys = 0;
  const started = Date.now();
  for (const line of SKETCH) {
    await page.waitForTimeout(LOOK_MILLISECONDS);
    await page.keyboard.type(line, { delay: KEY_MILLISECONDS });
    await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');
    keys += line.length + 2;
  }
  const minutes = (Date.now() - started) / 60_000;
  await expect(page.getByText(/^14 parts/)).toBeVisible();
  await expect(page.getByText('Nothing: every line is understood.')).toBeVisible();
  expect(keys).toBeLessThan(450);
  expect(minutes).toBeLessThan(10);

  // The same out of three sections, each joined to the nets that are there.
  await visit(page, '/boards/new');
  page.on('dialog', (dialog) => void dialog.accept());
  const fromLibrary = Date.now();
  for (const [find, name, nets] of [
    ['entry', 'Supply entry', []],
    ['78xx', 'Fixed positive regulator', [['the raw supply', 'VM'] as const]],
    ['third try', 'Reset by RC', []],
  ] as const) {
    await page.getByRole('button', { name: 'Put a section in' }).click();
    const dialog = page.getByRole('dialog', { name: 'Put a section in' });
    await dialog.getByLabel(/Find a section/).pressSequentially(find, { delay: KEY_MILLISECONDS });
    await page.waitForTimeout(LOOK_MILLISECONDS);
    await dialog.getByRole('button', { name: new RegExp(name) }).click();
    for (const [port, net] of nets) {
      await dialog.getByLabel(port).fill('');
      await dialog.getByLabel(port).pressSequentially(net, { delay: KEY_MILLISECONDS });
    }
    await page.waitForTimeout(LOOK_MILLISECONDS);
    await dialog.getByRole('button', { name: 'Put it in' }).click();
  }
  await expect(editor(page)).toContainText('74LS14');
  expect((Date.now() - fromLibrary) / 60_000).toBeLessThan(2);
  test.info().annotations.push({ type: 'measured', description: `${keys} keys, ${minutes} min` });
});
