/** Beside the page: reads the meshes of a version for the stage view, subdivided and displaced as they are rendered. */
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import { reliefsOf } from '../../core/render/compile/displace.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { poseAt } from '../../core/render/compile/motion.ts';
import { objectMesh } from '../../core/render/compile/object-mesh.ts';
import { refinementOf } from '../../core/render/compile/refinement.ts';
import { shapesAlone } from './shapes-alone.ts';
import { versionFiles } from '../remote/version-files.ts';

export interface StageRequest {
  document: ShotDocument;
  /** Whose levels of subdivision are shown. */
  sheet: SheetName;
  /** Hashes of its files by path. */
  manifest: Record<string, string>;
}
/** Triangles of a mesh, by its key. */
export interface StageMesh {
  id: string;
  positions: Float32Array;
  normals: Float32Array | null;
  indices: Uint32Array;
}
export interface StageMeshes {
  meshes: StageMesh[];
  /** Key of each object's mesh. */
  meshOf: Record<string, string>;
}
export type StageAnswer = StageMeshes | { problem: string };

self.onmessage = async ({ data: { document, sheet, manifest } }: MessageEvent<StageRequest>) => {
  try {
    const bare = shapesAlone(document);
    const assets = await loadAssets(bare, versionFiles(manifest), document.code, 'stand in');
    const options = {
      assets,
      refinement: refinementOf(document, document.sheets[sheet]),
      reliefs: reliefsOf(bare, assets),
    };
    const meshes = new Map<string, StageMesh>();
    const meshOf: Record<string, string> = {};
    for (const [id, object] of Object.entries(document.objects)) {
      if (object.shape !== 'mesh' || object.mesh === null || !assets.meshes.has(object.mesh)) continue;
      const { key, make } = objectMesh(id, object, poseAt(object, document.frame), options);
      meshOf[id] = key;
      if (meshes.has(key)) continue;
      const { positions, normals, indices } = make();
      meshes.set(key, { id: key, positions, normals, indices });
    }
    self.postMessage({ meshes: [...meshes.values()], meshOf } satisfies StageAnswer);
  } catch (error) {
    self.postMessage({ problem: (error as Error).message } satisfies StageAnswer);
  }
};
