/** Routes of shots and their versions: bringing in, the state and its events, dials, undo, the files of a version. */
import type { Router } from 'express';
import {
  CopyRequest,
  DialRequest,
  IMAGE_USES,
  NameRequest,
  ReturnRequest,
  StepRequest,
} from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import { nameVersion, returnTo } from '../../versions/history.ts';
import { copyShot, renameShot } from '../../shots/copy-shot.ts';
import { setDials } from '../../versions/dials.ts';
import { log } from '../../log.ts';
import { attend } from '../../attention.ts';
import { importShot } from '../../shots/import-shot.ts';
import { shotImages } from '../../shots/shot-images.ts';
import { shotList } from '../../shots/shot-list.ts';
import { shotState } from '../../shots/state.ts';
import { runningWork } from '../../shots/work.ts';
import { documentOf, filePlace, manifestOf } from '../../versions/version-files.ts';
import { shotByCode, stepHead } from '../../versions/versions.ts';
import { RequestError } from '../../errors.ts';
import { pictureName } from '../../look/pictures.ts';
import { addImage } from '../../versions/add-image.ts';
import { answer, bodyOf, codeOf, idOf, queryOf, sendPlace } from '../answers.ts';
import { receiveFile } from '../receive-file.ts';
import type { EventHub } from '../events.ts';
import { receiveUpload } from '../upload.ts';

export function shotRoutes(context: Context, router: Router, hub: EventHub): void {
  router.get(
    '/shots',
    answer(async (_request, response) => void response.type('json').send((await shotList(context)).text)),
  );
  router.get(
    '/images',
    answer(() => shotImages(context)),
  );
  router.get('/events', (request, response) => hub.open(request, response, 'list', () => shotList(context)));
  router.post(
    '/shots',
    answer(async (request, response) => {
      const code = await receiveUpload(request, response, (upload) => importShot(context, upload));
      response.status(201);
      return { code };
    }),
  );
  router.get(
    '/shots/:code',
    answer(async (request, response) => {
      response.type('json').send((await shotState(context, codeOf(request))).text);
    }),
  );
  router.get(
    '/shots/:code/events',
    answer(async (request, response) => {
      const { id, code } = await shotByCode(context.db, codeOf(request));
      hub.open(request, response, `shot ${id}`, () => shotState(context, code));
      // What a page waits for goes first; that it could not be noted is no reason to answer nothing.
      attend(context, id).catch((error) => log.warn({ error: String(error) }, 'attention not noted'));
      // The stream answers by itself from now on.
      return new Promise(() => {});
    }),
  );
  router.get(
    '/work',
    answer(() => runningWork(context)),
  );
  router.put(
    '/shots/:code/first',
    answer(async (request) => {
      const { id } = await shotByCode(context.db, codeOf(request));
      await attend(context, id);
      return runningWork(context);
    }),
  );
  router.post(
    '/shots/:code/dials',
    answer((request) => setDials(context, codeOf(request), bodyOf(request, DialRequest))),
  );
  for (const way of ['undo', 'redo'] as const)
    router.post(
      `/shots/:code/${way}`,
      answer((request) => stepHead(context, codeOf(request), bodyOf(request, StepRequest).base, way)),
    );
  router.post(
    '/shots/:code/return',
    answer((request) => returnTo(context, codeOf(request), bodyOf(request, ReturnRequest))),
  );
  router.post(
    '/shots/:code/images',
    answer(async (request, response) => {
      const [code, name] = [codeOf(request), pictureName(queryOf(request, 'name'))];
      const use = IMAGE_USES.find((one) => one === request.query.use);
      if (!use) throw new RequestError(400, `use is "${String(request.query.use).slice(0, 40)}"; it must be one of ${IMAGE_USES.join(', ')}.`);
      const added = await receiveFile(request, response, (file) => addImage(context, code, name, use, file));
      response.status(201);
      return added;
    }),
  ); // prettier-ignore
  router.put(
    '/shots/:code/name',
    answer((request) => renameShot(context, codeOf(request), bodyOf(request, NameRequest).name)),
  );
  router.post(
    '/shots/:code/copies',
    answer(async (request, response) => {
      await copyShot(context, codeOf(request), bodyOf(request, CopyRequest));
      response.status(201);
      return {};
    }),
  );
  router.put(
    '/versions/:id/name',
    answer((request) => nameVersion(context, idOf(request, 'version'), bodyOf(request, NameRequest).name)),
  );
  router.get(
    '/versions/:id/document',
    answer(async (request, response) => {
      const text = await documentOf(context, idOf(request, 'version'));
      response.set('Cache-Control', 'private, max-age=31536000, immutable').type('json').send(text);
    }),
  );
  router.get(
    '/versions/:id/manifest',
    answer(async (request, response) => {
      response.type('json').send(await manifestOf(context, idOf(request, 'version')));
    }),
  );
  router.get(
    '/files/:hash',
    answer(async (request, response) => {
      const place = await filePlace(context, String(request.params.hash));
      // What has this name never changes.
      const headers = { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' }; // prettier-ignore
      await sendPlace(response, place, headers);
    }),
  );
}
