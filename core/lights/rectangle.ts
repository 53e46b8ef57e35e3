/**
 * Rectangle lights in one flat table: radiance leaves from the side that local −Z points to,
 * evenly over the area; the back is black.
 */
import type { RectangleLightSpec } from '../document/schema.ts';
import type { Mesh } from '../data/mesh.ts';

/** Doubles a light: corner, edge U, edge V, unit normal of the shining side, area, radiance. */
export const LIGHT_STRIDE = 16;
export const LIGHT_CORNER = 0;
export const LIGHT_U = 3;
export const LIGHT_V = 6;
export const LIGHT_NORMAL = 9;
export const LIGHT_AREA = 12;
export const LIGHT_RADIANCE = 13;

export function writeLight(table: Float64Array, o: number, light: RectangleLightSpec): void {
  const m = light.transform;
  const u = [m[0] * light.width, m[1] * light.width, m[2] * light.width];
  const v = [m[4] * light.height, m[5] * light.height, m[6] * light.height];
  // u × v points along local +Z as long as the transform keeps handedness; the light leaves along −Z.
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const area = Math.hypot(...n);
  const side = -(Math.sign(n[0] * m[8] + n[1] * m[9] + n[2] * m[10]) || 1) / area;
  for (let a = 0; a < 3; a++) {
    table[o + LIGHT_CORNER + a] = m[12 + a] - u[a] / 2 - v[a] / 2;
    table[o + LIGHT_U + a] = u[a];
    table[o + LIGHT_V + a] = v[a];
    table[o + LIGHT_NORMAL + a] = n[a] * side;
    table[o + LIGHT_RADIANCE + a] = light.radiance[a];
  }
  table[o + LIGHT_AREA] = area;
}

/** The surface that rays meet where the light stands: a unit square scaled by the light's size, in its own space. */
export function lightMesh(light: RectangleLightSpec): Mesh {
  const x = light.width / 2;
  const y = light.height / 2;
  return {
    positions: new Float32Array([-x, -y, 0, x, -y, 0, x, y, 0, -x, y, 0]),
    normals: null,
    uvs: null,
    indices: new Uint32Array([0, 2, 1, 0, 3, 2]),
  };
}
