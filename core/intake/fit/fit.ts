/**
 * How a shot fits a target renderer: what will be dropped, baked or replaced, what that looks like, what to type in
 * there, and what it does before its first frame.
 *
 * @example
 * const { losses, dials } = fitTarget(source, document, heronTarget);
 */
import type { TargetFit } from '../../contracts/intake.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { SourceScene } from '../../formats/source-scene.ts';
import { defaultProfile } from '../preflight/profile.ts';
import { Scene } from '../preflight/scene.ts';
import { bakeSize } from './bake-size.ts';
import { dialsIn } from './dials-in.ts';
import { LIMITS } from './registry.ts';
import type { Target } from './target.ts';
import { weightOf } from './weight.ts';

export function fitTarget(source: SourceScene, document: ShotDocument, target: Target): TargetFit {
  const scene = new Scene(source, defaultProfile(), document);
  const losses = LIMITS.flatMap(({ id, title, run }) => {
    const loss = run({ document, scene, target });
    return loss ? [{ id, title, values: null, repair: null, ...loss }] : [];
  });
  return {
    target: target.name,
    about: target.about,
    losses,
    dials: dialsIn(target, document.sheets.final),
    before: workBefore(scene, document, target),
  };
}

/** One-off work by what there is of each in the shot. */
function workBefore(scene: Scene, document: ShotDocument, target: Target): TargetFit['before'] {
  const { triangles, texels } = weightOf(scene);
  const baked = Object.entries(document.maps)
    .filter(([, { kind }]) => (target.maps.baked as string[]).includes(kind))
    .reduce((sum, [id]) => sum + bakeSize(target, 'final', id).texels ** 2, 0);
  const amounts = {
    shot: 1,
    material: Object.keys(document.materials).length,
    'million triangles': triangles / 1e6,
    megatexel: (texels + baked) / 1e6,
    light: Object.values(document.lights).filter(({ hidden }) => !hidden).length,
  };
  return target.before.map(({ what, seconds, per }) => ({ what, seconds: seconds * amounts[per] }));
}
