// Serves the built application and lets requests in progress finish when it is told to stop.
import { guard } from './doors.mjs';

process.env.ASTRO_NODE_AUTOSTART = 'disabled';
process.env.HANZAI_SERVES_BUILD = '1';
const { startServer } = await import('./dist/server/entry.mjs');
const { server } = startServer();
guard(server.server);

// What nobody expected ends this run with its reason in the log; the start command begins another
// one.
process.on('uncaughtException', (error) => {
  process.stderr.write(
    `${JSON.stringify({ level: 60, time: Date.now(), msg: 'the server ends', name: error?.name, stack: error?.stack })}\n`,
  );
  process.exit(70);
});

// 'disconnect': the start command is gone, however it went; a server without it would only hold the
// port.
for (const signal of ['SIGINT', 'SIGTERM', 'disconnect']) {
  process.on(signal, () => {
    server.server.close(() => process.exit(0));
    server.server.closeIdleConnections();
    setTimeout(() => process.exit(0), 3000).unref();
  });
}
