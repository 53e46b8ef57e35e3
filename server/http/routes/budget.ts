/** Routes of the budget: frame times and the farm. */
import type { Router } from 'express';
import { FarmRequest, FrameTimesRequest } from '../../../core/contracts/requests.ts';
import type { Context } from '../../context.ts';
import { askFrameTimes, keepFarm } from '../../budget/frame-times.ts';
import { answer, bodyOf, codeOf } from '../answers.ts';

export function budgetRoutes(context: Context, router: Router): void {
  router.post(
    '/shots/:code/frame-times',
    answer((request) => askFrameTimes(context, codeOf(request), bodyOf(request, FrameTimesRequest))),
  );
  router.put(
    '/shots/:code/farm',
    answer((request) => keepFarm(context, codeOf(request), bodyOf(request, FarmRequest))),
  );
}
