import { createHash } from 'node:crypto';

/** Scripts that stand in a page itself, as the islands' own loader does. */
const INLINE_SCRIPT = /<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g;

/**
 * What a page may load and run: its own files, and of scripts in the page exactly those that it
 * came with. Source: W3C, Content Security Policy Level 3.
 */
export function pagePolicy(html: string): string {
  const own = new Set(
    [...html.matchAll(INLINE_SCRIPT)].map(
      ([, text]) => `'sha256-${createHash('sha256').update(text!).digest('base64')}'`,
    ),
  );
  return [
    "default-src 'self'",
    `script-src 'self' ${[...own].join(' ')}`.trim(),
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "worker-src 'self' blob:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}
