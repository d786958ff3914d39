import { join } from 'node:path';

import { createApp } from './app';
import { bounded } from './bounds';

const port = Number(process.env.PORT ?? 8360);
const server = bounded(
  createApp(join(__dirname, '../dist')).listen(port, '127.0.0.1', () => {
    console.log(`Chromatheca is at http://127.0.0.1:${port}/  (stop with Ctrl-C)`);
  }),
);
server.on('error', (error: NodeJS.ErrnoException) => {
  console.error(
    error.code === 'EADDRINUSE'
      ? `Port ${port} on 127.0.0.1 is taken. Stop the other program or set PORT to a free one.`
      : error.message,
  );
  process.exit(1);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
