/** Triangles and texels of a scene, each mesh and image once. */
import type { Scene } from '../preflight/scene.ts';

export function weightOf(scene: Scene): { triangles: number; texels: number } {
  let triangles = 0;
  for (const [, objects] of scene.objectsByMesh)
    for (const size of objects[0].poly.faceSizes) triangles += Math.max(0, size - 2);
  let texels = 0;
  scene.source.images.forEach((_, image) => {
    const header = scene.header(image);
    if (header) texels += header.width * header.height;
  });
  return { triangles, texels };
}
