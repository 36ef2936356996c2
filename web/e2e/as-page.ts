import type { BrowserContext } from '@playwright/test';
import { TOKEN_HEADER, tokenIn } from '../src/people/page-token';

/** What a page of this browser shows with a request that changes something. */
export async function asPage(context: BrowserContext): Promise<Record<string, string>> {
  const cookies = (await context.cookies()).map(({ name, value }) => `${name}=${value}`);
  const token = tokenIn(cookies.join('; '));
  if (token === undefined) throw new Error('this browser has no token: open a page first');
  return { [TOKEN_HEADER]: token };
}
