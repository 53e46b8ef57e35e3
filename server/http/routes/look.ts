/** Routes of pictures, looks and balance. */
import type { Router } from 'express';
import { BalanceRequest, LookRequest, ReadingRequest } from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import { dropLook, keepBalance, keepLook } from '../../look/looks.ts';
import { addPicture, dropSet, pictureName, picturePlace, readSet, shotPictures } from '../../look/pictures.ts';
import { renderExr } from '../../render/picture.ts';
import { shotByCode } from '../../versions/versions.ts';
import { answer, bodyOf, codeOf, idOf, queryOf, sendPlace } from '../answers.ts';
import { receiveFile } from '../receive-file.ts';

export function lookRoutes(context: Context, router: Router): void {
  router.post(
    '/pictures',
    answer(async (request, response) => {
      const name = pictureName(queryOf(request, 'name'));
      const added = await receiveFile(request, response, (file) => addPicture(context, null, name, file));
      response.status(201);
      return added;
    }),
  );
  router.post(
    '/shots/:code/pictures',
    answer(async (request, response) => {
      const [code, name] = [codeOf(request), pictureName(queryOf(request, 'name'))];
      await shotByCode(context.db, code);
      const added = await receiveFile(request, response, (file) => addPicture(context, code, name, file));
      response.status(201);
      return added;
    }),
  );
  router.get(
    '/shots/:code/pictures',
    answer((request) => shotPictures(context, codeOf(request))),
  );
  router.get(
    '/pictures/:id/file',
    answer(async (request, response) => {
      const { place, name } = await picturePlace(context, idOf(request, 'picture'));
      // A picture never changes; it is packed already, so that packing it for the way would only take time.
      const headers = { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable, no-transform', 'X-Name': encodeURIComponent(name) }; // prettier-ignore
      await sendPlace(response, place, headers);
    }),
  );
  router.get(
    '/renders/:id/exr',
    answer(async (request, response) => {
      const { place, name } = await renderExr(context, idOf(request, 'render'));
      const headers = { 'Content-Type': 'image/x-exr', 'Cache-Control': 'private, no-cache, no-transform' };
      await sendPlace(response, place, headers, { attachment: name });
    }),
  );
  router.put(
    '/picture-sets/:id',
    answer((request) => readSet(context, idOf(request, 'set of pictures'), bodyOf(request, ReadingRequest))),
  );
  router.delete(
    '/picture-sets/:id',
    answer((request) => dropSet(context, idOf(request, 'set of pictures'))),
  );
  router.post(
    '/shots/:code/looks',
    answer(async (request, response) => {
      const id = await keepLook(context, codeOf(request), bodyOf(request, LookRequest));
      response.status(201);
      return { id };
    }),
  );
  router.delete(
    '/looks/:id',
    answer((request) => dropLook(context, idOf(request, 'look'))),
  );
  router.put(
    '/shots/:code/balance',
    answer((request) => keepBalance(context, codeOf(request), bodyOf(request, BalanceRequest))),
  );
}
