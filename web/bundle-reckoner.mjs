// Bundles what the server's worker threads run, so that they start in a moment.
import { fileURLToPath } from 'node:url';
import { build } from 'vite';

await build({
  root: fileURLToPath(new URL('.', import.meta.url)),
  configFile: false,
  logLevel: 'warn',
  publicDir: false,
  build: {
    ssr: 'src/server/reckoning/tasks.ts',
    outDir: 'dist/reckoner',
    rollupOptions: { output: { entryFileNames: 'tasks.js' } },
  },
  ssr: { noExternal: true },
});
