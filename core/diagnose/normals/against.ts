/**
 * Surfaces whose normals look away from their faces: shading falls back on the faces where it can, and facets show, or goes dark
 * and bright between corners that disagree. What turns out of a mesh is told from the mesh; that it shows, from the picture.
 */
import type { ShotDocument } from '../../document/schema.ts';
import { cornerOf, maskOfBlocks } from '../../place/grid.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { percentile } from '../../picture/measured.ts';
import { IS_GLASS, settingsOf } from '../../render/scene/scene.ts';
import type { Assets } from '../../render/compile/assets.ts';
import type { Case, RenderInput } from '../family.ts';
import { meshShape } from '../mesh-shape.ts';
import { regionOf } from '../regions.ts';

export interface AgainstCase extends Case {
  kind: 'against';
  document: ShotDocument;
  assets: Assets;
  name: string;
  mesh: string;
  /** The mesh is closed and looks inwards: it is its faces that are the wrong way, not the normals. */
  isInsideOut: boolean;
  /** Off what it would be shaded with, the median where it shows. */
  degrees: number;
  /** Share of the picture. */
  share: number;
}

/** Places that are looked at, about, and of them those that must show it. */
const PLACES = 6000;
const LEAST = 12;
/** Degrees from which on it shows. */
const SHOWS = 2;

export function againstCases({ document, assets, scene, sheet, picture }: RenderInput): AgainstCase[] {
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const step = Math.max(1, Math.round(Math.sqrt((picture.width * picture.height) / PLACES)));
  const off = new Map<number, { x: number; y: number; degrees: number }[]>();
  let looked = 0;
  for (let y = step >> 1; y < picture.height; y += step)
    for (let x = step >> 1; x < picture.width; x += step) {
      looked += 1;
      const found = walk.normalErrorAt(x, y);
      if (!found || found.degrees < SHOWS) continue;
      off.set(found.object, [...(off.get(found.object) ?? []), { x, y, degrees: found.degrees }]);
    }
  return [...off].flatMap(([object, places]): AgainstCase[] => {
    const id = scene.objectIds[object];
    const { mesh, name } = document.objects[id];
    // A body of glass is told inside out by what that does to light.
    const isGlass = (scene.instanceFlags[scene.instanceObject.indexOf(object)] & IS_GLASS) !== 0;
    if (places.length < LEAST || mesh === null || isGlass) return [];
    const mask = maskOfBlocks(picture, step, places.map((at) => cornerOf(at, step))); // prettier-ignore
    return [
      {
        key: `normals.against ${id}`,
        kind: 'against',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['normal', 'beauty'],
        objects: [name || id],
        document,
        assets,
        name: name || id,
        mesh,
        isInsideOut: meshShape(scene, object)?.isInsideOut ?? false,
        degrees: percentile(places.map(({ degrees }) => degrees), 0.5), // prettier-ignore
        share: places.length / looked,
      },
    ];
  });
}
