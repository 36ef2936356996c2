import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { alive, follow, visit } from './open-case';
import { Server } from './server';

// Signing in with a device, in a browser with a device of its own.

const server = new Server();
const base = process.env.E2E_ADDRESS!.replace('127.0.0.1', 'localhost');
test.beforeAll(() => server.start({ HANZAI_PUBLIC_URL: base }));
test.afterAll(() => server.stop());

test('a passkey is made, signs in by the keyboard alone, and is ended', async ({ page }) => {
  test.slow();
  const devices = await page.context().newCDPSession(page);
  await devices.send('WebAuthn.enable');
  const { authenticatorId } = await devices.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await visit(page, `${base}/people`);
  await page.getByLabel('Name', { exact: true }).fill('Mara Voss');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^For Mara Voss, once:/)).toBeVisible();
  const code = (await page.locator('[class*=code]').first().textContent())!.trim();
  await follow(page, page.getByRole('link', { name: 'Sign in with it now.' }));
  await page.getByLabel('Name', { exact: true }).fill('Mara Voss');
  await page.getByLabel('Password').fill(code);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/people/);
  await alive(page);
  await page.getByLabel('What this device is called').fill('bench tablet');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^bench tablet, since/)).toBeVisible();
  // The same device again is told that it has one.
  await page.getByLabel('What this device is called').fill('once more');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This device has one already.')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id }) => id)).toEqual([]);

  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/\/sign-in/);
  await alive(page);
  await visit(page, `${base}/sign-in?to=/stock`);
  await page.getByRole('button', { name: 'With this device' }).focus();
  await page.keyboard.press('Enter');
  await page.waitForURL(({ pathname }) => pathname === '/stock');

  // A device that nobody opened, then none at all: told in words, and the password still works.
  await visit(page, `${base}/people`);
  await page.getByRole('button', { name: 'End bench tablet' }).click();
  await expect(page.getByText(/^bench tablet, since/)).toBeHidden();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/\/sign-in/);
  await alive(page);
  await page.getByRole('button', { name: 'With this device' }).click();
  await expect(page.getByRole('status').or(page.getByRole('alert')).last()).toBeVisible();
  await expect(page).toHaveURL(/\/sign-in/);
  await devices.send('WebAuthn.removeVirtualAuthenticator', { authenticatorId });
  await page.goto(`${process.env.E2E_ADDRESS}/sign-in`);
  await expect(page.getByRole('button', { name: 'With this device' })).toBeHidden();
});
