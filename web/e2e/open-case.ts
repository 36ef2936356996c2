import { expect, type Page } from '@playwright/test';

/** Opens a stage of the first case whose row has this title; returns the case's number. */
export async function openCase(page: Page, title: RegExp, stage: string): Promise<string> {
  await page.goto('/');
  const href = await page.getByRole('row', { name: title }).first().getByRole('link').getAttribute('href');
  const number = /\/case\/(\d+)/.exec(href!)![1]!;
  await page.goto(`/case/${number}/${stage}`);
  await alive(page);
  return number;
}

/** Waits until a page has come to life: only then does it keep what is typed. */
export async function alive(page: Page): Promise<void> {
  await expect(page.locator('astro-island[ssr]')).toHaveCount(0);
}
