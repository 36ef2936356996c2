import { z } from 'zod';
import { ask, withBody } from '../store/answers';

/**
 * Signs out. What this browser kept of the workshop's answers goes with it; what waits to be sent
 * stays, and is sent when somebody signs in again.
 */
export async function leaveBrowser(): Promise<void> {
  await ask('/api/auth/sign-out', z.unknown(), withBody('POST', {}));
  if ('caches' in globalThis)
    for (const name of await caches.keys())
      if (!name.includes('precache')) await caches.delete(name);
  window.location.assign('/sign-in');
}
