// Serves the built application and lets requests in progress finish when it is told to stop. With
// HANZAI_PROCESSES above 1 that many processes share the port: nothing that matters is in one of them.
import cluster from 'node:cluster';
import { guard } from './doors.mjs';

const processes = Math.min(64, Number(process.env.HANZAI_PROCESSES) || 1);
if (cluster.isPrimary && processes > 1) sharePort(processes);
else await serve();

/** One process for each share of the port; one that ends is begun anew, after a while. */
function sharePort(count) {
  let stopping = false;
  // What a process asks the start command for goes through, and so does the answer.
  const ask = (worker) =>
    worker.on('message', (message) => process.connected && process.send(message));
  const begin = () => ask(cluster.fork());
  for (let i = 0; i < count; i += 1) begin();
  process.on('message', (message) => {
    for (const worker of Object.values(cluster.workers)) worker?.send(message);
  });
  cluster.on('exit', (_worker, status, signal) => {
    if (stopping) {
      if (Object.keys(cluster.workers).length === 0) process.exit(0);
      return;
    }
    process.stderr.write(
      `${JSON.stringify({ level: 50, time: Date.now(), msg: 'a process ended', status, signal })}\n`,
    );
    setTimeout(() => !stopping && begin(), 500);
  });
  for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'])
    process.on(signal, () => {
      stopping = true;
      for (const worker of Object.values(cluster.workers)) worker?.process.kill('SIGTERM');
      setTimeout(() => process.exit(0), 4000).unref();
    });
}

async function serve() {
  // What is built is served as such: React by itself makes pages as for development, ten times slower.
  process.env.NODE_ENV = 'production';
  process.env.ASTRO_NODE_AUTOSTART = 'disabled';
  process.env.HANZAI_SERVES_BUILD = '1';
  // A certificate given to it: what goes over the network is nobody else's to read.
  process.env.SERVER_CERT_PATH = process.env.HANZAI_CERTIFICATE ?? '';
  process.env.SERVER_KEY_PATH = process.env.HANZAI_KEY ?? '';
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
}
