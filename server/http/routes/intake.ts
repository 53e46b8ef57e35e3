/** Routes of what came in with a shot: preflight, repairs, files, the package, logs, profiles. */
import express, { type Request, type Router } from 'express';
import type { ProfileKind } from '../../../core/contracts/intake.ts';
import { PROFILE_SORTS } from '../../../core/intake/profiles.ts';
import {
  LogDecisionRequest,
  LogFormatRequest,
  ProfileChoice,
  ProfileRequest,
  RepairRequest,
} from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import { notFound } from '../../errors.ts';
import { addScene } from '../../intake/add-scene.ts';
import { bringFiles } from '../../intake/bring-files.ts';
import { addLog, addStatistics, decideLog, dropLog, logsOf, readLogAgain } from '../../intake/logs.ts';
import { intakeOf, preflightReport } from '../../intake/preflights.ts';
import { chooseProfiles, listProfiles, removeProfile, saveProfile } from '../../intake/profiles.ts';
import { repairShot } from '../../intake/repairs.ts';
import { dryRunShot, shotPackage } from '../../intake/shot-package.ts';
import { answer, bodyOf, codeOf, idOf, queryOf, sendPlace } from '../answers.ts';
import { goneSignal } from '../gone.ts';
import { receiveFile } from '../receive-file.ts';
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
      const headers = { 'Content-Type': 'application/zip', 'Cache-Control': 'private, no-cache' };
      await sendPlace(response, place, headers, { attachment: `${codeOf(request)}.zip` });
    }),
  );
  router.post(
    '/shots/:code/dry-run',
    answer((request, response) => dryRunShot(context, codeOf(request), { gone: goneSignal(response) })),
  );
  router.get(
    '/shots/:code/logs',
    answer(async (request, response) => {
      response.type('json').send(await logsOf(context, codeOf(request), { gone: goneSignal(response) }));
    }),
  );
  router.post(
    '/shots/:code/logs',
    answer(async (request, response) => {
      const name = queryOf(request, 'name', 'log');
      const id = await receiveFile(request, response, (file) => addLog(context, codeOf(request), name, file));
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
    answer((request, response) => {
      const { format } = bodyOf(request, LogFormatRequest);
      return readLogAgain(context, idOf(request, 'log'), format, { gone: goneSignal(response) });
    }),
  );
  router.post(
    '/logs/:id/statistics',
    express.text({ type: '*/*', limit: '16mb' }),
    answer((request, response) => {
      const [id, name] = [idOf(request, 'log'), queryOf(request, 'name', 'statistics')];
      // Figures in JSON were parsed on the way, as every body of JSON is.
      const text = typeof request.body === 'string' ? request.body : JSON.stringify(request.body ?? '');
      return addStatistics(context, id, name, text, { gone: goneSignal(response) });
    }),
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
    answer((request, response) => {
      const { base, check } = bodyOf(request, RepairRequest);
      return repairShot(context, codeOf(request), base, check, { gone: goneSignal(response) });
    }),
  );
  router.post(
    '/shots/:code/files',
    answer((request, response) =>
      receiveUpload(request, response, (upload) =>
        bringFiles(context, codeOf(request), Number(queryOf(request, 'base')), upload),
      ),
    ),
  );
  router.post(
    '/shots/:code/objects',
    answer((request, response) =>
      receiveUpload(request, response, (upload) =>
        addScene(context, codeOf(request), Number(queryOf(request, 'base')), queryOf(request, 'name'), upload),
      ),
    ),
  );
}
