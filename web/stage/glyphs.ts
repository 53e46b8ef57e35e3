/** Lights and cameras as lines of the stage view, in their own space: what they are, how large, how far they reach. */
import type { CameraSpec, LightSpec } from '../../core/document/schema.ts';

/** Ends of segments, three numbers each. */
export type Segments = number[];

const TURNS = 32;
/** A shape that has no size of its own is drawn as large as this share of its distance from the one who looks. */
const SMALL = 0.5;

function ring(out: Segments, radius: number, at: (x: number, y: number) => [number, number, number]): void {
  for (let k = 0; k < TURNS; k++)
    for (const step of [k, k + 1]) {
      const a = (2 * Math.PI * step) / TURNS;
      out.push(...at(radius * Math.cos(a), radius * Math.sin(a)));
    }
}
const line = (out: Segments, from: number[], to: number[]) => out.push(...from, ...to);

function ball(out: Segments, radius: number): void {
  ring(out, radius, (x, y) => [x, y, 0]);
  ring(out, radius, (x, y) => [x, 0, y]);
  ring(out, radius, (x, y) => [0, x, y]);
}

/**
 * A light's shape; those that shine one way do so along −Z.
 * @param size metres that what has no size is drawn as large as
 */
export function lightLines(light: LightSpec, size: number): Segments {
  const out: Segments = [];
  switch (light.kind) {
    case 'point':
      ball(out, Math.max(light.radius, size * SMALL));
      break;
    case 'spot': {
      const length = size * 3;
      const wide = length * Math.tan(Math.min(80, light.cone / 2) * (Math.PI / 180));
      ball(out, Math.max(light.radius, size * SMALL * 0.4));
      ring(out, wide, (x, y) => [x, y, -length]);
      for (const [x, y] of [[1, 0], [-1, 0], [0, 1], [0, -1]]) line(out, [0, 0, 0], [x * wide, y * wide, -length]); // prettier-ignore
      break;
    }
    case 'rectangle': {
      const [w, h] = [light.width / 2, light.height / 2];
      const corners = [[-w, -h, 0], [w, -h, 0], [w, h, 0], [-w, h, 0]]; // prettier-ignore
      corners.forEach((corner, i) => line(out, corner, corners[(i + 1) % 4]));
      line(out, [0, 0, 0], [0, 0, -Math.max(w, h, size * SMALL)]);
      break;
    }
    case 'disc':
      ring(out, light.radius, (x, y) => [x, y, 0]);
      line(out, [0, 0, 0], [0, 0, -Math.max(light.radius, size * SMALL)]);
      break;
    case 'distant': {
      // Rays from where it stands in the sky, side by side.
      for (const [x, y] of [[0, 0], [1, 0], [-1, 0], [0, 1], [0, -1]]) line(out, [x * size * SMALL, y * size * SMALL, size * 3], [x * size * SMALL, y * size * SMALL, size]); // prettier-ignore
      ring(out, size * SMALL, (x, y) => [x, y, size * 3]);
      break;
    }
    case 'mesh':
  }
  return out;
}

/**
 * A camera's pyramid to its far plane, or as far as `size`, with its near plane and the plane in focus.
 * @param shape width of the frame by its height, pixels
 */
export function cameraLines(camera: CameraSpec, shape: number, size: number): Segments {
  const out: Segments = [];
  const half = Math.tan((camera.fieldOfView * Math.PI) / 360);
  const wide = half * shape * camera.pixelAspect;
  const plane = (depth: number) => {
    const corners = [[-1, -1], [1, -1], [1, 1], [-1, 1]].map(([x, y]) => [x * wide * depth, y * half * depth, -depth]); // prettier-ignore
    corners.forEach((corner, i) => line(out, corner, corners[(i + 1) % 4]));
    return corners;
  };
  const end = camera.far ?? size * 4;
  for (const corner of plane(end)) line(out, [0, 0, 0], corner);
  if (camera.near > 0) plane(camera.near);
  if (camera.fStop !== null && camera.focusDistance < end) plane(camera.focusDistance);
  return out;
}

/** Circles of a sphere that something reaches, in the world's axes. @param radius metres */
export function reachLines(radius: number): Segments {
  const out: Segments = [];
  ball(out, radius);
  return out;
}

/** Three lines through a place, along the axes. @param half metres to each side */
export const crossLines = (at: readonly number[], half: number): Segments =>
  [0, 1, 2].flatMap((axis) => [-1, 1].flatMap((side) => at.map((c, a) => c + (a === axis ? side * half : 0))));
