import { expect, type Locator, type Page } from '@playwright/test';

/** Opens a stage of the first case whose row has this title; returns the case's number. */
export async function openCase(page: Page, title: RegExp, stage: string): Promise<string> {
  await visit(page, '/');
  const href = await page
    .getByRole('row', { name: title })
    .first()
    .getByRole('link')
    .getAttribute('href');
  const number = /\/case\/(\d+)/.exec(href!)![1]!;
  await visit(page, `/case/${number}/${stage}`);
  return number;
}

/** Goes to a page and waits until it has come to life. */
export async function visit(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await alive(page);
}

/** Waits until a page has come to life: only then does it keep what is typed and hear its keys. */
export async function alive(page: Page): Promise<void> {
  await expect(page.locator('astro-island[ssr]')).toHaveCount(0);
  await expect(page.getByText(/being (opened|fetched) …/)).toHaveCount(0);
  await expect(page.locator('main')).toBeVisible();
}

/** Clicks on what leads to another page and waits until that has come to life. */
export async function follow(page: Page, way: Locator): Promise<void> {
  const here = page.url();
  await way.click();
  await page.waitForURL((url) => url.href !== here);
  await alive(page);
}

/** Goes to another stage of the case. */
export function toStage(page: Page, name: string): Promise<void> {
  return follow(
    page,
    page.getByRole('navigation', { name: 'Stages of the case' }).getByRole('link', { name }),
  );
}
