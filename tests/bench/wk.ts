import { identity } from '../../core/data/transform.ts';
import { ALL_RAYS } from '../../core/geometry/intersector.ts';
import { compileGeometry, compileMesh } from '../../core/geometry/scene-geometry.ts';
import { readFileSync } from 'node:fs';
import { KernelIntersector } from '../../core/geometry/kernel-intersector.ts';
import { layOut } from '../../core/geometry/packed-geometry.ts';
const kernelRays = (g: any) => { const l = layOut(g); const memory = new WebAssembly.Memory({ initial: l.pages, maximum: 65536, shared: true }); l.write(memory.buffer); return new KernelIntersector(new WebAssembly.Instance(new WebAssembly.Module(readFileSync(process.env.WK!)), { env: { memory } }).exports as any, memory.buffer, l.slots, 0); };
import { randomDirection, randomNumbers } from '../unit/size.ts';
import { meshes } from './meshes.ts';
for (const [name, make] of meshes.slice(0, 2)) {
  const g = compileGeometry([compileMesh(make())], [{ mesh: 0, transform: identity(), mask: ALL_RAYS }]);
  const k = kernelRays(g);
  const N = 200000;
  const random = randomNumbers(1);
  const set = new Float64Array(N * 6);
  for (let i = 0; i < N; i++) set.set([...[0, 1, 2].map(() => (random() - 0.5) * 8), ...(randomDirection(random) as number[])], i * 6);
  const best: number[] = [];
  for (let run = 0; run < 6; run++) {
    const t = process.cpuUsage().user;
    for (let i = 0; i < set.length; i += 6) k.closest(set[i], set[i + 1], set[i + 2], set[i + 3], set[i + 4], set[i + 5], Infinity, ALL_RAYS);
    best.push((process.cpuUsage().user - t) / N);
  }
  const any: number[] = [];
  for (let run = 0; run < 6; run++) {
    const t = process.cpuUsage().user;
    for (let i = 0; i < set.length; i += 6) k.occluded(set[i], set[i + 1], set[i + 2], set[i + 3], set[i + 4], set[i + 5], 3, ALL_RAYS);
    any.push((process.cpuUsage().user - t) / N);
  }
  console.log(name, 'closest', Math.min(...best).toFixed(3), 'us', 'any', Math.min(...any).toFixed(3));
}
