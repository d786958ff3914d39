import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { type Server } from 'node:http';
import { type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';

import { createApp } from '../app';

/** For one test file: the app over an export of the given files (path to contents), on a free port of this machine. */
export function serving(files: Readonly<Record<string, string>>): { readonly port: number } {
  const dist = mkdtempSync(join(tmpdir(), 'dist-'));
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(dist, path)), { recursive: true });
    writeFileSync(join(dist, path), text);
  }
  const at = { port: 0 };
  let server: Server;
  beforeAll(async () => {
    server = createApp(dist).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    at.port = (server.address() as AddressInfo).port;
  });
  afterAll(() => {
    server.close();
    server.closeAllConnections();
  });
  return at;
}
