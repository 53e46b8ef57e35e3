/** Routes of shots and their versions: bringing in, the state and its events, dials, undo, the files of a version. */
import type { Router } from 'express';
import { join } from 'node:path';
import { DialRequest, StepRequest } from '../../../core/contracts/requests.ts';
import { config } from '../../config.ts';
import type { Context } from '../../context.ts';
import { setDials } from '../../shots/dials.ts';
import { importShot } from '../../shots/import-shot.ts';
import { shotList, shotState } from '../../shots/state.ts';
import { fileBytes, manifestOf } from '../../shots/version-files.ts';
import { shotByCode, stepHead } from '../../shots/versions.ts';
import { answer, bodyOf, codeOf, idOf } from '../answers.ts';
import type { EventHub } from '../events.ts';
import { receiveUpload } from '../upload.ts';

export function shotRoutes(context: Context, router: Router, hub: EventHub): void {
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
    answer((request) => shotState(context, codeOf(request))),
  );
  router.get(
    '/shots/:code/events',
    answer(async (request, response) => {
      await shotByCode(context.db, codeOf(request));
      hub.open(request, response, async () => {
        const state = await shotState(context, codeOf(request));
        return { id: String(state.revision), state };
      });
      // The stream answers by itself from now on.
      return new Promise(() => {});
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
}
