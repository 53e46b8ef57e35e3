/** How far the steps of a sweep are: the render that they share counts once. */
import type { RenderSummary, TrialSummary } from '../../core/contracts/events.ts';
import { isRunning } from '../trial-state.ts';

export function sweepProgress(
  steps: TrialSummary[],
  renderOf: (id: number | null) => RenderSummary | null,
): { isRunning: boolean; share: number } {
  const ids = new Set(steps.flatMap((t) => [t.beforeRenderId, t.afterRenderId]));
  let [done, all] = [0, 0];
  for (const id of ids) {
    const render = renderOf(id);
    if (!render) continue;
    done += render.progress * render.samples;
    all += render.samples;
  }
  return { isRunning: steps.some(isRunning), share: all > 0 ? done / all : 0 };
}
