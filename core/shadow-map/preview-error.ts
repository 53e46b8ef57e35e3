/** How wrong the shadows of a shot's preview are: one figure, measured the same way before a trial and after it. */
import { placesOver } from '../place/grid.ts';
import { SurfaceWalk } from '../place/surface-walk.ts';
import type { Sheet } from '../document/schema.ts';
import { settingsOf, type CompiledScene } from '../render/scene/scene.ts';
import { lightsWithMaps } from './key-light.ts';
import { simulate, type SimulatedShadows } from './simulate.ts';
import { traceShadows, type TracedShadows } from './trace.ts';

/** Places over the frame: a part in two hundred of it is told by twenty. */
const PLACES = 4000;

export interface PreviewLook {
  walk: SurfaceWalk;
  /** Pixels on a side of a place's block. */
  step: number;
  traced: TracedShadows;
  simulated: SimulatedShadows;
}

const known = new WeakMap<CompiledScene, { key: string; look: PreviewLook | null }>();

/** The key light's shadows by the shot's depth maps; null where it has none, or no light that can have them. */
export function previewLook(scene: CompiledScene, sheet: Sheet): PreviewLook | null {
  const { previewShadows: spec } = scene;
  if (!spec) return null;
  const key = `${sheet.width} × ${sheet.height}`;
  const before = known.get(scene);
  if (before?.key === key) return before.look;
  const look = lookOf();
  known.set(scene, { key, look });
  return look;

  function lookOf(): PreviewLook | null {
    const walk = new SurfaceWalk(scene, settingsOf(sheet));
    const { step, places } = placesOver(walk, sheet, PLACES);
    const [row] = lightsWithMaps(scene, places);
    if (row === undefined) return null;
    const traced = traceShadows(walk, row, places);
    return { walk, step, traced, simulated: simulate(walk, traced, spec!) };
  }
}

/** Share of what the key light lights where the preview shows another shadow, 0–1; null where it has none. */
export const previewError = (scene: CompiledScene, sheet: Sheet): number | null =>
  previewLook(scene, sheet)?.simulated.wrong ?? null;
