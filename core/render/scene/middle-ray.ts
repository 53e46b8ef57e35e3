/** The ray through the middle of a pixel, of a camera without a lens. */
import { CAMERA_AHEAD, CAMERA_RIGHT, CAMERA_UP } from './scene.ts';

/**
 * @param x and `y`: pixels of the full frame, fractions allowed
 * @param near metres along the axis to where the ray begins
 * @param ray takes its origin and its unit direction
 * @returns metres along the ray for each metre along the axis
 */
export function middleRay(
  camera: Float64Array,
  { width, height }: { width: number; height: number },
  x: number,
  y: number,
  near: number,
  ray: Float64Array,
): number {
  const px = (2 * (x + 0.5)) / width - 1;
  const py = 1 - (2 * (y + 0.5)) / height;
  for (let a = 0; a < 3; a++) ray[3 + a] = camera[CAMERA_AHEAD + a] + px * camera[CAMERA_RIGHT + a] + py * camera[CAMERA_UP + a]; // prettier-ignore
  const length = Math.hypot(ray[3], ray[4], ray[5]);
  for (let a = 0; a < 3; a++) {
    ray[a] = camera[a] + near * ray[3 + a];
    ray[3 + a] /= length;
  }
  return length;
}
