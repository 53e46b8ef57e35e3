/** The WebAssembly kernel against its TypeScript twin: the same hits, bit for bit, and no leak of its own. */
import { Worker } from 'node:worker_threads';
import { expect } from 'chai';
import { evenEnvironment } from '../../core/document/defaults.ts';
import type { Mesh } from '../../core/data/mesh.ts';
import { identity, multiply, rotationX, rotationY, scaling, translation } from '../../core/data/transform.ts';
import { ALL_RAYS, BvhIntersector } from '../../core/geometry/intersector.ts';
import { layOut, SLOT_BYTES, SLOTS } from '../../core/geometry/packed-geometry.ts';
import { compileGeometry, compileMesh, type SceneGeometry } from '../../core/geometry/scene-geometry.ts';
import type { Sheet } from '../../core/document/schema.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { createFilm, packFilm } from '../../core/render/film/film.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { box, lathe } from '../../demo/shapes.ts';
import { demoShots } from '../../demo/shots.ts';
import { compiled, scene, sphere, square } from './helpers.ts';
import { packScene, withKernel } from '../../host/kernel.ts';
import { kernelRays, kernelScene } from './kernel.ts';
import { builtOnce } from './built.ts';
import { atSize, randomDirection, randomNumbers } from './size.ts';

const geometryOf = (parts: { mesh: Mesh; transform?: number[]; mask?: number }[]): SceneGeometry =>
  compileGeometry(
    parts.map(({ mesh }) => compileMesh(mesh)),
    parts.map(({ transform, mask }, i) => ({ mesh: i, transform: transform ?? identity(), mask: mask ?? ALL_RAYS })),
  );

const jar = lathe([[0, 0], [1, 0], [1, 1.5], [0.7, 1.8], [0.6, 1.8], [0.9, 1.4], [0.9, 0.1], [0, 0.1]], 48); // prettier-ignore

const scaled = (mesh: Mesh, by: number): Mesh => ({ ...mesh, positions: mesh.positions.map((p) => p * by) });
const moved = (mesh: Mesh, x: number): Mesh => ({
  ...mesh,
  positions: mesh.positions.map((p, i) => (i % 3 ? p : p + x)),
});

/** Compares every hit along rays: closest, then each one behind it, then whether anything is in the way. */
function expectSame(geometry: SceneGeometry, rays: Iterable<number[]>): number {
  const twin = new BvhIntersector(geometry);
  const kernel = kernelRays(geometry);
  let hits = 0;
  const told = (r: BvhIntersector | typeof kernel, hit: boolean) =>
    hit ? [r.t, r.instance, r.triangle, r.u, r.v].join() : 'none';
  for (const [ox, oy, oz, dx, dy, dz, end = Infinity] of rays) {
    let [a, b] = [twin, kernel].map((r) => r.closest(ox, oy, oz, dx, dy, dz, end, ALL_RAYS));
    for (let k = 0; k < 6; k++) {
      const [x, y] = [told(twin, a), told(kernel, b)];
      if (x !== y) expect.fail(`ray ${[ox, oy, oz, dx, dy, dz]}, hit ${k}: twin ${x}, kernel ${y}`);
      if (!a) break;
      hits++;
      [a, b] = [twin, kernel].map((r) => r.closestAfter(r.t, r.instance, r.triangle));
    }
    expect(kernel.occluded(ox, oy, oz, dx, dy, dz, end, ALL_RAYS)).to.equal(
      twin.occluded(ox, oy, oz, dx, dy, dz, end, ALL_RAYS),
    );
  }
  return hits;
}

function* randomRays(count: number, size: number, at = [0, 0, 0], seed = 1): Generator<number[]> {
  const random = randomNumbers(seed);
  for (let i = 0; i < count; i++)
    yield [
      ...at.map((c) => c + (random() - 0.5) * size),
      ...randomDirection(random),
      i % 5 ? Infinity : random() * size,
    ];
}

describe('intersect kernel', () => {
  const cases: [string, SceneGeometry, number, number[]][] = [
    ['one mesh', geometryOf([{ mesh: sphere(1, 96) }]), 3, [0, 0, 0]],
    ['a jar looked into', geometryOf([{ mesh: jar }]), 3, [0, 0.8, 0]],
    [
      'many instances, turned, stretched and overlapping',
      geometryOf(
        Array.from({ length: 40 }, (_, i) => ({
          mesh: i % 2 ? jar : box([-0.5, -0.5, -0.5], [0.5, 0.5, 0.5]),
          transform: multiply(
            translation((i % 7) * 0.9 - 3, (i % 5) * 0.8 - 2, (i % 3) - 1),
            multiply(rotationY(i * 37), multiply(rotationX(i * 11), scaling(1, 0.4 + (i % 4) * 0.3, 0.8))),
          ),
        })),
      ),
      8,
      [0, 0, 0],
    ],
    ['coincident faces', geometryOf([{ mesh: square(1, 0) }, { mesh: square(1, 0) }, { mesh: square(2, 0) }]), 3, [0, 0, 0]],
    ['a scene 40 km from the origin', geometryOf([{ mesh: jar, transform: translation(40_000, 0, -40_000) }]), 4, [40_000, 0.8, -40_000]],
    ['a millimetre', geometryOf([{ mesh: jar, transform: scaling(1e-3, 1e-3, 1e-3) }]), 4e-3, [0, 8e-4, 0]],
    ['a picometre', geometryOf([{ mesh: jar, transform: scaling(1e-12, 1e-12, 1e-12) }]), 4e-12, [0, 8e-13, 0]],
    ['a light year', geometryOf([{ mesh: jar, transform: scaling(1e16, 1e16, 1e16) }]), 4e16, [0, 8e15, 0]],
    ['triangles as small as 32 bits allow', geometryOf([{ mesh: scaled(jar, 1e-30) }]), 4e-30, [0, 8e-31, 0]],
    ['triangles as large as 32 bits allow', geometryOf([{ mesh: scaled(jar, 1e30) }]), 4e30, [0, 8e29, 0]],
    ['small triangles far from the origin of their mesh', geometryOf([{ mesh: moved(sphere(1, 96), 4000) }]), 3, [4000, 0, 0]],
    ['ten kilometres', geometryOf([{ mesh: jar, transform: scaling(1e4, 1e4, 1e4) }]), 4e4, [0, 8e3, 0]],
  ]; // prettier-ignore
  for (const [name, geometry, size, at] of cases)
    it(`has the twin’s hits: ${name}`, () => {
      expect(expectSame(geometry, randomRays(atSize(4000, 1_000_000), size, at))).to.be.above(500);
    });

  it('has the twin’s hits along axes, through corners and edges, from on the surface', () => {
    const geometry = geometryOf([{ mesh: box([-1, -1, -1], [1, 1, 1]) }, { mesh: square(3, -2) }]);
    const rays: number[][] = [];
    const places = [-2, -1, -0.5, 0, 1, 2];
    for (const x of places)
      for (const y of places)
        for (const z of places)
          for (const d of [
            [1, 0, 0],
            [-1, 0, 0],
            [0, 1, 0],
            [0, -1, 0],
            [0, 0, 1],
            [0, 0, -1],
            [1, 1, 0],
            [-1, 1, -1],
            [0, 1e-30, -1],
          ])
            rays.push([x, y, z, ...d]);
    expect(expectSame(geometry, rays)).to.be.above(1000);
  });

  it('sees what its mask allows, and nothing in an empty scene', () => {
    const masked = kernelRays(
      geometryOf([
        { mesh: square(1, 0), mask: 1 },
        { mesh: square(1, -1), mask: 2 },
      ]),
    );
    expect(masked.closest(0, 0.1, 5, 0, 0, -1, Infinity, 2)).to.equal(true);
    expect(masked.instance).to.equal(1);
    expect(masked.occluded(0, 0.1, 5, 0, 0, -1, Infinity, 4)).to.equal(false);
    expect(kernelRays(geometryOf([])).closest(0, 0, 0, 0, 0, 1, Infinity, ALL_RAYS)).to.equal(false);
  });

  it('lets no ray out of closed meshes of several shapes and sizes (Woop, Benthin & Wald 2013)', () => {
    for (const [k, size] of [1e-3, 1, 1e4].entries()) {
      const mesh = [sphere(1, 24), box([-1, -1, -1], [1, 1, 1]), jar][k];
      const inside = k === 2 ? 0.05 : 0;
      const closed = kernelRays(geometryOf([{ mesh, transform: scaling(size, size, size) }]));
      const random = randomNumbers(k + 1);
      const p = mesh.positions;
      for (let i = 0; i < atSize(100_000, 33_000_000); i++) {
        const o = [0, inside, 0].map((c) => (c + (random() - 0.5) * 0.08) * size);
        let d: number[] = randomDirection(random);
        if (i % 2) {
          const t = Math.floor(random() * (mesh.indices.length / 3)) * 3;
          const [a, b] = [mesh.indices[t] * 3, mesh.indices[t + 1] * 3];
          const w = i % 4 === 1 ? 0 : random();
          d = [0, 1, 2].map((c) => (p[a + c] + w * (p[b + c] - p[a + c])) * size - o[c]);
        }
        if (!closed.closest(o[0], o[1], o[2], d[0], d[1], d[2], Infinity, ALL_RAYS))
          expect.fail(`mesh ${k}: ray ${i} from ${o} along ${d} got out`);
      }
    }
  }).timeout(atSize(60_000, 4 * 3600_000));

  it('renders films with the twin’s bits', () => {
    const test = scene(
      [
        { mesh: box([-3, -1.2, -3], [3, -1, 3]) },
        { mesh: sphere(0.6), material: { baseColour: [1, 1, 1], transmission: 1, roughness: 0.1 } },
      ],
      { environment: evenEnvironment([0.5, 0.6, 0.7]) },
      { width: 24, height: 16, samples: 16 },
    );
    const plain = compiled(test);
    const films = [plain, kernelScene(plain)].map((s) => {
      const film = createFilm({ x: 0, y: 0, width: 24, height: 16 });
      renderGroups(s, settingsOf(test.document.sheets.preview), film, 4);
      return Buffer.from(packFilm(film));
    });
    expect(films[0].equals(films[1])).to.equal(true);
  });

  it('renders every demo shot with the twin’s bits: maps, fog, cut-outs, links, motion, nested glass, every light', async function () {
    this.timeout(120_000);
    let isFinal = false;
    for (const [code, build] of Object.entries(demoShots)) {
      const { document, files } = await builtOnce(build);
      const assets = await loadAssets(document, async (path) => files.get(path) ?? null, code, 'stand in');
      // One after the other has the sheet that renders in double or in single precision; all have both in `npm run verify`.
      isFinal = !isFinal;
      for (const name of atSize([isFinal ? 'final' : 'preview'] as const, ['preview', 'final'] as const)) {
        const own = document.sheets[name];
        const sheet: Sheet = {
          ...own,
          width: 24 * atSize(1, 4),
          height: 14 * atSize(1, 4),
          samples: 8,
          adaptive: { ...own.adaptive, on: name === 'final', least: 8 },
          passes: { occlusion: true, shadows: true, lines: false, groups: true },
          precision: name === 'final' ? 'single' : 'double',
        };
        const twin = compileScene(document, assets, sheet);
        const [a, b] = [twin, kernelScene(twin)].map((s) => {
          const film = createFilm({ x: 0, y: 0, width: sheet.width, height: sheet.height }, s.layout);
          renderGroups(s, settingsOf(sheet), film, 2);
          return Buffer.from(packFilm(film));
        });
        expect(a.equals(b), `${code}, ${name}`).to.equal(true);
      }
    }
  });

  it('tells scenes that a thread has made itself from those it was sent', async () => {
    const test = scene([{ mesh: sphere(1) }], { environment: evenEnvironment([1, 0.5, 0.2]) });
    const sent = compiled(test);
    const settings = settingsOf(test.document.sheets.preview);
    const packed = packScene(sent);
    const worker = new Worker(new URL('./kernel-thread.ts', import.meta.url), {
      workerData: { scene: sent, packed, settings },
    });
    const [first, theirs, again] = await new Promise<Uint8Array[]>((resolve, reject) => {
      worker.on('message', resolve);
      worker.on('error', reject);
    });
    const film = createFilm({ x: 0, y: 0, width: 16, height: 16 }, sent.layout);
    renderGroups(withKernel(sent, packed), settings, film, 1);
    expect(Buffer.from(theirs).equals(Buffer.from(packFilm(film)))).to.equal(true);
    expect(Buffer.from(first).equals(Buffer.from(again))).to.equal(true);
    expect(Buffer.from(first).equals(Buffer.from(theirs))).to.equal(false);
  });

  it('keeps each thread’s results apart, in slots of its own', () => {
    const layout = layOut(geometryOf([{ mesh: square(1, 0) }]));
    expect(layout.pages * 65536).to.be.at.least(layout.slots + SLOTS * SLOT_BYTES);
    expect(layout.slots % 16).to.equal(0);
  });
});
