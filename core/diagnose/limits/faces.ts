/** Counting glass faces by hand, along the straight path of one pixel. */
import type { ShotDocument } from '../../document/schema.ts';
import { tracerOf } from '../../render/path/tracer.ts';
import { settingsOf, type CompiledScene } from '../../render/scene/scene.ts';
import type { Sheet } from '../../document/schema.ts';

export interface BodyCount {
  /** Display name of the material. */
  material: string;
  bodies: number;
  faces: number;
}

/** Faces beyond these are not told apart. */
const MOST_FACES = 1024;

/** What a straight path through pixel (x, y) passes, by material, in the order met. */
export function countBodies(
  document: ShotDocument,
  scene: CompiledScene,
  sheet: Sheet,
  x: number,
  y: number,
): BodyCount[] {
  const crossed = new Int32Array(MOST_FACES);
  const faces = tracerOf(scene, settingsOf(sheet)).crossings(x, y, crossed);
  const byObject = new Map<string, number>();
  for (const instance of crossed.subarray(0, faces)) {
    const id = scene.objectIds[scene.instanceObject[instance]];
    byObject.set(id, (byObject.get(id) ?? 0) + 1);
  }
  const counts = new Map<string, BodyCount>();
  for (const [id, faces] of byObject) {
    const material = document.objects[id].material;
    const name = document.materials[material].name || material;
    const count = counts.get(name) ?? { material: name, bodies: 0, faces: 0 };
    count.bodies++;
    count.faces += faces;
    counts.set(name, count);
  }
  return [...counts.values()];
}

/** "5 bodies of tinted glass × 2 walls × 2 faces = 20". */
export function tellBodies(counts: BodyCount[]): string {
  const total = counts.reduce((sum, c) => sum + c.faces, 0);
  const parts = counts.map(({ material, bodies, faces }) => {
    const each = faces / bodies;
    const what = `${bodies} ${bodies === 1 ? 'body' : 'bodies'} of ${material}`;
    if (each === 4) return `${what} × 2 walls × 2 faces`;
    return Number.isInteger(each)
      ? `${what} × ${each} ${each === 1 ? 'face' : 'faces'}`
      : `${what} with ${faces} faces`;
  });
  return `${parts.join(' + ')} = ${total}`;
}
