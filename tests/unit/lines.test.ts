/**
 * Ink lines against lines drawn from the corners of a cube as a pinhole camera projects them: which edges of a convex body are
 * seen, and where, follows from its faces alone. Which differences make a line: Saito & Takahashi 1990.
 */
import { expect } from 'chai';
import { channel } from '../../core/data/picture.ts';
import { lookAt } from '../../core/data/transform.ts';
import { defaultSheet, evenEnvironment } from '../../core/document/defaults.ts';
import type { Sheet } from '../../core/document/schema.ts';
import { packFilm, unpackFilm } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { LIGHT_PASSES } from '../../core/render/film/passes.ts';
import { drawLines } from '../../core/render/lines/draw.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { viewOf } from '../../core/render/scene/view.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, render, scene, sphere, square, type TestScene } from './helpers.ts';

type Point = [number, number, number];
type Lines = Sheet['lines'];
const SIZE = 96;
const EYE: Point = [3, 2.2, 4];

const lines = (more: Partial<Lines> = {}): Lines => ({ ...defaultSheet().lines, ...more });

function drawn(
  parts: Parameters<typeof scene>[0],
  more: Partial<Lines>,
  eye: Point = EYE,
  angle = 30,
): { test: TestScene; share: Float32Array } {
  const test = scene(
    parts,
    { environment: evenEnvironment([1, 1, 1]) },
    { width: SIZE, height: SIZE, lines: lines(more) },
  );
  Object.assign(test.document.cameras.main, { transform: lookAt(eye, [0, 0, 0]), fieldOfView: angle });
  return { test, share: draw(test) };
}

const draw = (test: TestScene, region = { x: 0, y: 0, width: SIZE, height: SIZE }) =>
  drawLines(compiled(test), settingsOf(test.document.sheets.preview), region);

const total = (share: ArrayLike<number>) => Array.from(share).reduce((sum, n) => sum + n, 0);

/** The edges of the cube ±1 of which a face is seen from `EYE`, in pixels. */
function cubeEdges(test: TestScene): [number, number, number, number][] {
  const view = viewOf(compiled(test), test.document.sheets.preview);
  const out: [number, number, number, number][] = [];
  for (let axis = 0; axis < 3; axis++)
    for (const s of [-1, 1])
      for (const t of [-1, 1]) {
        const [b, c] = [(axis + 1) % 3, (axis + 2) % 3];
        if (EYE[b] * s < 1 && EYE[c] * t < 1) continue;
        const end = (w: number) => {
          const p: Point = [0, 0, 0];
          [p[axis], p[b], p[c]] = [w, s, t];
          return view.pixelOf(p)!;
        };
        out.push([...end(-1), ...end(1)] as [number, number, number, number]);
      }
  return out;
}

/** What strokes with round ends cover of each pixel, by 16 × 16 subpixels of it. @param past pixels that each goes on at both ends */
function stroked(edges: [number, number, number, number][], width: number, past = 0): Float64Array {
  const fine = 16;
  const ink = new Uint8Array((SIZE * fine) ** 2);
  for (const [x0, y0, x1, y1] of edges) {
    const l = Math.hypot(x1 - x0, y1 - y0);
    const [ux, uy] = [(x1 - x0) / l, (y1 - y0) / l];
    for (let y = 0; y < SIZE * fine; y++)
      for (let x = 0; x < SIZE * fine; x++) {
        const [px, py] = [(x + 0.5) / fine - x0, (y + 0.5) / fine - y0];
        const t = Math.min(l + past, Math.max(-past, px * ux + py * uy));
        if (Math.hypot(px - t * ux, py - t * uy) <= width / 2) ink[y * SIZE * fine + x] = 1;
      }
  }
  const out = new Float64Array(SIZE * SIZE);
  ink.forEach(
    (on, i) =>
      (out[Math.floor(Math.floor(i / (SIZE * fine)) / fine) * SIZE + Math.floor((i % (SIZE * fine)) / fine)] +=
        on / fine ** 2),
  );
  return out;
}

const cube = { mesh: box([-1, -1, -1], [1, 1, 1]), object: { normals: 'flat' as const } };

describe('ink lines', () => {
  for (const [width, past] of [
    [1, 0],
    [2, 0],
    [4, 0],
    [1.5, 8],
  ])
    // prettier-ignore
    it(`of a cube are its nine edges that are seen, ${width} pixels wide${past ? `, ${past} past their corners` : ''}`, () => {
      const { test, share } = drawn([cube], { width, overshoot: past });
      const edges = cubeEdges(test);
      expect(edges).to.have.length(9);
      const expected = stroked(edges, width, past);
      expect(total(share)).to.be.closeTo(total(expected), 0.02 * total(expected));
      const off = Array.from(share, (n, i) => Math.abs(n - expected[i]));
      // Sixteen subpixels tell a pixel's share to a sixteenth, and a corner of the nib may fall to either side.
      expect(off.filter((n) => n > 0.3).length, 'pixels that are far off').to.be.at.most(past ? 12 : 4);
      expect(total(off) / total(expected)).to.be.below(0.12);
    });

  it('are the same whatever they are drawn with: tile by tile, and beside what is not drawn', () => {
    const { test, share } = drawn([cube], { width: 2, overshoot: 6 });
    const tile = { x: 32, y: 16, width: 40, height: 32 };
    const own = draw(test, tile);
    for (let y = 0; y < tile.height; y++)
      for (let x = 0; x < tile.width; x++)
        expect(own[y * tile.width + x]).to.equal(share[(tile.y + y) * SIZE + tile.x + x]);
  });

  it('run where surfaces turn only if they turn by more than is asked', () => {
    const outline = total(drawn([cube], { width: 2, normal: null }).share);
    expect(total(drawn([cube], { width: 2, normal: 120 }).share)).to.equal(outline);
    expect(total(drawn([cube], { width: 2, normal: 80 }).share)).to.be.above(outline * 1.2);
    // A smooth ball turns by little from place to place, and has its outline alone: its length, 2π f sin θ / cos θ.
    const { share } = drawn([{ mesh: sphere(1) }], { width: 2 }, [0, 0, 5], 30);
    const radius = (SIZE / 2 / Math.tan((15 * Math.PI) / 180)) * Math.tan(Math.asin(1 / 5));
    expect(total(share)).to.be.closeTo(2 * Math.PI * radius * 2, 0.02 * 4 * Math.PI * radius);
  });

  it('tell a step in depth from a floor that is seen flat', () => {
    const floor = { mesh: square(200, 0) };
    const flat = drawn([floor], { objects: false, materials: false, normal: null, depth: 0.001 }, [0, -30, 0.6], 2);
    // Only where the floor ends, before nothing.
    expect(flat.share.findIndex((n) => n > 0)).to.be.at.least(0);
    const below = Array.from({ length: SIZE / 2 }, (_, y) => flat.share[(SIZE / 2 + y) * SIZE + SIZE / 2]);
    expect(total(below), 'on the floor').to.equal(0);
    const stepped = { objects: false, materials: false, normal: null };
    const stair = (depth: number | null) => total(drawn([{ mesh: square(4, 0) }, { mesh: square(0.5, 0.2) }], { ...stepped, depth }, [0, 0, 5], 20).share); // prettier-ignore
    // The small square stands 0.2 before the large one, which fills the frame: 4.2 % of its depth of 4.8.
    expect(stair(0.03)).to.be.above(40);
    expect([stair(0.05), stair(null)]).to.deep.equal([0, 0]);
  });

  it('run between materials of one object as between objects, each if asked', () => {
    const two = (more: Partial<Lines>) =>
      total(drawn([{ mesh: square(4, 0) }, { mesh: square(0.5, 0.001), material: { baseColour: [0, 0, 0] } }], { normal: null, depth: null, objects: false, materials: false, ...more }, [0, 0, 5], 20).share); // prettier-ignore
    expect(two({})).to.equal(0);
    expect(two({ materials: true })).to.be.above(40);
    expect(two({ objects: true })).to.equal(two({ materials: true }));
  });

  it('do not run past where they end behind another (a T), nor along curves', () => {
    // A bar behind a wide plate: its two long edges end at the plate's, which runs through.
    const plate = { mesh: square(1, 1) };
    const bar = { mesh: box([-0.2, -6, -0.4], [0.2, 6, 0]), object: { normals: 'flat' as const } };
    const view = [[0, 0, 8], 20] as const;
    const [plain, past] = [0, 6].map(
      (overshoot) => drawn([plate, bar], { width: 1, overshoot }, [...view[0]], view[1]).share,
    );
    const inside = (share: Float32Array) =>
      share[(SIZE / 2) * SIZE + SIZE / 2 - 1] + total(share.subarray(SIZE * 44, SIZE * 52));
    expect(inside(past)).to.equal(inside(plain));
    // The plate's four corners: eight ends of 6 pixels, a pixel wide.
    expect(total(past) - total(plain)).to.be.closeTo(8 * 6, 5);
    const [ball, same] = [0, 6].map((overshoot) => total(drawn([{ mesh: sphere(1) }], { width: 1, overshoot }, [0, 0, 5]).share)); // prettier-ignore
    expect(same).to.equal(ball);
  });

  it('are a pass of the film, and over the beauty they are emission: the passes add up', () => {
    const test = scene(
      [{ ...cube, material: { baseColour: [0.5, 0.5, 0.5] } }],
      { environment: evenEnvironment([1, 1, 1]) },
      { width: SIZE, height: SIZE, samples: 8 },
    );
    Object.assign(test.document.cameras.main, { transform: lookAt(EYE, [0, 0, 0]), fieldOfView: 30 });
    const region = { x: 20, y: 20, width: 32, height: 32 };
    const sheet = test.document.sheets.preview;
    const names = [...LIGHT_PASSES, 'error.beauty'];
    const picture = (with_: string[]) => {
      const film = unpackFilm(packFilm(render(test, region, 8)));
      return pictureOf([film], region, with_, compiled(test).layout);
    };
    const plain = picture(names);
    sheet.passes.lines = true;
    const beside = picture([...names, 'lines']);
    for (const name of plain.channels.keys()) expect(channel(beside, name), name).to.deep.equal(channel(plain, name));
    expect(total(channel(beside, 'lines'))).to.be.above(30);
    sheet.lines = lines({ over: true, colour: [0.2, 0.1, 0] });
    const over = picture([...names, 'lines']);
    const share = channel(over, 'lines');
    for (const [c, ink] of [
      ['R', 0.2],
      ['B', 0],
    ] as const)
      // prettier-ignore
      share.forEach((n, i) => {
        const light = channel(plain, `beauty.${c}`)[i];
        expect(channel(over, `beauty.${c}`)[i]).to.be.closeTo(light * (1 - n) + ink * n, 1e-6);
        const sum = LIGHT_PASSES.slice(1).reduce((all, pass) => all + channel(over, `${pass}.${c}`)[i], 0);
        expect(channel(over, `beauty.${c}`)[i]).to.be.closeTo(sum, 1e-5);
        expect(channel(over, 'error.beauty')[i]).to.be.closeTo(channel(plain, 'error.beauty')[i] * (1 - n), 1e-6);
      });
  });
});
