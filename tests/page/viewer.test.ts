/** Geometry of the viewer, against what a person with a ruler would find. */
import { expect } from 'chai';
import { dragged, fittedPlace, toFrame, toScreen, zoomed } from '../../web/viewer/frame-place.ts';
import { halves, tiled } from '../../web/viewer/tiling.ts';
import { between } from '../../web/viewer/viewport.ts';
import { isFirst, wipeClip, wipeLine, wipeThrough, wipeTurned } from '../../web/viewer/wipe-line.ts';

const FRAME = { width: 480, height: 270 };
const BOX = { x: 100, y: 20, width: 812, height: 612 };

describe('a frame in a box', () => {
  it('is all there when it is fitted, in the middle, with a margin, whatever the shape of its pixels', () => {
    for (const aspect of [1, 2, 0.5]) {
      const seen = toScreen({ x: 0, y: 0, ...FRAME }, BOX, fittedPlace(BOX, FRAME, aspect), aspect);
      expect(seen.width / seen.height).to.be.closeTo((aspect * 480) / 270, 1e-9);
      expect(Math.min(BOX.width - seen.width, BOX.height - seen.height)).to.be.closeTo(12, 1e-9);
      expect(seen.x - BOX.x).to.be.closeTo(BOX.x + BOX.width - seen.x - seen.width, 1e-9);
      expect(seen.y - BOX.y).to.be.closeTo(BOX.y + BOX.height - seen.y - seen.height, 1e-9);
    }
  });

  it('has under a point what stands there', () => {
    const place = { scale: 3, x: 17, y: 200 };
    const on = toScreen({ x: 40, y: 30, width: 1, height: 1 }, BOX, place, 2);
    expect(on.width).to.equal(6);
    const back = toFrame(on, BOX, place, 2);
    expect(back.x).to.be.closeTo(40, 1e-9);
    expect(back.y).to.be.closeTo(30, 1e-9);
  });

  it('keeps what is under the pointer when it comes nearer, and ends at 64 and at a fiftieth', () => {
    const place = fittedPlace(BOX, FRAME, 1);
    const at = { x: 33, y: 250 };
    const spot = { ...at, width: 0, height: 0 };
    const before = toScreen(spot, BOX, place, 1);
    const after = toScreen(spot, BOX, zoomed(place, 4, at), 1);
    expect(after.x).to.be.closeTo(before.x, 1e-9);
    expect(after.y).to.be.closeTo(before.y, 1e-9);
    expect(zoomed(place, 1e9).scale).to.equal(64);
    expect(zoomed(place, 1e-9).scale).to.equal(0.02);
    expect(zoomed(place, 2)).to.deep.equal({ ...place, scale: 2 * place.scale });
  });

  it('goes with the pointer that drags it', () => {
    const place = { scale: 2, x: 100, y: 100 };
    const spot = { x: 10, y: 10, width: 0, height: 0 };
    const before = toScreen(spot, BOX, place, 2);
    const after = toScreen(spot, BOX, dragged(place, { x: 30, y: -12 }, 2), 2);
    expect([after.x - before.x, after.y - before.y]).to.deep.equal([30, -12]);
  });

  it('has a rectangle between two corners, whichever was first', () => {
    const wanted = { x: 2, y: 3, width: 8, height: 4 };
    expect(between({ x: 2, y: 3 }, { x: 10, y: 7 })).to.deep.equal(wanted);
    expect(between({ x: 10, y: 3 }, { x: 2, y: 7 })).to.deep.equal(wanted);
  });
});

describe('several pictures', () => {
  const overlap = (a: typeof BOX, b: typeof BOX) =>
    a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

  it('share the screen without lying on each other or beyond it', () => {
    for (const size of [
      { width: 1280, height: 700 },
      { width: 300, height: 900 },
    ])
      // prettier-ignore
      for (const boxes of [halves(size), ...[1, 2, 3, 5, 9, 24].map((n) => tiled(n, size, 16 / 9))])
        boxes.forEach((a, i) => {
          expect(a.x).to.be.at.least(0);
          expect(a.x + a.width).to.be.at.most(size.width);
          expect(a.y + a.height).to.be.at.most(size.height);
          for (const b of boxes.slice(i + 1)) expect(overlap(a, b)).to.equal(false);
        });
  });

  it('stand in the columns that leave them largest', () => {
    const columns = (boxes: { x: number }[]) => new Set(boxes.map((b) => b.x)).size;
    // Beside each other: 800 × 400 for each. Above each other: 1600 × 200, where a shape of 1.5 fills 300 × 200.
    expect(columns(tiled(2, { width: 1600, height: 400 }, 1.5))).to.equal(2);
    expect(columns(tiled(2, { width: 800, height: 800 }, 1.5))).to.equal(1);
    expect(columns(tiled(9, { width: 1600, height: 900 }, 16 / 9))).to.equal(3);
  });
});

describe('a wipe', () => {
  const SIZE = { width: 800, height: 600 };
  /** Whether a point is in a convex polygon of a clip path. */
  function inside(clip: string, x: number, y: number): boolean {
    const corners = [...clip.matchAll(/(-?[\d.]+)px (-?[\d.]+)px/g)].map((m) => [Number(m[1]), Number(m[2])]);
    const signs = corners.map(([ax, ay], i) => {
      const [bx, by] = corners[(i + 1) % corners.length];
      return Math.sign((bx - ax) * (y - ay) - (by - ay) * (x - ax));
    });
    return signs.every((s) => s === signs[0]);
  }

  it('parts the screen at any angle: each place belongs to one picture, and is clipped from the other', () => {
    for (let angle = 0; angle < 360; angle += 15)
      for (const at of [0.1, 0.5, 0.83]) {
        const line = wipeLine(SIZE, { at, angle });
        const clip = wipeClip(line, SIZE);
        for (const [x, y] of [
          [3, 3],
          [797, 3],
          [411, 299],
          [3, 597],
          [797, 597],
          [200, 450],
        ])
          // prettier-ignore
          expect(inside(clip, x, y), `${angle}° at ${at}, ${x}, ${y}`).to.equal(!isFirst(line, { x, y }));
      }
  });

  it('is upright at 90°, first picture on the left, and level at 0°', () => {
    const upright = wipeLine(SIZE, { at: 0.25, angle: 90 });
    expect(upright.x).to.be.closeTo(200, 1e-9);
    expect(isFirst(upright, { x: 199, y: 5 })).to.equal(true);
    expect(isFirst(upright, { x: 201, y: 595 })).to.equal(false);
    expect(wipeLine(SIZE, { at: 0.5, angle: 0 }).y).to.be.closeTo(300, 1e-9);
  });

  it('goes through the pointer that moves it, and turns to the one that turns it', () => {
    for (const angle of [0, 30, 90, 200]) {
      const point = { x: 300, y: 350 };
      const line = wipeLine(SIZE, { at: wipeThrough(point, SIZE, angle), angle });
      const off = (point.x - line.x) * line.normal.x + (point.y - line.y) * line.normal.y;
      expect(off, `${angle}°`).to.be.closeTo(0, 1e-9);
    }
    expect(wipeThrough({ x: 5000, y: 300 }, SIZE, 90)).to.equal(1);
    expect(wipeTurned({ x: 400, y: 500 }, SIZE)).to.equal(90);
    expect(wipeTurned({ x: 300, y: 300 }, SIZE)).to.equal(180);
  });
});
