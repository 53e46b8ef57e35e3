/** Figures that a scene tells by itself, without a picture of it. */
import type { Sheet } from '../document/schema.ts';
import type { SceneFigures } from '../figures/figure.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import { viewOf } from '../render/scene/view.ts';
import { gapsOf } from '../seams/gaps.ts';
import { movedShapes } from '../seams/moved-shapes.ts';
import { previewError } from '../shadow-map/preview-error.ts';
import { renderBytes } from './render-bytes.ts';

const known = new WeakMap<CompiledScene, { key: string; figures: SceneFigures }>();

/** By id of the figure. Told by the scene as it is traced and the camera of the sheet; worked out once for each. */
export function sceneFigures(scene: CompiledScene, sheet: Sheet): SceneFigures {
  const key = `${sheet.width} × ${sheet.height}`;
  const before = known.get(scene);
  if (before?.key === key) return before.figures;
  const shapes = movedShapes(scene);
  const gaps = shapes.length ? gapsOf(shapes, viewOf(scene, sheet)) : null;
  const figures: SceneFigures = {
    memory: renderBytes(scene, sheet),
    'preview-shadows': previewError(scene, sheet),
    ...(gaps ? { gap: gaps.greatest, 'gap-area': gaps.area, 'gap-pixels': gaps.greatestPixels } : {}),
  };
  known.set(scene, { key, figures });
  return figures;
}
