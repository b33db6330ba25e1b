import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import type { Pool } from 'pg';
import type { Database } from './db/open';
import type { Jobs } from './jobs/jobs';
import { openApi } from './openapi';
import { Problem, problemHandler } from './problem';
import { assetRoutes } from './routes/assets';
import { docRoutes } from './routes/docs';
import { jobRoutes } from './routes/jobs';
import { levelRoutes } from './routes/levels';

export interface AppOptions {
  db: Database;
  /** connections for the question whether the database answers, which must not wait for those in use */
  health: Pool;
  jobs: Jobs;
  /** names this server answers to, as `host:port` */
  hosts: () => string[];
  /** folder of the built interface; left out, only the API is served */
  web?: string;
  log: (error: unknown) => void;
  onDatabaseAway?: () => void;
}

export function makeApp(options: AppOptions): Express {
  const { db, jobs, hosts, web, log } = options;
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'connect-src': ["'self'", 'blob:'],
          'img-src': ["'self'", 'data:', 'blob:'],
          'style-src': ["'self'", "'unsafe-inline'"],
          'worker-src': ["'self'", 'blob:'],
          'object-src': ["'none'"],
          'base-uri': ["'none'"],
          'form-action': ["'self'"],
          'frame-ancestors': ["'none'"],
        },
      },
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      crossOriginResourcePolicy: { policy: 'same-origin' },
      strictTransportSecurity: false,
    }),
  );
  app.use(guardHost(hosts));
  app.use(compression());

  const api = express.Router();
  api.use((_req, res, next) => {
    res.set('Cache-Control', 'no-store');
    next();
  });
  api.get('/health', async (_req, res) => {
    await options.health.query('select 1');
    res.json({ ok: true });
  });
  const document = openApi();
  api.get('/openapi.json', (_req, res) => {
    res.json(document);
  });
  api.use('/levels', levelRoutes(db, jobs));
  api.use('/assets', assetRoutes(db, jobs));
  api.use('/jobs', jobRoutes(jobs));
  api.use((_req, _res) => {
    throw new Problem(404, 'not-found', 'there is nothing at this address');
  });
  app.use('/api', api);
  app.use('/docs', docRoutes());

  if (web && existsSync(join(web, 'index.html'))) {
    app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
    app.use(express.static(web, { index: false }));
    app.get('/{*splat}', (_req, res) => {
      res.set('Cache-Control', 'no-cache').sendFile(join(web, 'index.html'));
    });
  }
  app.use(problemHandler(log, options.onDatabaseAway ?? (() => {})));
  return app;
}

/** Host and Origin: a page elsewhere must not reach this server by another name (DNS rebinding). */
function guardHost(hosts: () => string[]) {
  return (req: Request, _res: Response, next: NextFunction): void => {
    const allowed = hosts();
    if (!req.headers.host || !allowed.includes(req.headers.host)) throw new Problem(421, 'host-not-allowed', 'this server answers only to its own address');
    const origin = req.headers.origin;
    if (origin !== undefined && !allowed.some((h) => origin === `http://${h}`))
      throw new Problem(403, 'origin-not-allowed', 'requests from other sites are refused');
    next();
  };
}
