/** What a camera sees: between its planes, through its lens, in pixels that are not square. */
import { expect } from 'chai';
import { blurShare, focalLength, lensRadius } from '../../core/data/lens.ts';
import { lookAt } from '../../core/data/transform.ts';
import { defaultCamera } from '../../core/document/defaults.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import type { CameraSpec } from '../../core/document/schema.ts';
import { validateDocument } from '../../core/document/validate.ts';
import type { Film } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { meanOf, render, scene, square } from './helpers.ts';
import { atSize } from './size.ts';

const PLACE = { transform: lookAt([0, 0, 5], [0, 0, 0]), fieldOfView: 30 };
const channel = (film: Film, pass: string, name: string) => pictureOf([film], film.region, [pass]).channels.get(name)!;
const seenBy = (camera: Partial<CameraSpec>, half: number, z: number, sheet = {}) =>
  scene(
    [{ mesh: square(half, z), material: { emission: [1, 1, 1], baseColour: [0, 0, 0], specular: 0 } }],
    { cameras: { main: { ...defaultCamera(), ...PLACE, ...camera } } },
    sheet,
  );

describe('a camera', () => {
  it('has the focal length that its sensor and angle of view make, and a lens by its f-number', () => {
    // 36 × 24 mm: a vertical angle of 26.99° is a 50 mm lens (common practice, no source).
    expect(focalLength({ sensorHeight: 24, fieldOfView: 26.991 }) * 1000).to.be.closeTo(50, 0.01);
    expect(lensRadius({ sensorHeight: 24, fieldOfView: 26.991, fStop: 2 }) * 2000).to.be.closeTo(25, 0.01);
    expect(lensRadius({ sensorHeight: 24, fieldOfView: 26.991, fStop: null })).to.equal(0);
  });

  it('sees nothing nearer than its near plane and nothing beyond its far one', () => {
    const bright = (camera: Partial<CameraSpec>) => meanOf(render(seenBy(camera, 10, 0))).mean;
    expect(bright({})).to.be.closeTo(1, 1e-6);
    expect(bright({ near: 4.9 })).to.be.closeTo(1, 1e-6);
    expect(bright({ near: 5.1 })).to.equal(0);
    expect(bright({ far: 5.1 })).to.be.closeTo(1, 1e-6);
    expect(bright({ far: 4.9 })).to.equal(0);
    // Planes, not spheres: the corners of the frame are farther than the plane's distance.
    const corner = render(seenBy({ far: 5.0001, fieldOfView: 90 }, 10, 0));
    expect(meanOf(corner).mean).to.be.closeTo(1, 1e-6);
  });

  it('tells depth from where it stands, whatever its near plane', () => {
    const depth = (near: number) => channel(render(seenBy({ near, fieldOfView: 0.01 }, 10, 0)), 'depth', 'depth');
    expect(depth(0)[0]).to.be.closeTo(5, 1e-5);
    expect(depth(3)[0]).to.be.closeTo(5, 1e-5);
  });

  it('stretches what it sees by the aspect of its pixels', () => {
    const covered = (pixelAspect: number) => meanOf(render(seenBy({ pixelAspect }, 0.5, 0, { width: 64, height: 64, filter: { kind: 'box', width: 1 } }))).mean; // prettier-ignore
    expect(covered(2) / covered(1)).to.be.closeTo(0.5, 0.01);
  });

  it('refuses a near plane beyond the far one by name', () => {
    const { document } = seenBy({ near: 3, far: 2 }, 1, 0);
    expect(() => validateDocument(document)).to.throw(InvalidInput, /\/cameras\/main\/near.*less than 2/s);
  });

  it('blurs by the circle of confusion of a thin lens (Potmesil & Chakravarty 1981)', () => {
    const size = 96;
    const half = 0.01;
    const lenses = [
      [1, 2, 0],
      [2, 2.5, 0],
      [1, 5, 2.5],
    ];
    for (const [fStop, focusDistance, z] of lenses.slice(0, atSize(1, lenses.length))) {
      const lens = { ...PLACE, sensorHeight: 240, fStop };
      const film = render(seenBy({ ...lens, focusDistance }, half, z, { width: size, height: size, samples: 1024, filter: { kind: 'box', width: 1 } })); // prettier-ignore
      const plane = channel(film, 'beauty', 'beauty.R');
      let [sum, spread] = [0, 0];
      for (let y = 0; y < size; y++)
        for (let x = 0; x < size; x++) {
          const light = plane[y * size + x];
          sum += light;
          spread += light * ((x + 0.5 - size / 2) ** 2 + (y + 0.5 - size / 2) ** 2);
        }
      const diameter = blurShare(lens, focusDistance, 5 - z) * size;
      // Mean square distance from the middle of an even disc: a quarter of its radius squared an axis; of a pixel's box and of
      // the square that shines, a twelfth of their widths squared.
      const shown = (half * 2 * size) / (2 * (5 - z) * Math.tan((15 * Math.PI) / 180));
      const told = diameter ** 2 / 8 + (2 * (1 + shown ** 2)) / 12;
      expect(spread / sum / told, `f/${fStop}, focus ${focusDistance}`).to.be.closeTo(1, 0.03);
    }
  });

  it('is sharp in the plane of focus, however wide the lens', () => {
    const sharp = meanOf(render(seenBy({}, 0.4, 0, { width: 32, height: 32 })));
    const wide = meanOf(render(seenBy({ sensorHeight: 240, fStop: 0.5, focusDistance: 5 }, 0.4, 0, { width: 32, height: 32 }))); // prettier-ignore
    expect(wide.mean).to.be.closeTo(sharp.mean, 1e-9);
  });
});
