import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { follow, toStage, visit } from './open-case';
import { Server } from './server';

const server = new Server();
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

/** Nothing on this screen that keeps somebody out. */
async function reachable(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag22aa'])
    .analyze();
  expect(
    violations.map(
      ({ id, nodes }) => `${id}: ${nodes.map(({ target }) => target.join(' ')).join(', ')}`,
    ),
  ).toEqual([]);
}

const panel = (page: Page, name: string | RegExp) => page.getByRole('region', { name });

test('a unit is taken in, halved, made safe, opened, looked at and given first aid', async ({
  page,
}) => {
  await visit(page, '/case/new');
  await page.getByLabel('Title').fill('TL-9, hums and stands');
  await page.getByLabel('Unit', { exact: true }).fill('Brackwater TL-9 tape-loop programmer');
  await page.getByLabel('Complaint').fill('it hums and stands still');
  await expect(page.getByLabel('Kind of unit')).toHaveValue('tape-transport');
  await page.getByLabel('Board sheet').selectOption({
    label: await page.locator('#board option', { hasText: 'TL9-CAP' }).innerText(),
  });
  await follow(page, page.getByRole('button', { name: 'Open the case' }));

  // The words of the complaint become something to observe; a start says how far it gets.
  await page
    .getByRole('button', { name: /^It is so/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Add the start' }).click();
  await expect(page.getByText('say first which stage')).toBeVisible();
  await page.getByRole('radio', { name: /turns/ }).first().check();
  await page.getByLabel('Other conditions').fill('cold');
  await page.getByRole('button', { name: 'Add the start' }).click();
  await expect(panel(page, /^Starts/)).toContainText('1. not reached');
  // A lamp code that nobody knows yet is written down for every such unit.
  await page.getByLabel('Code', { exact: true }).fill('2-1');
  await page.getByLabel('Meaning').fill('no tachometer pulses');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText(/2-1: no tachometer pulses/)).toBeVisible();
  await page.getByRole('button', { name: 'Add the code' }).click();
  await reachable(page);

  // Swaps: the kill check first; a result moves the blocks.
  await toStage(page, 'Swaps');
  await expect(panel(page, 'Try next').getByRole('listitem').first()).toContainText('kill check');
  await panel(page, 'Try next').getByRole('button', { name: /^Good/ }).first().click();
  await expect(panel(page, 'Tried')).toContainText('good');
  await page.getByRole('button', { name: 'Add the trial' }).click();
  await expect(page.getByText('say which blocks were swapped')).toBeVisible();
  await page.getByText('Does the medium go with this drive?').click();
  await expect(page.getByText('1/6 of each track is out of reach').first()).toBeVisible();
  await page.getByText('Do these two connectors go together?').click();
  await expect(page.getByText('a short across the supply')).toBeVisible();
  await page.getByLabel('Host or cable').fill('1 GND nonsense');
  await expect(page.getByText(/expected pin, name and one of/)).toBeVisible();
  await reachable(page);

  // Locked until made safe.
  await toStage(page, 'Open up');
  await expect(page.getByRole('button', { name: 'Add the step' })).toBeDisabled();
  await toStage(page, 'Make safe');
  await page.getByLabel('Volts on it').fill('absurd');
  await expect(page.getByText(/“absurd” is not understood/)).toBeVisible();
  await page.getByLabel('Volts on it').fill('34');
  await expect(page.getByText(/Hold .*Ω|Hold .*k/)).toBeVisible();
  const hazards = panel(page, 'Hazards of this unit');
  await hazards
    .getByRole('button', { name: /^Acknowledge:|^Not here:/ })
    .first()
    .click();
  await expect(page.getByText('say first who acknowledges it')).toBeVisible();
  await page.getByLabel('Acknowledged by').fill('T. Quill');
  // Each by itself; what only a look tells was looked for and is not here, but for the line filter.
  for (
    let left = await hazards.getByRole('button', { name: /^Acknowledge:/ }).count();
    left > 0;
    left -= 1
  ) {
    const away = hazards.getByRole('button', { name: /^Not here:(?!.*line filter)/ });
    await ((await away.count()) > 0 ? away : hazards.getByRole('button', { name: /^Acknowledge:/ }))
      .first()
      .click();
    await expect(hazards.getByRole('button', { name: /^Acknowledge:/ })).toHaveCount(left - 1);
  }
  // The one that is here has to be read below 60 V before hands go in.
  await expect(panel(page, 'The gate')).toContainText('a charge to read');
  await hazards.getByLabel(/^Volts read on:.*line filter/).fill('eh');
  await hazards.getByRole('button', { name: 'Read' }).click();
  await expect(page.getByText('“eh” is no voltage')).toBeVisible();
  await hazards.getByLabel(/^Volts read on:.*line filter/).fill('0.8');
  await hazards.getByRole('button', { name: 'Read' }).click();
  await expect(panel(page, 'The gate')).not.toContainText('to read');
  await expect(page.getByText(/acknowledged by T\. Quill/).first()).toBeVisible();
  await reachable(page);

  // Open up by the keyboard alone: the form is one Enter.
  await toStage(page, 'Open up');
  await page.getByLabel('Length, mm').fill('6');
  await page.getByLabel('Count').fill('4');
  await page.getByLabel('Count').press('Enter');
  await page.getByRole('radio', { name: 'lift off' }).check();
  await page.getByLabel('In reach now').fill('board');
  await page.getByLabel('In reach now').press('Enter');
  await expect(panel(page, 'Screw balance')).toContainText('M3 pan, 6 mm');
  await panel(page, 'Putting it back together')
    .getByLabel(/Length of what goes in/)
    .fill('10');
  await panel(page, 'Putting it back together')
    .getByRole('button', { name: /^Back on: 4 M3/ })
    .click();
  await expect(page.getByText(/goes into a hole for 6 mm/)).toBeVisible();
  await reachable(page);

  // Look: the place by the arrow keys, then what it raises.
  await toStage(page, 'Look');
  const board = page.getByRole('application', { name: /Board outline/ });
  await board.focus();
  for (const key of ['Shift+ArrowLeft', 'Shift+ArrowLeft', 'Shift+ArrowUp', 'ArrowUp'])
    await board.press(key);
  await page.getByRole('radio', { name: 'leaked electrolyte' }).check();
  await page.getByLabel('Across, mm').fill('-3');
  await page.getByRole('button', { name: 'Add the finding' }).click();
  await expect(page.getByText('“-3” is no size')).toBeVisible();
  await page.getByLabel('Across, mm').fill('12');
  await page.getByRole('button', { name: 'Add the finding' }).click();
  await expect(panel(page, 'Found')).toContainText('never a cold pull');
  await expect(panel(page, 'What it raises')).toContainText('from leaked electrolyte');
  await panel(page, 'Tracks to ring through')
    .getByRole('button', { name: /beeps$/ })
    .first()
    .click();
  await expect(panel(page, 'Tracks to ring through')).toContainText('beep');
  await reachable(page);

  // First aid: one change, its test; a second change before a test is warned of.
  await toStage(page, 'First aid');
  const aids = panel(page, 'Cheap and reversible');
  await aids
    .getByRole('button', { name: /^Done:/ })
    .first()
    .click();
  await expect(page.getByText('would share the credit')).toBeVisible();
  await aids
    .getByRole('button', { name: /^Done:/ })
    .first()
    .click();
  await expect(page.getByText('2 changes without a start between them')).toBeVisible();
  await page.getByRole('radio', { name: 'it does them all' }).check();
  await page.getByRole('button', { name: 'Add the start' }).click();
  await expect(panel(page, 'Done so far')).toContainText('2 changes share it');
  await page.getByLabel('For', { exact: true }).fill('cover in the sun');
  await page.getByLabel('Hours', { exact: true }).fill('5000');
  await page.getByRole('button', { name: 'Start it' }).click();
  await expect(page.getByText('“5000” is no time')).toBeVisible();
  await page.getByLabel('Hours', { exact: true }).fill('24');
  await page.getByRole('button', { name: 'Start it' }).click();
  await expect(panel(page, 'Running by itself')).toContainText('left');
  await reachable(page);

  // What the eye found is in the line-up, and leaving off is on the docket.
  await toStage(page, 'Trace');
  await expect(panel(page, 'Line-up of suspects')).toContainText('from leaked electrolyte', {
    timeout: 30_000,
  });
  await page.getByRole('button', { name: 'Leave off' }).click();
  await page.getByLabel('Where were you?').fill('ESR next');
  await page.getByRole('dialog').getByRole('button', { name: 'Leave off' }).click();
  await expect(page.getByText('You left off here:')).toBeVisible();
  await expect(page.getByText('all stored')).toBeVisible();
  await visit(page, '/');
  await expect(page.getByRole('row', { name: /TL-9, hums and stands/ })).toContainText(
    'left off: Trace: ESR next',
  );
  await expect(page.getByRole('list', { name: 'Running by itself' })).toContainText(
    'cover in the sun',
  );
});

test('a picture is kept with a note on it; what is no picture is refused and said so', async ({
  page,
}) => {
  await visit(page, '/');
  const href = await page
    .getByRole('row', { name: /dead after a jolt|lamps steady/ })
    .first()
    .getByRole('link')
    .getAttribute('href');
  await visit(page, href!.replace(/[^/]+$/, 'take-in'));
  await expect(page.getByText('all stored')).toBeVisible();
  await page.getByLabel('Add pictures').setInputFiles({
    name: 'invoice.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.from('not a picture at all'),
  });
  const refused = page.getByText(/picture “invoice”: .*not a picture that can be read/);
  await expect(refused).toBeVisible();
  await expect(page.getByText('all stored')).toBeHidden();
  await page.getByRole('button', { name: 'Understood' }).click();
  await expect(refused).toBeHidden();
  await page
    .getByLabel('Add pictures')
    .setInputFiles(new URL('../../data/demo/pictures/cr40-board.jpg', import.meta.url).pathname);
  await page.getByRole('button', { name: /cr40-board/ }).click();
  const picture = page.getByRole('application', { name: /tap a place/ });
  await picture.click({ position: { x: 60, y: 60 } });
  await page.getByLabel('Note at the place tapped').fill('crack here');
  await page.getByRole('button', { name: 'Pin it' }).click();
  await expect(page.getByRole('dialog')).toContainText('crack here');
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByRole('button', { name: /cr40-board/ })).toContainText('1 note');
});
