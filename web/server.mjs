// Serves the built application and lets requests in progress finish when it is told to stop.
process.env.ASTRO_NODE_AUTOSTART = 'disabled';
const { startServer } = await import('./dist/server/entry.mjs');
const { server } = startServer();

// 'disconnect': the start command is gone, however it went; a server without it would only hold the port.
for (const signal of ['SIGINT', 'SIGTERM', 'disconnect']) {
  process.on(signal, () => {
    server.server.close(() => process.exit(0));
    server.server.closeIdleConnections();
    setTimeout(() => process.exit(0), 5000).unref();
  });
}
