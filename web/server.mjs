// Serves the built application and lets requests in progress finish when it is told to stop.
process.env.ASTRO_NODE_AUTOSTART = 'disabled';
const { startServer } = await import('./dist/server/entry.mjs');
const { server } = startServer();

for (const signal of ['SIGINT', 'SIGTERM']) {
  process.on(signal, () => {
    server.server.close(() => process.exit(0));
    server.server.closeIdleConnections();
    setTimeout(() => process.exit(0), 5000).unref();
  });
}
