/**
 * A hundred thousand requests, fifty at a time, and what the server holds after ten thousand and after all of them; then 500 readers of
 * the bench's stream that take nothing, and 2 000 requests a second for ten seconds whether they are answered or not. Run by hand:
 *
 *   npm run soak
 */
import { Agent, type ClientRequest, get } from 'node:http';
import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';

import { bin, ensureExport, root } from './lib.mjs';

const ALL = 100_000;
const FIRST = 10_000;
const AT_ONCE = 50;
const STREAMS = 500;
const FLOOD_PER_S = 2000;
const FLOOD_S = 10;
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

/** Whether a plain request is still answered, and how soon, ms. */
const answers = async (): Promise<number> => {
  const asked = performance.now();
  const status = await ask('/api/health').catch(() => 0);
  return status === 200 ? performance.now() - asked : Infinity;
};
const tally = (list: readonly string[]) =>
  JSON.stringify(Object.fromEntries([...new Set(list)].map((k) => [k, list.filter((x) => x === k).length])));

const reading: ClientRequest[] = [];
const opened = await Promise.all(
  Array.from(
    { length: STREAMS },
    () =>
      new Promise<string>((resolve) => {
        const stream = get({ host: '127.0.0.1', port: PORT, path: '/api/bench/live', agent: false });
        reading.push(stream);
        // what is sent is left lying
        stream.once('response', (answer) => {
          answer.pause();
          answer.on('error', () => undefined);
          resolve(String(answer.statusCode));
        });
        stream.on('error', (error) => resolve((error as NodeJS.ErrnoException).code ?? 'error'));
      }),
  ),
);
const beside = await answers();
const withStreams = heldMB(server);
for (const stream of reading) stream.destroy();
console.log(
  `${STREAMS} streams: ${tally(opened)}; ${withStreams.toFixed(0)} MB, a request beside them answered in ${beside.toFixed(0)} ms`,
);

const flood: string[] = [];
const asked: Promise<void>[] = [];
const floodBegan = performance.now();
while (performance.now() - floodBegan < FLOOD_S * 1000) {
  const due = ((performance.now() - floodBegan) / 1000) * FLOOD_PER_S;
  while (asked.length < due)
    asked.push(
      new Promise((resolve) => {
        const end = (what: string) => {
          flood.push(what);
          resolve();
        };
        get({ host: '127.0.0.1', port: PORT, path: '/api/health', agent: false }, (answer) => {
          answer.resume();
          answer.once('end', () => end(String(answer.statusCode)));
          answer.once('error', () => end('cut'));
        }).once('error', (error) => end((error as NodeJS.ErrnoException).code ?? 'error'));
      }),
    );
  await new Promise((resolve) => setTimeout(resolve, 5));
}
await Promise.all(asked);
const after = await answers();
const flooded = heldMB(server);
console.log(
  `${asked.length} requests asked in ${FLOOD_S} s, each by its own connection: ${tally(flood)}; ${flooded.toFixed(0)} MB, the next answered in ${after.toFixed(0)} ms`,
);
server.kill();
agent.destroy();
const grew = late > early * 1.5 || withStreams > late * 1.5 || flooded > late * 1.5;
process.exit(grew || counts[0] || !(beside < 1000) || !(after < 1000) ? 1 : 0);
