/** Where scenes stand in memory that the kernel reads: shared, bounded, and told apart. */
import { expect } from 'chai';
import { evenEnvironment } from '../../core/document/defaults.ts';
import type { Layouts } from '../../core/data/structures.ts';
import { reserved } from '../../core/geometry/packed-geometry.ts';
import { createFilm, packFilm } from '../../core/render/film/film.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { ScenePlaces } from '../../core/render/path/scene-places.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import { compiled, scene, sphere, square } from './helpers.ts';
import { kernelScene } from './kernel.ts';

describe('places of scenes', () => {
  /** Of a scene only what is large here: a table that every variant has anew. */
  const layouts: Layouts = { CompiledScene: [['materials', 'array']] };
  const newMemory = (pages: number) => new WebAssembly.Memory({ initial: pages, maximum: 65536, shared: true }) as WebAssembly.Memory & { grow(pages: number): number }; // prettier-ignore
  const geometryOf = (mesh = square(1, 0)) => compiled(scene([{ mesh }]));
  const withTable = (from: CompiledScene, megabytes: number): CompiledScene => ({ ...from, materials: new Float64Array(megabytes * 131072) }); // prettier-ignore

  it('share a memory where rays meet the same, and what both hold stands there once', () => {
    const places = new ScenePlaces(layouts, newMemory);
    const one = withTable(geometryOf(), 1);
    const first = places.place(one, null);
    const before = reserved(first.memory);
    const second = places.place({ ...one }, { geometry: one.geometry, place: first });
    expect(second.memory).to.equal(first.memory);
    expect(reserved(first.memory) - before).to.be.below(256);
    const other = places.place(withTable(geometryOf(sphere(1)), 1), { geometry: one.geometry, place: first });
    expect(other.memory).not.to.equal(first.memory);
  });

  it('leave a memory that variants have filled, so that a day of turning dials takes no more than a few of them', () => {
    const places = new ScenePlaces(layouts, newMemory);
    const base = geometryOf();
    let place = places.place(withTable(base, 40), null);
    const memories = new Set([place.memory]);
    for (let k = 0; k < 12; k++) {
      place = places.place(withTable(base, 40), { geometry: base.geometry, place });
      memories.add(place.memory);
    }
    expect(memories.size).to.be.within(2, 3);
    for (const memory of memories) expect(memory.buffer.byteLength).to.be.below(2 ** 28 + 60 * 2 ** 20);
  });

  it('have no tracer where a pixel has more sums than a thread has room for: its twin renders, to the same bits', () => {
    const test = scene([{ mesh: sphere(1) }], { environment: evenEnvironment([1, 1, 1]) });
    const plain = compiled(test);
    const layout = { ...plain.layout, shadows: Array.from({ length: 15_000 }, (_, k) => `light ${k}`) };
    const films = [plain, kernelScene(plain)].map((one) => {
      const film = createFilm({ x: 7, y: 7, width: 2, height: 2 }, layout);
      renderGroups({ ...one, layout }, settingsOf(test.document.sheets.preview), film, 1);
      return Buffer.from(packFilm(film));
    });
    expect(films[0].equals(films[1])).to.equal(true);
  });
});
