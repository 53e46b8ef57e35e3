/** The HTTP interface: what a page or a script can ask for. */
import compression from 'compression';
import express, { type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pinoHttp } from 'pino-http';
import {
  AsideRequest,
  ContinueRequest,
  DialRequest,
  FarmRequest,
  FrameTimesRequest,
  KeepRequest,
  LogDecisionRequest,
  LogFormatRequest,
  ProfileChoice,
  ProfileRequest,
  RenderRequest,
  RepairRequest,
  StepRequest,
  SweepRequest,
  TrialRequest,
} from '../../core/contracts/requests.ts';
import type { ProfileKind } from '../../core/contracts/intake.ts';
import { PROFILE_SORTS } from '../../core/intake/profiles.ts';
import { askFrameTimes, keepFarm } from '../budget/frame-times.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { dryRunShot, shotPackage } from '../intake/shot-package.ts';
import { bringFiles } from '../intake/bring-files.ts';
import { intakeOf, preflightReport } from '../intake/preflights.ts';
import { repairShot } from '../intake/repairs.ts';
import { addLog, addStatistics, decideLog, dropLog, logsOf, readLogAgain } from '../intake/logs.ts';
import { chooseProfiles, listProfiles, removeProfile, saveProfile } from '../intake/profiles.ts';
import { notFound } from '../errors.ts';
import { log } from '../log.ts';
import {
  objectMask,
  renderArea,
  renderDocument,
  renderFigures,
  renderPicture,
  renderPixel,
} from '../render/picture.ts';
import { continueRender, createRender, stopRender } from '../render/renders.ts';
import { setDials } from '../shots/dials.ts';
import { decideFinding, findFinding } from '../shots/findings.ts';
import { importShot } from '../shots/import-shot.ts';
import { fileBytes, manifestOf } from '../shots/version-files.ts';
import { shotList, shotState } from '../shots/state.ts';
import { lockHead, shotByCode, stepHead } from '../shots/versions.ts';
import { createSweep, stopSweep } from '../trials/sweeps.ts';
import { createTrial, dropTrial, keepTrial, stopTrial } from '../trials/trials.ts';
import { answer, answerError, bodyOf, idOf, unknownRoute } from './answers.ts';
import type { EventHub } from './events.ts';
import { lookRoutes } from './look-routes.ts';
import { receiveUpload } from './upload.ts';

/** @param webFolder the built page, or null where another server has it */
export function createApp(context: Context, hub: EventHub, webFolder: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: log, autoLogging: false }));
  app.use(
    helmet({
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      contentSecurityPolicy: {
        directives: {
          // Kernels are compiled in the page's workers.
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'worker-src': ["'self'", 'blob:'],
          // Loopback has no certificate to upgrade to.
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  // Event streams are never compressed: a compressor holds events back.
  app.use(compression({ level: 1, filter: (req, res) => !req.path.endsWith('/events') && compressible(res) }));
  app.use('/api', rateLimit({ windowMs: 10_000, limit: 2000, legacyHeaders: false }), api(context, hub));
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

function kindOf(request: express.Request): ProfileKind {
  const kind = String(request.params.kind);
  if (!Object.hasOwn(PROFILE_SORTS, kind)) throw notFound(`kind of profile "${kind.slice(0, 40)}"`);
  return kind as ProfileKind;
}

function api(context: Context, hub: EventHub): express.Router {
  const router = express.Router();
  router.use(express.json({ limit: '1mb' }));
  const code = (request: express.Request) => String(request.params.code);

  router.get(
    '/health',
    answer(async () => {
      await context.db.execute('select 1');
      return { status: 'ok' };
    }),
  );

  router.get(
    '/shots',
    answer(() => shotList(context)),
  );
  router.get('/events', (request, response) =>
    hub.open(request, response, async () => {
      const state = await shotList(context);
      return {
        id: state
          .map(
            (s) =>
              `${s.code}.${s.version}.${s.render?.revision}.${s.open}.${s.trials}.${s.preflight?.state}.${s.pictures}`,
          )
          .join(),
        state,
      };
    }),
  );
  router.post(
    '/shots',
    answer(async (request, response) => {
      const uploads = join(config.data, 'uploads');
      const created = await receiveUpload(request, uploads, config.uploadLimit, (files) => importShot(context, files));
      response.status(201);
      return { code: created };
    }),
  );

  router.get(
    '/shots/:code',
    answer((request) => shotState(context, code(request))),
  );
  router.get(
    '/shots/:code/events',
    answer(async (request, response) => {
      await shotByCode(context.db, code(request));
      hub.open(request, response, async () => {
        const state = await shotState(context, code(request));
        return { id: String(state.revision), state };
      });
      // The stream answers by itself from now on.
      return new Promise(() => {});
    }),
  );
  router.post(
    '/shots/:code/dials',
    answer((request) => setDials(context, code(request), bodyOf(request, DialRequest))),
  );
  for (const way of ['undo', 'redo'] as const)
    router.post(
      `/shots/:code/${way}`,
      answer((request) => stepHead(context, code(request), bodyOf(request, StepRequest).base, way)),
    );
  router.get(
    '/shots/:code/intake',
    answer((request) => intakeOf(context, code(request))),
  );
  router.get(
    '/shots/:code/preflight.:kind',
    answer(async (request, response) => {
      const kind = String(request.params.kind);
      const text = await preflightReport(context, code(request), kind);
      response
        .type(kind === 'md' ? 'text/markdown' : kind)
        .attachment(`${code(request)}-preflight.${kind}`)
        .send(text);
    }),
  );
  router.get(
    '/shots/:code/package.zip',
    answer(async (request, response) => {
      const place = await shotPackage(context, code(request));
      // Answers parts, too, so that a download goes on where it broke off.
      await new Promise<void>((resolve, reject) =>
        response.download(place, `${code(request)}.zip`, { dotfiles: 'allow' }, (error) =>
          error && !response.headersSent ? reject(error) : resolve(),
        ),
      );
    }),
  );
  router.post(
    '/shots/:code/dry-run',
    answer((request) => dryRunShot(context, code(request))),
  );
  router.get(
    '/shots/:code/logs',
    answer((request) => logsOf(context, code(request))),
  );
  router.post(
    '/shots/:code/logs',
    answer(async (request, response) => {
      const id = await addLog(context, code(request), String(request.query.name ?? 'log'), request);
      response.status(201);
      return { id };
    }),
  );
  router.post(
    '/shots/:code/log-decisions',
    answer((request) => decideLog(context, code(request), bodyOf(request, LogDecisionRequest))),
  );
  router.post(
    '/logs/:id/format',
    answer((request) => readLogAgain(context, idOf(request, 'log'), bodyOf(request, LogFormatRequest).format)),
  );
  router.post(
    '/logs/:id/statistics',
    express.text({ type: '*/*', limit: '16mb' }),
    answer((request) =>
      addStatistics(context, idOf(request, 'log'), String(request.query.name ?? 'statistics'), String(request.body)),
    ),
  );
  router.get(
    '/profiles',
    answer(() => listProfiles(context)),
  );
  router.put(
    '/profiles/:kind',
    answer((request) => saveProfile(context, kindOf(request), bodyOf(request, ProfileRequest).text)),
  );
  router.delete(
    '/profiles/:kind/:name',
    answer((request) => removeProfile(context, kindOf(request), String(request.params.name))),
  );
  router.post(
    '/shots/:code/profiles',
    answer((request) => chooseProfiles(context, code(request), bodyOf(request, ProfileChoice))),
  );
  router.delete(
    '/logs/:id',
    answer((request) => dropLog(context, idOf(request, 'log'))),
  );
  router.post(
    '/shots/:code/repairs',
    answer((request) => {
      const { base, check } = bodyOf(request, RepairRequest);
      return repairShot(context, code(request), base, check);
    }),
  );
  router.post(
    '/shots/:code/files',
    answer((request) =>
      receiveUpload(request, join(config.data, 'uploads'), config.uploadLimit, (files) =>
        bringFiles(context, code(request), Number(request.query.base), files),
      ),
    ),
  );
  router.post(
    '/shots/:code/renders',
    answer(async (request, response) => {
      const { sheet, region } = bodyOf(request, RenderRequest);
      const render = await context.db.transaction(async (tx) => {
        const { head } = await lockHead(tx, code(request));
        return createRender(context, tx, { version: head, purpose: 'base', sheet, patch: [], region });
      });
      response.status(201);
      return { id: render.id };
    }),
  );
  router.post(
    '/shots/:code/trials',
    answer(async (request, response) => {
      const number = await createTrial(context, code(request), bodyOf(request, TrialRequest));
      response.status(201);
      return { number };
    }),
  );

  router.post(
    '/shots/:code/sweeps',
    answer(async (request, response) => {
      const id = await createSweep(context, code(request), bodyOf(request, SweepRequest));
      response.status(201);
      return { id };
    }),
  );
  router.post(
    '/sweeps/:id/stop',
    answer((request) => stopSweep(context, idOf(request, 'sweep'))),
  );

  router.post(
    '/shots/:code/frame-times',
    answer((request) => askFrameTimes(context, code(request), bodyOf(request, FrameTimesRequest))),
  );
  router.put(
    '/shots/:code/farm',
    answer((request) => keepFarm(context, code(request), bodyOf(request, FarmRequest))),
  );
  router.get(
    '/versions/:id/manifest',
    answer((request) => manifestOf(context, idOf(request, 'version'))),
  );
  router.get(
    '/files/:hash',
    answer(async (request, response) => {
      const bytes = await fileBytes(context, String(request.params.hash));
      // What has this name never changes.
      response
        .set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'max-age=31536000, immutable' })
        .send(bytes);
    }),
  );

  router.get(
    '/renders/:id/picture',
    answer(async (request, response) => {
      const passes = String(request.query.passes ?? 'beauty').split(',');
      const bytes = await renderPicture(context, idOf(request, 'render'), passes);
      response
        .set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'no-store' })
        .send(Buffer.from(bytes));
    }),
  );
  router.get(
    '/renders/:id/mask',
    answer(async (request, response) => {
      const mask = await objectMask(context, idOf(request, 'render'), String(request.query.object ?? ''));
      response.set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'no-store' }).send(Buffer.from(mask));
    }),
  );
  router.get(
    '/renders/:id/document',
    answer((request) => renderDocument(context, idOf(request, 'render'))),
  );
  router.get(
    '/renders/:id/figures',
    answer((request) => renderFigures(context, idOf(request, 'render'))),
  );
  router.get(
    '/renders/:id/pixel',
    answer((request) => {
      const [x, y] = [request.query.x, request.query.y].map(Number);
      return renderPixel(context, idOf(request, 'render'), x, y);
    }),
  );
  router.get(
    '/renders/:id/area',
    answer((request) => {
      const [x, y, radius] = [request.query.x, request.query.y, request.query.radius].map(Number);
      return renderArea(context, idOf(request, 'render'), x, y, radius);
    }),
  );
  router.post(
    '/renders/:id/stop',
    answer((request) => stopRender(context, idOf(request, 'render'))),
  );
  router.post(
    '/renders/:id/continue',
    answer((request) => continueRender(context, idOf(request, 'render'), bodyOf(request, ContinueRequest).samples)),
  );

  router.get(
    '/findings/:id/mask',
    answer(async (request, response) => {
      const { mask } = await findFinding(context.db, idOf(request, 'finding'));
      const bytes = Buffer.from(await context.blobs.get(mask));
      response.set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'max-age=86400' }).send(bytes);
    }),
  );
  router.post(
    '/findings/:id/aside',
    answer((request) =>
      decideFinding(context, idOf(request, 'finding'), 'put aside', bodyOf(request, AsideRequest).reason),
    ),
  );
  router.post(
    '/findings/:id/take-up',
    answer((request) => decideFinding(context, idOf(request, 'finding'), 'take up', '')),
  );

  router.post(
    '/trials/:id/stop',
    answer((request) => stopTrial(context, idOf(request, 'trial'))),
  );
  router.post(
    '/trials/:id/keep',
    answer((request) => keepTrial(context, idOf(request, 'trial'), bodyOf(request, KeepRequest).both)),
  );
  router.post(
    '/trials/:id/drop',
    answer((request) => dropTrial(context, idOf(request, 'trial'))),
  );

  lookRoutes(context, router);
  router.use(unknownRoute);
  return router;
}
