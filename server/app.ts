import compression from 'compression';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

import { benchRouter } from './bench';

const YEAR_MS = 365 * 24 * 3600 * 1000;
const LOOPBACK = new Set(['127.0.0.1', '[::1]']);

/**
 * The Express application that serves the exported web app and the simulated bench. It keeps no data: tanks live in the browser.
 * @param distDir directory of the web export
 * @throws Error when the export is missing
 */
export function createApp(distDir: string): Express {
  const page = join(distDir, 'index.html');
  if (!existsSync(page)) throw new Error(`No web export in ${distDir}. Run "npm run demo", which builds it.`);
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          workerSrc: ["'self'", 'blob:'],
          // react-native-web writes its style sheet into the page
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'", 'data:'],
          connectSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  app.use(onlyThisMachine);
  app.use(onlyOwnPages);
  app.use(compression());
  app.get('/api/health', (_req, res) => {
    res.json({ ok: true });
  });
  app.use('/api/bench', benchRouter());
  // Files whose name holds a hash never change; a missing one is a 404, not the page.
  app.use(['/_expo', '/assets'], (req, res, next) => {
    express.static(join(distDir, req.baseUrl), {
      immutable: true,
      maxAge: YEAR_MS,
      fallthrough: false,
      index: false,
    })(req, res, next);
  });
  app.use(express.static(distDir, { index: false, maxAge: 0, dotfiles: 'ignore' }));
  app.get('/{*splat}', (req, res) => {
    if (req.path.startsWith('/api/')) {
      res.status(404).json({ error: 'unknown address' });
      return;
    }
    res.setHeader('Cache-Control', 'no-cache');
    res.sendFile(page);
  });
  app.use((error: unknown, _req: Request, res: Response, next: NextFunction) => {
    if (res.headersSent) {
      next(error);
      return;
    }
    const status = (error as { status?: number }).status ?? 500;
    res
      .status(status)
      .type('text/plain')
      .send(status === 404 ? 'not found' : 'error');
  });
  return app;
}

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);
/**
 * What changes something is taken from this server's own pages and from programs, never from a page of another origin: browsers name
 * the origin of every such call (Fetch Standard, "Origin"; Fetch Metadata). A body is JSON, which no plain form can send.
 */
function onlyOwnPages(req: Request, res: Response, next: NextFunction): void {
  if (SAFE.has(req.method)) return next();
  const { origin, host } = req.headers;
  const site = req.headers['sec-fetch-site'];
  const foreign =
    (origin !== undefined && origin !== `http://${host}`) ||
    (site !== undefined && site !== 'same-origin' && site !== 'none');
  const body =
    Number(req.headers['content-length'] ?? 0) > 0 || req.headers['transfer-encoding'] !== undefined;
  if (foreign)
    res
      .status(403)
      .json({ error: { code: 'foreign', message: 'only pages of this server may change anything' } });
  else if (body && !req.is('application/json'))
    res.status(415).json({ error: { code: 'type', message: 'send JSON, with its content type' } });
  else next();
}

/** One origin, one store: `localhost` is sent to 127.0.0.1; any other host name is refused (DNS rebinding). */
function onlyThisMachine(req: Request, res: Response, next: NextFunction): void {
  const host = req.headers.host ?? '';
  const name = host.replace(/:\d+$/, '');
  if (name === 'localhost') {
    res.redirect(308, `http://${host.replace('localhost', '127.0.0.1')}${req.originalUrl}`);
  } else if (LOOPBACK.has(name)) {
    next();
  } else {
    res.status(421).type('text/plain').send('This server answers on 127.0.0.1 only.');
  }
}
