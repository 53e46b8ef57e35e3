/** Beside the page: reads the meshes of a version for the stage view. */
import type { ShotDocument } from '../../core/document/schema.ts';
import { versionFiles } from '../remote/version-files.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';

export interface StageRequest {
  document: ShotDocument;
  /** Hashes of its files by path. */
  manifest: Record<string, string>;
}
/** Triangles of a mesh, by its id. */
export interface StageMesh {
  id: string;
  positions: Float32Array;
  normals: Float32Array | null;
  indices: Uint32Array;
}
export type StageAnswer = { meshes: StageMesh[] } | { problem: string };

self.onmessage = async ({ data: { document, manifest } }: MessageEvent<StageRequest>) => {
  try {
    // Shapes alone: no image is read for them.
    const bare = { ...document, textures: {}, maps: {}, coats: {} };
    const assets = await loadAssets(bare, versionFiles(manifest), document.code, 'stand in');
    const meshes = [...assets.meshes].map(([id, { positions, normals, indices }]): StageMesh => ({ id, positions, normals, indices })); // prettier-ignore
    self.postMessage({ meshes } satisfies StageAnswer);
  } catch (error) {
    self.postMessage({ problem: (error as Error).message } satisfies StageAnswer);
  }
};
