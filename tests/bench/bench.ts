/**
 * `npm run bench`: ratios, measured in one run. Absolute times drift with the machine; ratios hold.
 *
 * 1. Rays against meshes, against three-mesh-bvh on the same rays, medians of five interleaved runs.
 * 2. Two worker processes of one thread each against one.
 */
import { BufferAttribute, BufferGeometry, DoubleSide, Ray } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Mesh } from '../../core/data/mesh.ts';
import { identity } from '../../core/data/transform.ts';
import { ALL_RAYS, BvhIntersector, type Intersector } from '../../core/geometry/intersector.ts';
import { compileGeometry, compileMesh } from '../../core/geometry/scene-geometry.ts';
import { Dusting, until } from '../api/harness.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { sphere } from '../unit/helpers.ts';
import { kernelRays } from '../unit/kernel.ts';
import { randomDirection, randomNumbers } from '../unit/size.ts';

const RUNS = 5;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

function benchRays(name: string, mesh: Mesh, count: number): void {
  const scene = compileGeometry([compileMesh(mesh)], [{ mesh: 0, transform: identity(), mask: ALL_RAYS }]);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices.slice(), 1));
  const library = new MeshBVH(geometry, { maxLeafSize: 2 });
  const random = randomNumbers(1);
  const rays = Array.from({ length: count }, () => [
    ...[0, 1, 2].map(() => (random() - 0.5) * 3),
    ...randomDirection(random),
  ]);
  const ray = new Ray();
  const through = (r: Intersector) => (o: number[]) =>
    r.closest(o[0], o[1], o[2], o[3], o[4], o[5], Infinity, ALL_RAYS);
  const contestants: [string, (r: number[]) => unknown][] = [
    ['kernel', through(kernelRays(scene))],
    ['twin', through(new BvhIntersector(scene))],
    [
      'three-mesh-bvh',
      (r) => {
        ray.origin.set(r[0], r[1], r[2]);
        ray.direction.set(r[3], r[4], r[5]);
        return library.raycastFirst(ray, DoubleSide, 0, Infinity);
      },
    ],
  ];
  const times = contestants.map((): number[] => []);
  // Interleaved; the first round warms all of them up.
  for (let run = 0; run <= RUNS; run++)
    contestants.forEach(([, trace], k) => {
      const started = performance.now();
      for (const r of rays) trace(r);
      if (run > 0) times[k].push(performance.now() - started);
    });
  const medians = times.map(median);
  const told = contestants.map(([who], k) => `${who} ${(count / medians[k] / 1000).toFixed(2)} M rays/s`);
  const ratios = `${(medians[2] / medians[0]).toFixed(1)} × the library, ${(medians[1] / medians[0]).toFixed(1)} × the twin`;
  console.log(`${name}: ${told.join(', ')}; kernel ${ratios}`);
}

async function benchWorkers(): Promise<void> {
  const seconds = async (workers: number, code: string) => {
    for (let i = 0; i < workers; i++) dusting.worker(1);
    await dusting.send(filesOf(await smallShot(`${code}-WARM`, { samples: 16 })));
    await dusting.reach(`${code}-WARM`, (await dusting.shot(`${code}-WARM`)).renders[0].id, 'done');
    const started = Date.now();
    await dusting.send(filesOf(await smallShot(code, { samples: 512 })));
    const [render] = (await dusting.shot(code)).renders;
    await until('done', async () => (await dusting.render(code, render.id)).state === 'done', 300);
    return (Date.now() - started) / 1000;
  };
  const dusting = await Dusting.create();
  try {
    await dusting.server();
    const one = await seconds(1, 'ONE');
    const two = await seconds(1, 'TWO');
    console.log(`a second worker process: ${one.toFixed(1)} s → ${two.toFixed(1)} s, ${(one / two).toFixed(2)} ×`);
  } finally {
    await dusting.destroy();
  }
}

benchRays('sphere, 9 k triangles', sphere(1, 96), 200_000);
benchRays('sphere, 500 k triangles', sphere(1, 1000), 100_000);
await benchWorkers();
