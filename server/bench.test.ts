import http from 'node:http';

import { serving } from './test/serving';

const at = serving({ 'index.html': '<!doctype html><title>page</title>' });
const make = {
  name: 'Head',
  profile: {
    name: 'Points',
    maxPoints: null,
    everyMin: 1,
    stepShare: 0.01,
    lowestShare: 0,
    interpolation: 'ramp',
    capMeans: 'multiplies',
    switches: false,
  },
  controls: [{ id: 'a', name: 'A' }],
};

const agent = new http.Agent({ keepAlive: true, maxSockets: 20 });
afterAll(() => agent.destroy());
const ask = (
  method: string,
  path: string,
  body?: string,
  headers: Record<string, string> = {},
): Promise<{ status: number; text: string }> =>
  new Promise((resolve, reject) => {
    const request = http.request(
      {
        port: at.port,
        host: '127.0.0.1',
        method,
        path: `/api/bench${path}`,
        agent,
        headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      },
      (response) => {
        let text = '';
        response.on('data', (chunk) => (text += chunk));
        response.on('end', () => resolve({ status: response.statusCode!, text }));
      },
    );
    request.on('error', reject);
    request.end(body);
  });
const post = (path: string, body: unknown) => ask('POST', path, JSON.stringify(body));

test('heads over HTTP: made, loaded, read back, listened to, taken away', async () => {
  const made = await post('/heads', make);
  expect(made.status).toBe(201);
  const { id } = JSON.parse(made.text) as { id: string };
  expect((await post(`/heads/${id}/cap`, { capShare: 0.4 })).status).toBe(200);
  expect(JSON.parse((await ask('GET', `/heads/${id}/schedule`)).text)).toMatchObject({
    active: { capShare: 0.4 },
  });
  const events = await new Promise<string>((resolve, reject) => {
    const request = http.get({ port: at.port, host: '127.0.0.1', path: '/api/bench/live' }, (response) => {
      let text = '';
      response.on('data', (chunk) => {
        text += chunk;
        if (text.split('\n\n').length > 3) {
          request.destroy();
          resolve(text);
        }
      });
    });
    request.on('error', reject);
  });
  expect(JSON.parse(events.split('\n\n')[0]!.replace('data: ', ''))).toMatchObject({
    live: [{ headId: id, mode: 'program', drive: [0] }],
    gone: [],
  });
  await post(`/heads/${id}/faults`, { faults: ['offline'] });
  await expect(ask('GET', `/heads/${id}`)).rejects.toThrow();
  expect((await ask('DELETE', `/heads/${id}`)).status).toBe(200);
});

test('malformed, oversize and foreign requests are refused, and it stays up under hundreds at once', async () => {
  expect(await ask('POST', '/heads', '{"name":')).toMatchObject({
    status: 400,
    text: expect.stringContaining('not JSON'),
  });
  expect((await ask('POST', '/heads', `"${'x'.repeat(100_000)}"`)).status).toBe(413);
  expect((await ask('POST', '/heads', 'null')).status).toBe(400);
  expect((await post('/heads', { ...make, controls: [] })).text).toContain('at least 1 needed');
  expect((await ask('GET', '/heads', undefined, { host: 'lamp.example' })).status).toBe(421);
  expect((await ask('PUT', '/heads/%2e%2e/secret', '{}')).status).toBeGreaterThanOrEqual(400);

  const timed = async <T>(of: (i: number) => Promise<T>) => {
    const began = performance.now();
    const answers = await Promise.all(Array.from({ length: 600 }, (_, i) => of(i)));
    return { answers, took: performance.now() - began };
  };
  // set against as many plain questions, since machines differ
  const plain = await timed(() => ask('GET', '/clock'));
  const { answers, took } = await timed((i) =>
    i % 3 === 0
      ? ask('GET', '/heads')
      : i % 3 === 1
        ? ask('POST', '/heads/none/transfer', '{"step":"begin"}')
        : ask('POST', '/clock', '{broken'),
  );
  expect(answers.filter((a) => a.status === 200)).toHaveLength(200);
  expect(answers.every((a) => a.status < 500)).toBe(true);
  expect(took / plain.took).toBeLessThan(4);
  expect((await ask('GET', '/heads')).status).toBe(200);
  // no more heads than a bench holds
  for (let i = 0; i < 64; i += 1) await post('/heads', make);
  expect(await post('/heads', make)).toMatchObject({
    status: 409,
    text: expect.stringContaining('at most 64'),
  });
  await post('/reset', {});
});
