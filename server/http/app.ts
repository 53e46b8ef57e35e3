/** The HTTP interface: what a page or a script can ask for. */
import compression from 'compression';
import express, { type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pinoHttp } from 'pino-http';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { log } from '../log.ts';
import { answer, answerError, unknownRoute } from './answers.ts';
import type { EventHub } from './events.ts';
import { onlyOurHosts, onlyOurPages, onlyPlainText, onlyTextWithoutNul } from './gate.ts';
import { jsonBody } from './json-body.ts';
import { once } from './once.ts';
import { budgetRoutes } from './routes/budget.ts';
import { diskRoutes } from './routes/disk.ts';
import { intakeRoutes } from './routes/intake.ts';
import { lookRoutes } from './routes/look.ts';
import { renderRoutes } from './routes/renders.ts';
import { shotRoutes } from './routes/shots.ts';
import { trialRoutes } from './routes/trials.ts';
import { needSignIn, signInRoutes } from './sign-in.ts';

/** @param webFolder the built page, or null where another server has it */
export function createApp(context: Context, hub: EventHub, webFolder: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  // A proxy on this machine says by its headers who asked, and whether over TLS.
  app.set('trust proxy', 'loopback');
  app.use(pinoHttp({ logger: log, autoLogging: false }));
  app.use(
    helmet({
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          'base-uri': ["'self'"],
          'form-action': ["'self'"],
          'frame-ancestors': ["'none'"],
          'object-src': ["'none'"],
          'font-src': ["'self'", 'data:'],
          'img-src': ["'self'", 'data:', 'blob:'],
          // Kernels are compiled in the page's workers.
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'script-src-attr': ["'none'"],
          // Components of the page bring their styles along.
          'style-src': ["'self'", "'unsafe-inline'"],
          'worker-src': ["'self'", 'blob:'],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(onlyOurHosts);
  // Event streams are never compressed: a compressor holds events back.
  app.use(compression({ level: 1, filter: (req, res) => !req.path.endsWith('/events') && compressible(res) }));
  app.use('/api', rateLimit({ windowMs: 10_000, limit: config.requestLimit, legacyHeaders: false }), api(context, hub));
  if (webFolder && existsSync(webFolder)) {
    app.use(express.static(webFolder, { index: false, maxAge: '1h' }));
    app.get('/{*page}', (_request, response) => {
      response.set('Cache-Control', 'no-cache').sendFile(join(webFolder, 'index.html'));
    });
  }
  app.use(answerError);
  return app;
}

const compressible = (response: express.Response) =>
  /json|text|javascript|svg|octet-stream/.test(String(response.getHeader('Content-Type') ?? ''));

function api(context: Context, hub: EventHub): express.Router {
  const router = express.Router();
  router.use(onlyOurPages, onlyPlainText, jsonBody(), onlyTextWithoutNul);
  router.get(
    '/health',
    answer(async () => {
      await context.db.execute('select 1');
      return { status: 'ok' };
    }),
  );
  signInRoutes(context.db, router);
  router.use(needSignIn(context.db), once(context.db));
  shotRoutes(context, router, hub);
  intakeRoutes(context, router);
  renderRoutes(context, router);
  trialRoutes(context, router);
  budgetRoutes(context, router);
  lookRoutes(context, router);
  diskRoutes(context, router);
  router.use(unknownRoute);
  return router;
}
