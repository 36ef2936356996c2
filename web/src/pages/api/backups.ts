import type { APIRoute } from 'astro';
import { askForBackup, ownBackups } from '../../server/health/backups';
import { answer, json, problem } from '../../server/problem';

/** GET: the backups that there are, the newest first. */
export const GET: APIRoute = () => answer(async () => json(ownBackups()));

/** POST: makes one now, and answers when it is made. */
export const POST: APIRoute = () =>
  answer(async () => {
    const made = await askForBackup();
    return made.ok ? json(made.value, 201) : problem(503, 'No backup was made', made.detail);
  });
