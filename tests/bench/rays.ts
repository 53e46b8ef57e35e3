/**
 * Rays a second against three-mesh-bvh on the same meshes and rays, one thread, through the entry that the integrator
 * calls: two levels, masks on. And the kernel against its TypeScript twin.
 */
import { DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH, SAH } from 'three-mesh-bvh';
import { identity } from '../../core/data/transform.ts';
import { ALL_RAYS, BvhIntersector, type Intersector } from '../../core/geometry/intersector.ts';
import { lentByHost } from '../../host/kernel.ts';
import { layOut } from '../../core/geometry/packed-geometry.ts';
import { compileGeometry, compileMesh } from '../../core/geometry/scene-geometry.ts';
import { kernelRays } from '../unit/kernel.ts';
import { randomDirection, randomNumbers } from '../unit/size.ts';
import { forLibrary, meshes } from './meshes.ts';
import { interleaved, median, ratio } from './measure.ts';

const COUNT = 60_000;
const one = [{ mesh: 0, transform: identity(), mask: ALL_RAYS }];

/** Origins, directions and greatest distances, seven numbers a ray. */
function raysOf(kind: 'coherent' | 'incoherent' | 'shadow'): Float64Array {
  const random = randomNumbers(1);
  const out = new Float64Array(COUNT * 7);
  const side = Math.floor(Math.sqrt(COUNT));
  for (let i = 0; i < COUNT; i++) {
    let from = [0, 1, 2].map(() => (random() - 0.5) * 8);
    let to = randomDirection(random) as number[];
    let end = Infinity;
    if (kind === 'coherent') {
      from = [0, 3, 4.9];
      to = [((i % side) / side - 0.5) * 1.4, (Math.floor(i / side) / side - 0.5) * 1 - 0.5, -1];
    }
    if (kind === 'shadow') {
      const target = [0, 1, 2].map(() => (random() - 0.5) * 8);
      to = target.map((c, a) => c - from[a]);
      end = 1;
    }
    out.set([...from, ...to, end], i * 7);
  }
  return out;
}

function trace(rays: Intersector, set: Float64Array, any: boolean): () => void {
  return () => {
    for (let i = 0; i < set.length; i += 7) {
      if (any) rays.occluded(set[i], set[i + 1], set[i + 2], set[i + 3], set[i + 4], set[i + 5], set[i + 6], ALL_RAYS);
      else rays.closest(set[i], set[i + 1], set[i + 2], set[i + 3], set[i + 4], set[i + 5], set[i + 6], ALL_RAYS);
    }
  };
}

function throughLibrary(library: MeshBVH, set: Float64Array): () => void {
  const ray = new Ray(new Vector3(), new Vector3());
  return () => {
    for (let i = 0; i < set.length; i += 7) {
      ray.origin.set(set[i], set[i + 1], set[i + 2]);
      ray.direction.set(set[i + 3], set[i + 4], set[i + 5]);
      library.raycastFirst(ray, DoubleSide, 0, set[i + 6]);
    }
  };
}

export function benchRays(): void {
  const ratios: number[] = [];
  for (const [name, make] of meshes) {
    const mesh = make();
    const geometry = compileGeometry([compileMesh(mesh, lentByHost)], one);
    const [kernel, twin] = [kernelRays(geometry), new BvhIntersector(geometry)];
    const library = new MeshBVH(forLibrary(mesh), { strategy: SAH });
    for (const kind of ['coherent', 'incoherent', 'shadow'] as const) {
      const set = raysOf(kind);
      const any = kind === 'shadow';
      const [ours, theirs, twins] = interleaved([
        trace(kernel, set, any),
        throughLibrary(library, set),
        trace(twin, set, any),
      ]);
      ratios.push(theirs / ours);
      console.log(
        `${name}, ${kind}: ${(COUNT / ours / 1000).toFixed(2)} M rays/s, ${(theirs / ours).toFixed(1)} × three-mesh-bvh, ${(twins / ours).toFixed(1)} × the twin`,
      );
    }
    const triangles = mesh.indices.length / 3;
    const shading = geometry.meshes[0].positions.byteLength + geometry.meshes[0].indices.byteLength;
    console.log(`${name}: ${Math.round((layOut(geometry).slots + shading) / triangles)} bytes a triangle in the kernel's memory`); // prettier-ignore
  }
  console.log(
    `closest and any hits against three-mesh-bvh, median of ${ratios.length}: ${ratio('rays: of three-mesh-bvh, median', median(ratios), 1)}`,
  );
}

export function benchBuild(): void {
  const mesh = meshes[1][1]();
  const [ours, theirs] = interleaved(
    [
      () => layOut(compileGeometry([compileMesh(mesh, lentByHost)], one)),
      () => new MeshBVH(forLibrary(mesh), { strategy: SAH }),
    ],
    3,
  );
  console.log(
    `tree of 500 k triangles: ${Math.round(ours)} ms, ${ratio('trees: of three-mesh-bvh', theirs / ours, 1)} as fast as three-mesh-bvh with SAH`,
  );
}
