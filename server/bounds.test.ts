import express from 'express';
import http from 'node:http';
import net from 'node:net';
import type { AddressInfo } from 'node:net';

import type { Bench } from '../src/heads/bench';
import { benchRouter } from './bench';
import { bounded } from './bounds';

const BIG = 'x'.repeat(2_000_000);
const app = express();
// a bench that has very much to say
app.use(
  benchRouter(
    { allLive: () => [BIG], handle: () => ({ status: 200, body: {}, delayMs: 0 }) } as unknown as Bench,
    600,
  ),
);
let server: http.Server;
let port: number;
beforeAll(async () => {
  server = bounded(app.listen(0, '127.0.0.1'));
  await new Promise((resolve) => server.once('listening', resolve));
  ({ port } = server.address() as AddressInfo);
});
afterAll(async () => {
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
});

const raw = (send: string): net.Socket => {
  const socket = net.connect(port, '127.0.0.1');
  socket.on('error', () => undefined);
  socket.write(send);
  return socket;
};
const gone = (socket: net.Socket) =>
  new Promise<void>((resolve) => (socket.destroyed ? resolve() : socket.once('close', () => resolve())));
const ask = () =>
  new Promise<number>((resolve, reject) => {
    http
      .get({ port, host: '127.0.0.1', path: '/heads', agent: false }, (res) => {
        res.resume();
        res.on('end', () => resolve(res.statusCode!));
      })
      .on('error', reject);
  });

test('who takes nothing of a stream is let go and holds no more than was sent; others are answered meanwhile', async () => {
  const before = process.memoryUsage().rss;
  const paused = Array.from({ length: 12 }, () => raw('GET /live HTTP/1.1\r\nHost: x\r\n\r\n').pause());
  const ends = paused.map(
    (s) =>
      new Promise<void>((resolve) => {
        const check = setInterval(() => {
          // a paused socket does not hear of its end: it is asked for by writing
          s.write('.', (error) => {
            if (!error) return;
            clearInterval(check);
            resolve();
          });
        }, 100);
      }),
  );
  expect(await ask()).toBe(200);
  await Promise.all(ends);
  expect(process.memoryUsage().rss - before).toBeLessThan(250e6);
  paused.forEach((s) => s.destroy());
}, 30_000);

test('more connections than a keeper needs are refused, and it goes on once they are gone', async () => {
  const many = Array.from({ length: 300 }, () => raw(''));
  await Promise.race(many.map(gone));
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect(many.filter((s) => s.destroyed).length).toBeGreaterThan(20);
  many.forEach((s) => s.destroy());
  await new Promise((resolve) => setTimeout(resolve, 100));
  expect(await ask()).toBe(200);
}, 30_000);

test('limits of time are set: a head or a body that never comes holds nothing for long', () => {
  expect(server.headersTimeout).toBeLessThanOrEqual(10_000);
  expect(server.requestTimeout).toBeLessThanOrEqual(20_000);
  expect(server.maxRequestsPerSocket).toBeGreaterThan(0);
});
