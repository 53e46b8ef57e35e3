/**
 * Faces of refinement a second, one thread, against the rate at which memory can be written that they are written to; and the bytes
 * that a face takes while it is made against what is told before it is.
 */
import { emptyPolyMesh, type PolyMesh } from '../../core/data/poly-mesh.ts';
import { subdivided, subdivisionCost } from '../../core/subdivision/subdivide.ts';
import { interleaved, ratio } from './measure.ts';

/** A bumpy torus of quads with UVs. */
export function torus(around: number, across: number): PolyMesh {
  const [points, uvs] = [new Float32Array(3 * around * across), new Float32Array(2 * (around + 1) * (across + 1))];
  for (let i = 0; i < around; i++)
    for (let j = 0; j < across; j++) {
      const [a, b] = [(2 * Math.PI * i) / around, (2 * Math.PI * j) / across];
      const r = 1 + (0.3 + 0.05 * Math.sin(5 * a)) * Math.cos(b);
      points.set([r * Math.cos(a), 0.3 * Math.sin(b), r * Math.sin(a)], 3 * (i * across + j));
    }
  for (let i = 0; i <= around; i++)
    for (let j = 0; j <= across; j++) uvs.set([i / around, j / across], 2 * (i * (across + 1) + j));
  const faces = Array.from({ length: around * across }, (_, f) => [Math.floor(f / across), f % across]);
  const at = (i: number, j: number) => (i % around) * across + (j % across);
  const uvAt = (i: number, j: number) => i * (across + 1) + j;
  const ring = (of: typeof at) => Uint32Array.from(faces.flatMap(([i, j]) => [of(i, j), of(i, j + 1), of(i + 1, j + 1), of(i + 1, j)])); // prettier-ignore
  return {
    ...emptyPolyMesh(),
    points,
    faceSizes: new Uint32Array(faces.length).fill(4),
    corners: ring(at),
    uvs: [{ name: 'once around', values: uvs, indices: ring(uvAt) }],
    subdivision: 'catmull-clark',
  };
}

const LEVEL = 3;

export function benchSubdivision(): void {
  const cage = torus(96, 64);
  const { faces, bytes } = subdivisionCost(cage, LEVEL);
  const target = new Float64Array(bytes / 8);
  const [refine, write] = interleaved([() => void subdivided(cage, { level: LEVEL }), () => void target.fill(1)], 3);
  console.log(`Subdivision to level ${LEVEL}: ${((faces / refine) * 1e-3).toFixed(2)} million faces a second, ${(bytes / write / 1e6).toFixed(1)} GB/s written`); // prettier-ignore
  console.log(`  time over that of writing what it holds once: ${ratio('subdivision against writing its memory', refine / write)}`); // prettier-ignore
  globalThis.gc?.();
  const before = process.memoryUsage();
  const made = subdivided(cage, { level: LEVEL });
  const after = process.memoryUsage();
  const held = after.heapUsed + after.arrayBuffers - before.heapUsed - before.arrayBuffers;
  console.log(`  bytes a face: ${(held / made.faceSizes.length).toFixed(0)} held at the end before they are collected, ${(bytes / faces).toFixed(0)} told`); // prettier-ignore
}
