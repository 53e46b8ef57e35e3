/**
 * Beside the page: reads the meshes of a version for the stage view, subdivided and displaced as they are rendered or as they
 * are without, with their seams; and a map that is to be shown on them.
 */
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import { KeptParts } from '../../core/geometry/kept-parts.ts';
import { mapOf, type Assets } from '../../core/render/compile/assets.ts';
import { reliefsOf } from '../../core/render/compile/displace.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { poseAt } from '../../core/render/compile/motion.ts';
import { objectMesh } from '../../core/render/compile/object-mesh.ts';
import { refinementOf } from '../../core/render/compile/refinement.ts';
import { mapImage, placed, type MapImage } from './map-image.ts';
import { seamLines, type SeamLines } from './seam-lines.ts';
import { shapesAlone } from './shapes-alone.ts';
import { versionFiles } from '../remote/version-files.ts';

export interface StageRequest {
  document: ShotDocument;
  /** Whose levels of subdivision are shown. */
  sheet: SheetName;
  /** Hashes of its files by path. */
  manifest: Record<string, string>;
  /** Meshes before they are subdivided and displaced. */
  isBase: boolean;
  /** Id of a map that is to be shown; null: none. */
  map: string | null;
}
/** Triangles of a mesh, by its key. */
export interface StageMesh {
  id: string;
  positions: Float32Array;
  normals: Float32Array | null;
  /** As the map that is shown is looked up by them, else the first set; null: it has none. */
  uvs: Float32Array | null;
  indices: Uint32Array;
  seams: SeamLines;
}
export interface StageMeshes {
  meshes: StageMesh[];
  /** Key of each object's mesh. */
  meshOf: Record<string, string>;
  image: MapImage | null;
}
export type StageAnswer = StageMeshes | { problem: string };

self.onmessage = async ({ data: { document, sheet, manifest, isBase, map } }: MessageEvent<StageRequest>) => {
  try {
    const bare = shapesAlone(document, map);
    const assets = await loadAssets(bare, versionFiles(manifest), document.code, 'stand in');
    const image = map === null ? null : imageOf(bare, assets, map);
    const reliefs = isBase ? new Map<string, never>() : reliefsOf(bare, assets);
    const options = { assets, refinement: refinementOf(document, { ...document.sheets[sheet], ...(isBase && { mostSubdivision: 0 }) }), reliefs, kept: new KeptParts() }; // prettier-ignore
    const meshes = new Map<string, StageMesh>();
    const meshOf: Record<string, string> = {};
    for (const [id, object] of Object.entries(document.objects)) {
      if (object.shape !== 'mesh' || object.mesh === null || !assets.meshes.has(object.mesh)) continue;
      const { key, make } = objectMesh(id, object, poseAt(object, document.frame), options);
      meshOf[id] = key;
      if (meshes.has(key)) continue;
      const mesh = make();
      const set = (image?.uvSet === 1 ? mesh.uvs2 : mesh.uvs) ?? null;
      meshes.set(key, { id: key, positions: mesh.positions, normals: mesh.normals, indices: mesh.indices, uvs: set && image ? placed(set, image.place) : set, seams: seamLines(mesh) }); // prettier-ignore
    }
    self.postMessage({ meshes: [...meshes.values()], meshOf, image } satisfies StageAnswer);
  } catch (error) {
    self.postMessage({ problem: (error as Error).message } satisfies StageAnswer);
  }
};

function imageOf(document: ShotDocument, assets: Assets, id: string): MapImage | null {
  const spec = mapOf(document, assets, id);
  return mapImage(spec, spec.kind === 'image' ? assets.textures.get(spec.texture) : undefined);
}
