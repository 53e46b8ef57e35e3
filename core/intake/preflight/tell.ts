/** How checks put things in words. */
import type { Topology } from '../../geometry/topology.ts';
import type { Offender } from './check.ts';
import type { Placed, Scene } from './scene.ts';

export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** `3 objects`, or the word for none. */
export const count = (offenders: Offender[], one: string, many?: string): string =>
  offenders.length ? plural(offenders.length, one, many) : 'none';

/** A mesh by its first object; others that share it are told with it, so that a fault is told once. */
export function meshOffender(objects: Placed[], n: number, detail: string): Offender {
  const more = objects.length - 1;
  return {
    object: objects[0].node.path,
    detail: more ? `${detail}; ${plural(more, 'further object')} of the same mesh` : detail,
    count: n,
  };
}

/** One offender for each mesh whose topology has any of something, and the names of those meshes. */
export function meshFaults(
  scene: Scene,
  pick: (topology: Topology) => number[],
  tell: (n: number) => string,
): { offenders: Offender[]; meshes: string[] } {
  const offenders: Offender[] = [];
  const meshes: string[] = [];
  for (const [mesh, objects] of scene.objectsByMesh) {
    const n = pick(scene.topology(mesh)).length;
    if (!n) continue;
    offenders.push(meshOffender(objects, n, tell(n)));
    meshes.push(scene.source.meshes[mesh].name);
  }
  return { offenders, meshes };
}

export const metres = (value: number): string => {
  const size = Math.abs(value);
  if (size >= 1000) return `${+(value / 1000).toPrecision(4)} km`;
  return size >= 1 || size === 0 ? `${+value.toPrecision(4)} m` : `${+(value * 1000).toPrecision(4)} mm`;
};

export const bytes = (n: number): string =>
  n >= 2 ** 30
    ? `${(n / 2 ** 30).toFixed(2)} GB`
    : n >= 2 ** 20
      ? `${(n / 2 ** 20).toFixed(1)} MB`
      : `${Math.ceil(n / 1024)} KB`;

/** An object for each of some, where it is not as it should be. */
export function objectFaults(scene: Scene, tell: (object: Placed) => string | null): Offender[] {
  const offenders: Offender[] = [];
  for (const object of scene.objects) {
    const detail = tell(object);
    if (detail !== null) offenders.push({ object: object.node.path, detail, count: 1 });
  }
  return offenders;
}
