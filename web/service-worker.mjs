// Makes the service worker of a build: what the application is made of is kept in the browser, with
// the cases lately opened, so that work goes on while the server is away.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { generateSW } from 'workbox-build';

const client = fileURLToPath(new URL('./dist/client', import.meta.url));
const server = fileURLToPath(new URL('./dist/server/entry.mjs', import.meta.url));
const WEEK_SECONDS = 7 * 86_400;

/** An answer that says "not now" is as good as none: what is kept is shown instead. */
const awayIsNoAnswer = {
  fetchDidSucceed: async ({ response }) => {
    if (response.status >= 500 || response.status === 429) throw new Error('away');
    return response;
  },
};

/** Asks the server first, for so many seconds; then shows what it said last. */
const serverFirst = (urlPattern, cacheName, maxEntries) => ({
  urlPattern,
  handler: 'NetworkFirst',
  options: {
    cacheName,
    networkTimeoutSeconds: 5,
    expiration: { maxEntries, maxAgeSeconds: WEEK_SECONDS },
    cacheableResponse: { statuses: [200] },
    plugins: [awayIsNoAnswer],
  },
});

/** What never changes under its address. */
const keptFirst = (urlPattern, cacheName, maxEntries) => ({
  urlPattern,
  handler: 'CacheFirst',
  options: {
    cacheName,
    expiration: { maxEntries, maxAgeSeconds: WEEK_SECONDS, purgeOnQuotaError: true },
    cacheableResponse: { statuses: [200] },
  },
});

// The page that any case is shown in is new with every build.
const revision = createHash('sha256').update(readFileSync(server)).digest('hex').slice(0, 16);

const { count, size, warnings } = await generateSW({
  globDirectory: client,
  globPatterns: ['**/*.{js,css,woff2,svg}'],
  // The reader of markings is large: it is kept when it was asked for once.
  globIgnores: ['**/tesseract*', '**/worker.min*'],
  dontCacheBustURLsMatching: /^_astro\//,
  maximumFileSizeToCacheInBytes: 8_000_000,
  swDest: `${client}/sw.js`,
  sourcemap: false,
  skipWaiting: true,
  clientsClaim: true,
  cleanupOutdatedCaches: true,
  inlineWorkboxRuntime: true,
  additionalManifestEntries: [{ url: '/case-without-server', revision }],
  runtimeCaching: [
    {
      urlPattern: ({ request, url }) =>
        request.mode === 'navigate' && /^\/case\/\d+\//.test(url.pathname),
      handler: 'NetworkOnly',
      options: {
        precacheFallback: { fallbackURL: '/case-without-server' },
      },
    },
    // What a visitor's link shows is kept nowhere.
    serverFirst(
      ({ request, url }) => request.mode === 'navigate' && !url.pathname.startsWith('/visit/'),
      'pages',
      20,
    ),
    serverFirst(({ url }) => url.pathname.startsWith('/api/cases/by-number/'), 'cases', 60),
    serverFirst(
      ({ url }) =>
        /^\/api\/(boards|cases|instruments|patterns|stock(\/needs)?)$/.test(url.pathname),
      'lists',
      30,
    ),
    serverFirst(
      ({ url }) =>
        /^\/api\/(cases\/[0-9a-f-]+\/others|patterns\/board\/[0-9a-f-]+)$/.test(url.pathname),
      'lists',
      60,
    ),
    keptFirst(({ url }) => /^\/api\/boards\/[0-9a-f-]+$/.test(url.pathname), 'boards', 60),
    serverFirst(
      ({ url }) => /^\/api\/boards\/[0-9a-f-]+\/pictures$/.test(url.pathname),
      'lists',
      30,
    ),
    keptFirst(({ url }) => /^\/api\/(board-)?pictures\//.test(url.pathname), 'pictures', 200),
    keptFirst(
      ({ url }) => /\/_astro\/(tesseract|worker\.min|eng\.)/.test(url.pathname),
      'reader',
      6,
    ),
  ],
});
for (const warning of warnings) process.stderr.write(`${warning}\n`);
process.stdout.write(`service worker: ${count} files, ${(size / 1e6).toFixed(1)} MB kept\n`);
