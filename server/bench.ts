import express, { type NextFunction, type Request, type Response, Router } from 'express';

import { Bench } from '../src/heads/bench';

/** A message is small: a schedule is sent a few points at a time. */
const LARGEST_BODY = '32kb';
/** How often a head says what it emits, ms. */
const LIVE_EVERY_MS = 250;
const MOST_LISTENERS = 100;
/** Who takes nothing for so long is let go, ms: it may come back. */
const STALLED_MS = 10_000;

/** A bench begins at the hour it is put up. */
const minuteNow = (): number => new Date().getHours() * 60 + new Date().getMinutes();

/** The simulated bench over HTTP: JSON messages, and server-sent events of what each head emits. */
export function benchRouter(
  bench = new Bench(() => Date.now(), minuteNow()),
  stalledMs = STALLED_MS,
): Router {
  const router = Router();
  let listeners = 0;

  // one stream for all heads: a browser keeps only a few connections to one host
  router.get('/live', (req, res) => {
    if (listeners >= MOST_LISTENERS) {
      res.status(503).json({ error: { code: 'busy', message: 'too many listeners' } });
      return;
    }
    listeners += 1;
    res.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      Connection: 'keep-alive',
    });
    let tookMs = Date.now();
    const tell = () => {
      // who does not read is told nothing more until what was sent is taken, and let go if it never is
      if (res.writableNeedDrain) {
        if (Date.now() - tookMs > stalledMs) req.socket.destroy();
        return;
      }
      tookMs = Date.now();
      res.write(`data: ${JSON.stringify(bench.allLive())}\n\n`);
      // what a compressor holds back is no live view
      (res as Response & { flush?: () => void }).flush?.();
    };
    tell();
    const timer = setInterval(tell, LIVE_EVERY_MS);
    req.on('close', () => {
      clearInterval(timer);
      listeners -= 1;
    });
  });

  router.use(express.json({ limit: LARGEST_BODY, strict: true }));
  router.use((req: Request, res: Response) => {
    const { status, body, delayMs, lost } = bench.handle(req.method, req.path, req.body as unknown);
    const send = () => {
      // a head that does not answer: the line is cut
      if (lost) req.socket.destroy();
      else res.status(status).json(body);
    };
    if (delayMs > 0) setTimeout(send, delayMs);
    else send();
  });
  router.use((error: unknown, _req: Request, res: Response, next: NextFunction) => {
    if (res.headersSent) {
      next(error);
      return;
    }
    const { status = 500, type } = error as { status?: number; type?: string };
    const message =
      type === 'entity.too.large'
        ? `a message holds at most ${LARGEST_BODY}`
        : status === 400
          ? 'this is not JSON'
          : 'the bench could not answer';
    res.status(status).json({ error: { code: type ?? 'failed', message } });
  });
  return router;
}
