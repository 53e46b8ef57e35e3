/** Routes of renders: asking, stopping, and reading what is on their film. */
import type { Router } from 'express';
import { ContinueRequest, FramesRequest, RenderRequest } from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import {
  objectMask,
  renderArea,
  renderDocument,
  renderFigures,
  renderPicture,
  renderPixel,
} from '../../render/picture.ts';
import { resumeExamination, stopExamination } from '../../render/examinations.ts';
import { renderFrames, stopFrames } from '../../render/frame-ranges.ts';
import { continueRender, createRender } from '../../render/renders.ts';
import { stopAskedRender } from '../../trials/trials.ts';
import { lockHead } from '../../versions/versions.ts';
import { answer, bodyOf, codeOf, idOf, queryOf, sendPlace } from '../answers.ts';

/**
 * What is asked for again is asked with its validator: the same revision is not sent twice. Floats hardly shrink, and
 * packing them for the way takes longer than sending them.
 */
const BYTES = { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, no-cache, no-transform' };

export function renderRoutes(context: Context, router: Router): void {
  router.post(
    '/shots/:code/renders',
    answer(async (request, response) => {
      const { sheet, region } = bodyOf(request, RenderRequest);
      const render = await context.db.transaction(async (tx) => {
        const { head } = await lockHead(tx, codeOf(request));
        return createRender(context, tx, { version: head, purpose: 'base', sheet, patch: [], region });
      });
      response.status(201);
      return { id: render.id };
    }),
  );
  router.post(
    '/shots/:code/frames',
    answer(async (request, response) => {
      const id = await renderFrames(context, codeOf(request), bodyOf(request, FramesRequest));
      response.status(201);
      return { id };
    }),
  );
  router.post(
    '/frame-ranges/:id/stop',
    answer((request) => stopFrames(context, idOf(request, 'range of frames'))),
  );
  router.get(
    '/renders/:id/picture',
    answer(async (request, response) => {
      const passes = queryOf(request, 'passes', 'beauty').split(',');
      await sendPlace(response, await renderPicture(context, idOf(request, 'render'), passes), BYTES);
    }),
  );
  router.get(
    '/renders/:id/mask',
    answer(async (request, response) => {
      const object = queryOf(request, 'object');
      await sendPlace(response, await objectMask(context, idOf(request, 'render'), object), BYTES);
    }),
  );
  router.get(
    '/renders/:id/document',
    answer((request) => renderDocument(context, idOf(request, 'render'))),
  );
  router.get(
    '/renders/:id/figures',
    answer(async (request, response) => {
      const place = await renderFigures(context, idOf(request, 'render'));
      await sendPlace(response, place, {
        'Content-Type': 'application/json; charset=utf-8',
        'Cache-Control': 'private, no-cache',
      });
    }),
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
    answer((request) => stopAskedRender(context, idOf(request, 'render'))),
  );
  router.post(
    '/renders/:id/examination/stop',
    answer((request) => stopExamination(context, idOf(request, 'render'))),
  );
  router.post(
    '/renders/:id/examination/continue',
    answer((request) => resumeExamination(context, idOf(request, 'render'))),
  );
  router.post(
    '/renders/:id/continue',
    answer((request) => continueRender(context, idOf(request, 'render'), bodyOf(request, ContinueRequest).samples)),
  );
}
