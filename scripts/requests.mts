/**
 * A hundred thousand requests, fifty at a time, and what the server holds after ten thousand and after all of them. Run by hand:
 *
 *   npm run soak
 */
import { Agent, get } from 'node:http';
import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';

import { bin, ensureExport, root } from './lib.mjs';

const ALL = 100_000;
const FIRST = 10_000;
const AT_ONCE = 50;
const PORT = 4199;
const PATHS = ['/api/bench/heads', '/api/health', '/', '/api/bench/nothing'];

const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE });
const ask = (path: string): Promise<number> =>
  new Promise((resolve, reject) => {
    get({ host: '127.0.0.1', port: PORT, path, agent }, (answer) => {
      answer.resume();
      answer.once('end', () => resolve(answer.statusCode!));
    }).once('error', reject);
  });
const heldMB = (server: ChildProcess): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1000;

await ensureExport();
const server = spawn(process.execPath, ['--import', 'tsx', 'server/index.ts'], {
  cwd: root,
  env: { ...process.env, PORT: String(PORT), PATH: `${bin('')}:${process.env.PATH}` },
  stdio: 'ignore',
});
for (let i = 0; i < 100; i += 1) {
  if ((await ask('/api/health').catch(() => 0)) === 200) break;
  await new Promise((resolve) => setTimeout(resolve, 100));
}
const began = performance.now();
const counts: Record<number, number> = {};
let sent = 0;
let early = 0;
const lane = async () => {
  while (sent < ALL) {
    sent += 1;
    if (sent === FIRST) early = heldMB(server);
    const status = await ask(PATHS[sent % PATHS.length]!).catch(() => 0);
    counts[status] = (counts[status] ?? 0) + 1;
  }
};
await Promise.all(Array.from({ length: AT_ONCE }, lane));
const seconds = (performance.now() - began) / 1000;
const late = heldMB(server);
console.log(
  `${ALL} requests in ${seconds.toFixed(0)} s (${(ALL / seconds).toFixed(0)} a second): ${JSON.stringify(counts)}; ${early.toFixed(0)} MB after ${FIRST}, ${late.toFixed(0)} MB after all`,
);
server.kill();
agent.destroy();
process.exit(late > early * 1.5 || counts[0] ? 1 : 0);
