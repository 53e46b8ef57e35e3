/**
 * How a triangle lies in the world and in UV: its edges, and the world directions along which U and V grow.
 *
 * @example
 * const frame = new TriangleFrame(scene);
 * frame.set(instance, triangle, 0);
 * use(frame.u, frame.v);      // ∂p/∂U and ∂p/∂V, metres a UV unit
 */
import type { f64, i32 } from '../../data/numbers.ts';
import { IS_FLOOR, type CompiledScene } from './scene.ts';

export class TriangleFrame {
  /** ∂p/∂U and ∂p/∂V, world, metres for a UV unit. Zero where UVs are flattened. */
  readonly u = new Float64Array(3);
  readonly v = new Float64Array(3);
  /** √ of UV area over world area: UV units a metre. */
  density: f64 = 0;

  private readonly edges = new Float64Array(6);

  constructor(private readonly scene: CompiledScene) {}

  set(instance: i32, triangle: i32, uvSet: i32): void {
    const { geometry } = this.scene;
    const { positions: p, indices, uvs, uvs2 } = geometry.meshes[geometry.instanceMesh[instance]];
    const { toWorld } = geometry;
    const { edges, u, v } = this;
    const m = instance * 12;
    if ((this.scene.instanceFlags[instance] & IS_FLOOR) !== 0) {
      for (let a = 0; a < 3; a++) {
        u[a] = toWorld[m + a * 4];
        v[a] = -toWorld[m + a * 4 + 2];
      }
      this.density = 1 / Math.sqrt(u[0] * u[0] + u[1] * u[1] + u[2] * u[2]);
      return;
    }
    const i = indices[triangle * 3];
    const j = indices[triangle * 3 + 1];
    const k = indices[triangle * 3 + 2];
    for (let e = 0; e < 2; e++) {
      const to = (e === 0 ? j : k) * 3;
      const x = p[to] - p[i * 3];
      const y = p[to + 1] - p[i * 3 + 1];
      const z = p[to + 2] - p[i * 3 + 2];
      for (let a = 0; a < 3; a++)
        edges[e * 3 + a] = toWorld[m + a * 4] * x + toWorld[m + a * 4 + 1] * y + toWorld[m + a * 4 + 2] * z;
    }
    const set = uvs === null || (uvSet === 1 && uvs2 !== null) ? uvs2 : uvs;
    u.fill(0);
    v.fill(0);
    this.density = 0;
    if (set === null) return;
    const u1 = set[j * 2] - set[i * 2];
    const v1 = set[j * 2 + 1] - set[i * 2 + 1];
    const u2 = set[k * 2] - set[i * 2];
    const v2 = set[k * 2 + 1] - set[i * 2 + 1];
    const area = u1 * v2 - u2 * v1;
    const cx = edges[1] * edges[5] - edges[2] * edges[4];
    const cy = edges[2] * edges[3] - edges[0] * edges[5];
    const cz = edges[0] * edges[4] - edges[1] * edges[3];
    const world = Math.sqrt(cx * cx + cy * cy + cz * cz);
    if (area === 0 || !(world > 0)) return;
    this.density = Math.sqrt(Math.abs(area) / world);
    for (let a = 0; a < 3; a++) {
      u[a] = (edges[a] * v2 - edges[3 + a] * v1) / area;
      v[a] = (edges[3 + a] * u1 - edges[a] * u2) / area;
    }
  }

  /** Takes from U and V what they have along a unit normal: of a triangle that heights have tilted, how it lay before. */
  layOn(nx: f64, ny: f64, nz: f64): void {
    const { u, v } = this;
    const du = u[0] * nx + u[1] * ny + u[2] * nz;
    u[0] -= du * nx;
    u[1] -= du * ny;
    u[2] -= du * nz;
    const dv = v[0] * nx + v[1] * ny + v[2] * nz;
    v[0] -= dv * nx;
    v[1] -= dv * ny;
    v[2] -= dv * nz;
  }
}
