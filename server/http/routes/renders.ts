/** Routes of renders: asking, stopping, and reading what is on their film. */
import type { Router } from 'express';
import { ContinueRequest, RenderRequest } from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import {
  objectMask,
  renderArea,
  renderDocument,
  renderFigures,
  renderPicture,
  renderPixel,
} from '../../render/picture.ts';
import { continueRender, createRender, stopRender } from '../../render/renders.ts';
import { lockHead } from '../../shots/versions.ts';
import { answer, bodyOf, codeOf, idOf } from '../answers.ts';

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
}
