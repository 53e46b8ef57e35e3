/**
 * Objects whose mesh a map moves, by the document alone: made anew with other settings, maps or normals, so that each reason of a
 * gap can be left out by itself. No tree is built over them.
 */
import { objectIds } from '../document/object-names.ts';
import type { Sheet, ShotDocument } from '../document/schema.ts';
import { KeptParts } from '../geometry/kept-parts.ts';
import type { Mesh } from '../data/mesh.ts';
import type { Assets } from '../render/compile/assets.ts';
import { displaced, reliefsOf, type Relief } from '../render/compile/displace.ts';
import { posesInShutter } from '../render/compile/motion.ts';
import { objectMesh, partsOfObject } from '../render/compile/object-mesh.ts';
import { levelOf, refinementOf } from '../render/compile/refinement.ts';
import type { MovedShape } from './moved-shapes.ts';

export interface WornShape extends MovedShape {
  id: string;
  relief: Relief;
  /** Times that its mesh is subdivided. */
  level: number;
  /** Places on the texture, 2 numbers a vertex: texels from its top left corner; null where no image moves it. */
  texels: Float64Array | null;
}

export interface WornOptions {
  document: ShotDocument;
  assets: Assets;
  sheet: Pick<Sheet, 'motion' | 'mostSubdivision' | 'width' | 'height'>;
  /** Splits of normals are joined before anything moves. */
  joinsNormals?: boolean;
  kept?: KeptParts;
}

/** @param isWanted which objects; all by default */
export function wornShapes(
  { document, assets, sheet, joinsNormals = false, kept }: WornOptions,
  isWanted: (id: string) => boolean = () => true,
): WornShape[] {
  const reliefs = reliefsOf(document, assets, kept);
  const options = {
    assets,
    refinement: refinementOf(document, sheet),
    reliefs: new Map<string, Relief>(),
    kept: kept ?? new KeptParts(),
  };
  return objectIds(document).flatMap((id, object): WornShape[] => {
    const spec = document.objects[id];
    const relief = reliefs.get(spec.material);
    if (!relief || spec.hidden || spec.shape === 'floor' || !assets.meshes.has(spec.mesh!) || !isWanted(id)) return [];
    const [pose] = posesInShutter(spec, document.frame, sheet.motion);
    const still = objectMesh(id, spec, pose, options).make();
    const { positions, uvs, uvs2, indices } = displaced(joinsNormals ? { ...still, normals: null } : still, relief);
    const m = pose.transform;
    return [
      {
        object,
        id,
        relief,
        level: levelOf(
          spec,
          partsOfObject(spec, pose, assets, options.refinement).map((part) => assets.meshes.get(part)!),
          pose.transform,
          options.refinement,
        ),
        mesh: { positions, uvs, indices, before: still.positions },
        toWorld: Float64Array.from([0, 1, 2].flatMap((row) => [m[row], m[4 + row], m[8 + row], m[12 + row]])),
        texels: texelsOf(relief, { uvs, uvs2 }),
      },
    ];
  });
}

function texelsOf(
  { texture, compiled, uvSet }: Relief,
  { uvs, uvs2 }: Pick<Mesh, 'uvs' | 'uvs2'>,
): Float64Array | null {
  const set = uvSet === 1 ? uvs2 : uvs;
  if (!texture || !set) return null;
  const { place } = compiled;
  return Float64Array.from(set, (_, i) => {
    const [s, t] = [set[i & ~1], set[i | 1]];
    return i & 1 ? (1 - (place[3] * s + place[4] * t + place[5])) * texture.height : (place[0] * s + place[1] * t + place[2]) * texture.width; // prettier-ignore
  });
}
