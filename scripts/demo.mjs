// npm run demo: install what is missing, build, serve the app with its demo case, print the address.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { bin, ensureExport, ensurePackages, root } from './lib.mjs';

const port = Number(process.env.PORT ?? 8360);
if (!Number.isInteger(port) || port < 1 || port > 65535) {
  console.error(`PORT is "${process.env.PORT}": give a whole number from 1 to 65535.`);
  process.exit(2);
}

/** Another port would be another origin with another store, so a taken port is said, never stepped over. */
const free = await new Promise((resolve) => {
  const probe = createServer()
    .once('error', () => resolve(false))
    .once('listening', () => probe.close(() => resolve(true)))
    .listen(port, '127.0.0.1');
});
if (!free) {
  console.error(
    `Port ${port} on 127.0.0.1 is taken. If that is Chromatheca already running, open http://127.0.0.1:${port}/.\n` +
      `Otherwise stop the other program, or choose a port: PORT=${port + 1} npm run demo\n` +
      'Note: the browser keeps a separate store for each port; your tanks stay with the port you made them on.',
  );
  process.exit(1);
}

try {
  await ensurePackages();
  await ensureExport();
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
const server = spawn(bin('tsx'), ['server/index.ts'], {
  cwd: root,
  env: { ...process.env, PORT: String(port) },
  stdio: ['ignore', 'inherit', 'inherit'],
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('close', (code) => process.exit(code ?? 0));
