/** Routes of what came in with a shot: preflight, repairs, files, the package, logs, profiles. */
import express, { type Request, type Router } from 'express';
import { join } from 'node:path';
import type { ProfileKind } from '../../../core/contracts/intake.ts';
import { PROFILE_SORTS } from '../../../core/intake/profiles.ts';
import {
  LogDecisionRequest,
  LogFormatRequest,
  ProfileChoice,
  ProfileRequest,
  RepairRequest,
} from '../../../core/contracts/requests.ts';
import { config } from '../../config.ts';
import type { Context } from '../../context.ts';
import { notFound } from '../../errors.ts';
import { bringFiles } from '../../intake/bring-files.ts';
import { addLog, addStatistics, decideLog, dropLog, logsOf, readLogAgain } from '../../intake/logs.ts';
import { intakeOf, preflightReport } from '../../intake/preflights.ts';
import { chooseProfiles, listProfiles, removeProfile, saveProfile } from '../../intake/profiles.ts';
import { repairShot } from '../../intake/repairs.ts';
import { dryRunShot, shotPackage } from '../../intake/shot-package.ts';
import { answer, bodyOf, codeOf, idOf } from '../answers.ts';
import { receiveUpload } from '../upload.ts';

function kindOf(request: Request): ProfileKind {
  const kind = String(request.params.kind);
  if (!Object.hasOwn(PROFILE_SORTS, kind)) throw notFound(`kind of profile "${kind.slice(0, 40)}"`);
  return kind as ProfileKind;
}

export function intakeRoutes(context: Context, router: Router): void {
  router.get(
    '/shots/:code/intake',
    answer((request) => intakeOf(context, codeOf(request))),
  );
  router.get(
    '/shots/:code/preflight.:kind',
    answer(async (request, response) => {
      const kind = String(request.params.kind);
      const text = await preflightReport(context, codeOf(request), kind);
      response
        .type(kind === 'md' ? 'text/markdown' : kind)
        .attachment(`${codeOf(request)}-preflight.${kind}`)
        .send(text);
    }),
  );
  router.get(
    '/shots/:code/package.zip',
    answer(async (request, response) => {
      const place = await shotPackage(context, codeOf(request));
      // Answers parts, too, so that a download goes on where it broke off.
      await new Promise<void>((resolve, reject) =>
        response.download(place, `${codeOf(request)}.zip`, { dotfiles: 'allow' }, (error) =>
          error && !response.headersSent ? reject(error) : resolve(),
        ),
      );
    }),
  );
  router.post(
    '/shots/:code/dry-run',
    answer((request) => dryRunShot(context, codeOf(request))),
  );
  router.get(
    '/shots/:code/logs',
    answer((request) => logsOf(context, codeOf(request))),
  );
  router.post(
    '/shots/:code/logs',
    answer(async (request, response) => {
      const id = await addLog(context, codeOf(request), String(request.query.name ?? 'log'), request);
      response.status(201);
      return { id };
    }),
  );
  router.post(
    '/shots/:code/log-decisions',
    answer((request) => decideLog(context, codeOf(request), bodyOf(request, LogDecisionRequest))),
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
    answer((request) => chooseProfiles(context, codeOf(request), bodyOf(request, ProfileChoice))),
  );
  router.delete(
    '/logs/:id',
    answer((request) => dropLog(context, idOf(request, 'log'))),
  );
  router.post(
    '/shots/:code/repairs',
    answer((request) => {
      const { base, check } = bodyOf(request, RepairRequest);
      return repairShot(context, codeOf(request), base, check);
    }),
  );
  router.post(
    '/shots/:code/files',
    answer((request) =>
      receiveUpload(request, join(config.data, 'uploads'), config.uploadLimit, (files) =>
        bringFiles(context, codeOf(request), Number(request.query.base), files),
      ),
    ),
  );
}
