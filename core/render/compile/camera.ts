/** The camera of a shot as rays start from it: see the CAMERA_… places. */
import { lensRadius } from '../../data/lens.ts';
import type { ShotDocument } from '../../document/schema.ts';

/** @param shape width of the frame by its height, pixels */
export function compileCamera(document: ShotDocument, shape: number): Float64Array {
  const { transform: m, fieldOfView, pixelAspect, near, far, focusDistance, ...camera } = document.cameras[document.camera]; // prettier-ignore
  const column = (k: number) => {
    const l = Math.hypot(m[k * 4], m[k * 4 + 1], m[k * 4 + 2]);
    return [m[k * 4] / l, m[k * 4 + 1] / l, m[k * 4 + 2] / l];
  };
  const half = Math.tan((fieldOfView * Math.PI) / 360);
  const right = column(0).map((c) => c * half * shape * pixelAspect);
  const up = column(1).map((c) => c * half);
  const ahead = column(2).map((c) => -c);
  const lens = lensRadius({ fieldOfView, ...camera });
  return Float64Array.from([
    m[12],
    m[13],
    m[14],
    ...right,
    ...up,
    ...ahead,
    near,
    far ?? Infinity,
    lens,
    focusDistance,
  ]);
}
