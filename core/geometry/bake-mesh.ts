import type { Mesh } from '../data/mesh.ts';
import { invert, type Transform } from '../data/transform.ts';

/** The mesh with its vertices in the world, rounded to 32 bits there: what renderers of single precision trace. */
export function bakeMesh(mesh: Mesh, m: Transform): Mesh {
  const positions = placed(mesh.positions, m);
  const before = mesh.before && placed(mesh.before, m);
  const inverse = invert(m);
  const normals = mesh.normals && new Float32Array(mesh.normals.length);
  if (normals)
    for (let i = 0; i < normals.length; i += 3) {
      const [x, y, z] = mesh.normals!.subarray(i, i + 3);
      const n = [0, 1, 2].map((a) => inverse[a * 4] * x + inverse[a * 4 + 1] * y + inverse[a * 4 + 2] * z);
      const length = Math.hypot(...n) || 1;
      for (let a = 0; a < 3; a++) normals[i + a] = n[a] / length;
    }
  // A mirrored frame turns the winding round.
  const d =
    m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);
  if (d >= 0) return { ...mesh, positions, normals, before };
  const indices = mesh.indices.slice();
  for (let i = 0; i < indices.length; i += 3) [indices[i + 1], indices[i + 2]] = [indices[i + 2], indices[i + 1]];
  return { ...mesh, positions, normals, indices, before };
}

function placed(points: Float32Array, m: Transform): Float32Array {
  const out = new Float32Array(points.length);
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = points.subarray(i, i + 3);
    for (let a = 0; a < 3; a++) out[i + a] = m[a] * x + m[4 + a] * y + m[8 + a] * z + m[12 + a];
  }
  return out;
}
