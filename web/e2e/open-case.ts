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

/**
 * Opens a stage of a copy of the first case whose row has this title: its board, its unit, what was
 * acknowledged of its hazards, and its readings p5 and vm; nothing that another test has done to it.
 * Returns the copy's number.
 */
export async function copyCase(page: Page, title: RegExp, stage: string): Promise<string> {
  const of = await openCase(page, title, 'take-in');
  const number = await page.evaluate(async (from) => {
    const ask = async (path: string, body?: unknown) => {
      const answer = await fetch(path, {
        method: body ? 'POST' : 'GET',
        ...(body
          ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
          : {}),
      });
      if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
      return answer.json();
    };
    const { boardId, unitModel, unitType, entries } = await ask(`/api/cases/by-number/${from}`);
    const copy = await ask('/api/cases', {
      title: 'a copy for a test',
      unitModel: `${unitModel} copy`,
      unitType,
      boardId,
    });
    type Sent = { body: { kind: string; typed?: string } };
    const readings = ['p5', 'vm'].map((at) =>
      (entries as Sent[]).find(
        ({ body }) => body.kind === 'reading' && body.typed?.startsWith(`${at} `),
      ),
    );
    const told = (entries as Sent[]).filter(({ body }) =>
      ['acknowledge', 'residual'].includes(body.kind),
    );
    for (const entry of [...told, ...readings]) {
      if (!entry) throw new Error('the case has no readings p5 and vm');
      await ask(`/api/cases/${copy.id}/entries`, {
        id: crypto.randomUUID(),
        madeAt: new Date().toISOString(),
        body: entry.body,
      });
    }
    return (await ask(`/api/cases/${copy.id}`)).number as number;
  }, of);
  await visit(page, `/case/${number}/${stage}`);
  return String(number);
}

/** Opens a stage of a new case on a board of this bench sheet; returns the case's number. */
export async function caseOf(page: Page, sheet: string, stage: string): Promise<string> {
  await visit(page, '/');
  const number = await page.evaluate(async (text) => {
    const post = async (path: string, body: unknown) => {
      const answer = await fetch(path, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
      return answer.json();
    };
    const { id: boardId } = await post('/api/boards', { fileName: 'test.sheet', text });
    const made = await post('/api/cases', {
      title: 'a board for a test',
      unitModel: 'test',
      boardId,
    });
    return (await (await fetch(`/api/cases/${made.id}`)).json()).number as number;
  }, sheet);
  await visit(page, `/case/${number}/${stage}`);
  return String(number);
}
