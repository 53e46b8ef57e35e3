import { CAUTION, type Check } from '../check.ts';
import type { Transform } from '../../../data/transform.ts';
import type { Offender } from '../check.ts';
import { count, metres } from '../tell.ts';

export const cameraClip: Check = {
  id: 'camera-clip',
  group: 'picture',
  title: 'Clipping planes',
  why: 'Anything nearer than the near plane or beyond the far plane is cut off.',
  threshold: CAUTION,
  run(scene) {
    const { source, document } = scene;
    const offenders: Offender[] = [];
    const clipped = source.cameras.filter(({ near, far }) => near !== null || far !== null);
    const reach = document?.sheets.final.rayDistance ?? null;
    if (clipped.length === 0 && reach === null) return 'no camera of the scene clips';
    const { min, max } = scene.bounds;
    for (const { name, node, near, far } of source.cameras) {
      const m = node < 0 ? null : source.nodes[node].world;
      const last = Math.min(far ?? Infinity, reach ?? Infinity);
      if (near !== null && near >= last)
        offenders.push({
          object: name,
          detail: `its near plane at ${metres(near)} is behind its far one at ${metres(last)}`,
          count: 1,
        });
      else if (m && min[0] <= max[0]) {
        const depth = farthest(m, min, max);
        if (depth > last * (1 + 1e-6))
          offenders.push({
            object: name,
            detail: `sees to ${metres(last)}; the scene reaches ${metres(depth)} before it`,
            count: 1,
          });
      }
    }
    return {
      expected: 'the whole scene between the planes',
      found: count(offenders, 'camera cuts', 'cameras cut'),
      offenders,
    };
  },
};

/** Greatest depth along the camera’s view of the corners of a box, metres. */
function farthest(m: Transform, min: number[], max: number[]): number {
  const length = Math.hypot(m[8], m[9], m[10]) || 1;
  let most = 0;
  for (let i = 0; i < 8; i++) {
    const along = [0, 1, 2].reduce((sum, a) => sum - (((i >> a) & 1 ? max[a] : min[a]) - m[12 + a]) * m[8 + a], 0);
    most = Math.max(most, along / length);
  }
  return most;
}
