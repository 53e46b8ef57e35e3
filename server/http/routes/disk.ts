/** Routes of what is on the disk: told, archived, deleted. */
import type { Router } from 'express';
import { ArchiveRequest } from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import { archiveShot, deleteRender, deleteShot, deleteVersion } from '../../storage/delete.ts';
import { diskTold, shotStorage } from '../../storage/shot-storage.ts';
import { answer, bodyOf, codeOf, idOf, queryOf } from '../answers.ts';

export function diskRoutes(context: Context, router: Router): void {
  router.get(
    '/disk',
    answer(() => diskTold(context)),
  );
  router.get(
    '/shots/:code/storage',
    answer((request) => shotStorage(context, codeOf(request))),
  );
  router.put(
    '/shots/:code/archived',
    answer((request) => archiveShot(context, codeOf(request), bodyOf(request, ArchiveRequest).archived)),
  );
  router.delete(
    '/shots/:code',
    answer((request) => deleteShot(context, codeOf(request), queryOf(request, 'confirm'))),
  );
  router.delete(
    '/versions/:id',
    answer((request) => deleteVersion(context, idOf(request, 'version'))),
  );
  router.delete(
    '/renders/:id',
    answer((request) => deleteRender(context, idOf(request, 'render'))),
  );
}
