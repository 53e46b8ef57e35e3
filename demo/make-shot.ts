/** Shots written down by what is not as a new item starts: the rest is completed as in a document that is read. */
import type { Mesh } from '../core/data/mesh.ts';
import { completeDocument } from '../core/document/complete.ts';
import { validateDocument } from '../core/document/validate.ts';
import { writeGlb } from '../core/formats/gltf.ts';
import { writePng } from '../core/formats/png.ts';
import type { DemoShot } from './shot.ts';

export interface Drawing {
  width: number;
  height: number;
  /** sRGB bytes, three a texel or four with alpha, rows from the top. */
  rgb: Uint8Array;
}

/**
 * @param geometry file that all meshes go into, each a mesh of the document by its id
 * @param images files below `textures/` by id, each a texture of the document
 * @param shot everything else of the document
 */
export async function makeShot(
  geometry: string,
  meshes: Record<string, Mesh>,
  images: Record<string, Drawing>,
  shot: object,
): Promise<DemoShot> {
  const document = validateDocument(
    completeDocument({
      schema: 'dusting.shot/1',
      meshes: Object.fromEntries(Object.keys(meshes).map((id, mesh) => [id, { file: geometry, mesh, primitive: 0 }])),
      textures: Object.fromEntries(
        Object.keys(images).map((id) => [id, { file: `textures/${id}.png`, colourSpace: 'srgb' }]),
      ),
      ...shot,
    }),
  );
  return {
    document,
    files: new Map([
      [
        geometry,
        await writeGlb(Object.entries(meshes).map(([name, mesh]) => ({ name, mesh, polygons: mesh.polygons }))),
      ],
      ...Object.entries(images).map(
        ([id, { width, height, rgb }]) => [`textures/${id}.png`, writePng(width, height, rgb)] as [string, Uint8Array],
      ),
    ]),
  };
}
