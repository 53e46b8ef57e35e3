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
import { ALL_RAYS, BvhIntersector } from '../../core/geometry/intersector.ts';
import { compileGeometry, compileMesh } from '../../core/geometry/scene-geometry.ts';
import { Dusting, until } from '../api/harness.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { sphere } from '../unit/helpers.ts';
import { randomDirection, randomNumbers } from '../unit/size.ts';

const RUNS = 5;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

function benchRays(name: string, mesh: Mesh, count: number): void {
  const ours = new BvhIntersector(
    compileGeometry([compileMesh(mesh)], [{ mesh: 0, transform: identity(), mask: ALL_RAYS }]),
  );
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices.slice(), 1));
  const theirs = new MeshBVH(geometry, { maxLeafSize: 2 });
  const random = randomNumbers(1);
  const rays = Array.from({ length: count }, () => [
    ...[0, 1, 2].map(() => (random() - 0.5) * 3),
    ...randomDirection(random),
  ]);
  const time = (work: (r: number[]) => void) => {
    const started = performance.now();
    for (const r of rays) work(r);
    return performance.now() - started;
  };
  const ray = new Ray();
  const [a, b]: number[][] = [[], []];
  for (let run = 0; run <= RUNS; run++) {
    const our = time((r) => ours.closest(r[0], r[1], r[2], r[3], r[4], r[5], Infinity, ALL_RAYS));
    const their = time((r) => {
      ray.origin.set(r[0], r[1], r[2]);
      ray.direction.set(r[3], r[4], r[5]);
      theirs.raycastFirst(ray, DoubleSide, 0, Infinity);
    });
    // The first run warms both up.
    if (run > 0) [our, their].forEach((t, k) => [a, b][k].push(t));
  }
  const ratio = (median(b) / median(a)).toFixed(2);
  console.log(`${name}: ${(count / median(a) / 1000).toFixed(2)} M rays/s, ${ratio} × three-mesh-bvh`);
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
