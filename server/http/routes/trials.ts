/** Routes of findings, and of what proves them: trials and sweeps. */
import type { Router } from 'express';
import {
  ApartRequest,
  AsideRequest,
  KeepRequest,
  SweepRequest,
  TrialRequest,
} from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import { notFound } from '../../errors.ts';
import { keepApart } from '../../shots/keep-apart.ts';
import { decideFinding, findFinding } from '../../shots/findings.ts';
import { createSweep, stopSweep } from '../../trials/sweeps.ts';
import { createTrial, dropTrial, keepTrial, stopTrial } from '../../trials/trials.ts';
import { answer, bodyOf, codeOf, idOf } from '../answers.ts';

/** What never changes once it is there. */
const IMMUTABLE = { 'Cache-Control': 'private, max-age=31536000, immutable' };

export function trialRoutes(context: Context, router: Router): void {
  router.post(
    '/shots/:code/trials',
    answer(async (request, response) => {
      const number = await createTrial(context, codeOf(request), bodyOf(request, TrialRequest));
      response.status(201);
      return { number };
    }),
  );
  router.post(
    '/shots/:code/sweeps',
    answer(async (request, response) => {
      const id = await createSweep(context, codeOf(request), bodyOf(request, SweepRequest));
      response.status(201);
      return { id };
    }),
  );
  router.post(
    '/sweeps/:id/stop',
    answer((request) => stopSweep(context, idOf(request, 'sweep'))),
  );
  router.get(
    '/findings/:id',
    answer(async (request, response) => {
      const { body } = await findFinding(context.db, idOf(request, 'finding'));
      response.set(IMMUTABLE).type('json').send(body);
    }),
  );
  router.get(
    '/findings/:id/mask',
    answer(async (request, response) => {
      const { id, mask } = await findFinding(context.db, idOf(request, 'finding'));
      if (mask === null) throw notFound(`mask of finding ${id}, which is about no pixels`);
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
    '/trials/:id/keep-apart',
    answer((request) => keepApart(context, idOf(request, 'trial'), bodyOf(request, ApartRequest))),
  );
  router.post(
    '/trials/:id/drop',
    answer((request) => dropTrial(context, idOf(request, 'trial'))),
  );
}
