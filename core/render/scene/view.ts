/** Where a frame shows points of the world. */
import { CAMERA_AHEAD, CAMERA_RIGHT, CAMERA_UP, type CompiledScene } from './scene.ts';

export interface View {
  /** Pixels of the frame. */
  width: number;
  height: number;
  /** Full-frame pixels from the top left corner; null behind the camera. */
  pixelOf(point: readonly number[]): [number, number] | null;
  /** Metres that a pixel covers at the distance of a point; null behind the camera. */
  metresAt(point: readonly number[]): number | null;
}

export function viewOf(
  { camera }: Pick<CompiledScene, 'camera'>,
  { width, height }: { width: number; height: number },
): View {
  const ahead = Math.hypot(camera[CAMERA_AHEAD], camera[CAMERA_AHEAD + 1], camera[CAMERA_AHEAD + 2]);
  const size2 = (at: number) => camera[at] ** 2 + camera[at + 1] ** 2 + camera[at + 2] ** 2;
  const [across, up] = [size2(CAMERA_RIGHT), size2(CAMERA_UP)];
  return {
    width,
    height,
    metresAt(point) {
      const depth = [0, 1, 2].reduce((sum, a) => sum + (point[a] - camera[a]) * camera[CAMERA_AHEAD + a], 0) / ahead;
      return depth > 0 ? (2 * Math.sqrt(up) * depth) / (ahead * height) : null;
    },
    pixelOf(point) {
      const [x, y, z] = [point[0] - camera[0], point[1] - camera[1], point[2] - camera[2]];
      const on = (at: number) => x * camera[at] + y * camera[at + 1] + z * camera[at + 2];
      const depth = on(CAMERA_AHEAD);
      if (!(depth > 0)) return null;
      return [((on(CAMERA_RIGHT) / (across * depth) + 1) / 2) * width, ((1 - on(CAMERA_UP) / (up * depth)) / 2) * height];
    },
  }; // prettier-ignore
}
