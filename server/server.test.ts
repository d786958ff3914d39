import http from 'node:http';

import { createApp } from './app';
import { serving } from './test/serving';

const at = serving({
  'index.html': '<!doctype html><title>page</title>'.padEnd(4000),
  '_expo/static/entry-abc.js': 'x'.repeat(4000),
});

const get = (path: string, foreign?: string) =>
  new Promise<{ status: number; headers: http.IncomingHttpHeaders; body: string }>((resolve, reject) => {
    const host = foreign ?? `127.0.0.1:${at.port}`;
    http
      .get(
        { port: at.port, host: '127.0.0.1', path, headers: { host, 'accept-encoding': 'gzip' } },
        (res) => {
          let body = '';
          res.on('data', (chunk) => (body += chunk));
          res.on('end', () => resolve({ status: res.statusCode!, headers: res.headers, body }));
        },
      )
      .on('error', reject);
  });

test('every place answers with the page, uncached; hashed files are kept for good and compressed', async () => {
  const page = await get('/mix');
  expect([page.status, page.headers['cache-control']]).toEqual([200, 'no-cache']);
  const file = await get('/_expo/static/entry-abc.js');
  expect(file.headers['cache-control']).toMatch(/max-age=31536000, immutable/);
  expect(file.headers['content-encoding']).toBe('gzip');
});

test('a missing hashed file is a 404, not the page; unknown api addresses too', async () => {
  expect((await get('/_expo/static/entry-old.js')).status).toBe(404);
  expect((await get('/api/nothing')).status).toBe(404);
  expect((await get('/_expo/static/..%2f..%2fsecret')).status).toBeGreaterThanOrEqual(400);
});

test('security headers, one origin, no foreign host', async () => {
  const { headers } = await get('/');
  expect(headers['content-security-policy']).toContain("default-src 'self'");
  expect(headers['content-security-policy']).toContain("worker-src 'self' blob:");
  expect(headers['x-content-type-options']).toBe('nosniff');
  expect(headers['x-powered-by']).toBeUndefined();
  const local = await get('/day', `localhost:${at.port}`);
  expect([local.status, local.headers.location]).toEqual([308, `http://127.0.0.1:${at.port}/day`]);
  expect((await get('/', 'reef.example')).status).toBe(421);
});

test('only this server’s own pages and programs change anything, and only by JSON', async () => {
  const post = (headers: Record<string, string>, body = '{}') =>
    new Promise<number>((resolve, reject) => {
      const call = http.request(
        {
          port: at.port,
          host: '127.0.0.1',
          method: 'POST',
          path: '/api/bench/reset',
          headers: { host: `127.0.0.1:${at.port}`, 'content-length': body.length, ...headers },
        },
        (res) => {
          res.resume();
          resolve(res.statusCode!);
        },
      );
      call.on('error', reject);
      call.end(body);
    });
  const json = { 'content-type': 'application/json' };
  expect(await post(json)).toBe(200);
  expect(
    await post({ ...json, origin: `http://127.0.0.1:${at.port}`, 'sec-fetch-site': 'same-origin' }),
  ).toBe(200);
  // a form of any web page, a page on another port, a sandboxed frame
  expect(await post({ origin: 'https://elsewhere.example', 'content-type': 'text/plain' })).toBe(403);
  expect(await post({ ...json, origin: 'http://127.0.0.1:1' })).toBe(403);
  expect(await post({ ...json, origin: 'null' })).toBe(403);
  expect(await post({ ...json, 'sec-fetch-site': 'cross-site' })).toBe(403);
  expect(await post({ 'content-type': 'text/plain' })).toBe(415);
});

test('without an export it says what to do', () => {
  expect(() => createApp('/nowhere')).toThrow(/npm run demo/);
});
