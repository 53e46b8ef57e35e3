/** Transforms as people set them, lights aimed at what is seen, and words for what was changed. */
import { expect } from 'chai';
import { aimed, depthOf, placedAt, withHighlight, withShadow } from '../../core/data/aim.ts';
import {
  isPlain,
  placementOf,
  sunDirection,
  sunPlaceOf,
  transformOf,
  withPart,
  type Triple,
} from '../../core/data/placement.ts';
import { lookAt, multiply, rotationX, rotationY, rotationZ, scaling, translation } from '../../core/data/transform.ts';
import { controlsOf } from '../../core/document/controls.ts';
import { defaultBackground, defaultCamera, defaultLight } from '../../core/document/defaults.ts';
import { copyOf, freeId, newCamera, newLight } from '../../core/document/new-items.ts';
import { applyPatch, invertPatch } from '../../core/document/patch.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import { removalPatch, usersOf } from '../../core/document/remove-items.ts';
import { valuesPatch } from '../../core/document/set-values.ts';
import { tellChange, tellInOne } from '../../core/document/tell-change.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { scene, sphere } from './helpers.ts';

const close = (a: readonly number[], b: readonly number[], within = 1e-9) =>
  a.forEach((value, i) => expect(value, `${a} and ${b}, number ${i}`).to.be.closeTo(b[i], within));

describe('a placement', () => {
  it('is what its matrix is made of, mirrored, upside down and straight up too', () => {
    for (const rotation of [
      [0, 0, 0],
      [30, -170, 80],
      [90, 20, 0],
      [-90, 45, 0],
      [-12, 122, 5],
    ] as Triple[]) {
      const made = transformOf({ position: [1, 2, 3], rotation, scale: [1, 2, -3] });
      const read = placementOf(made);
      expect(read.position).to.deep.equal([1, 2, 3]);
      close(read.rotation, rotation, 1e-6);
      close(read.scale, [1, 2, -3], 1e-9);
    }
    // The order that is shown: Z first, then X, then Y.
    close(transformOf({ position: [0, 0, 0], rotation: [10, 20, 30], scale: [1, 1, 1] }), multiply(rotationY(20), multiply(rotationX(10), rotationZ(30)))); // prettier-ignore
  });

  it('gives back the bits of what is not touched, and of what is set back', () => {
    const stored = multiply(lookAt([0.3, 1.7, 2.9], [0.1, 0.2, -0.4]), scaling(1.1, 1.1, 1.1));
    const { rotation } = placementOf(stored);
    const moved = withPart(stored, stored, 'position', [7, 8, 9]);
    expect(moved.slice(0, 12)).to.deep.equal(stored.slice(0, 12));
    const turned = withPart(stored, moved, 'rotation', [rotation[0], rotation[1] + 10, rotation[2]]);
    expect(turned.slice(12, 15)).to.deep.equal([7, 8, 9]);
    const back = withPart(stored, withPart(stored, turned, 'rotation', rotation), 'position', stored.slice(12, 15) as Triple); // prettier-ignore
    expect(back).to.deep.equal(stored);
  });

  it('of a sun is where it stands in the sky: east is +X, north −Z', () => {
    const east = placedAt([1, 0, 0], [0, 0, 0]);
    expect(sunPlaceOf(east)).to.deep.equal({ elevation: 0, azimuth: 90 });
    const sun = lookAt([0.8, 0.2, -0.5], [0, 0, 0]);
    close(sunDirection(sunPlaceOf(sun)), sun.slice(8, 11), 1e-9);
    const noon = withPart(sun, sun, 'elevation', 60);
    expect(sunPlaceOf(noon).elevation).to.equal(60);
    expect(sunPlaceOf(noon).azimuth).to.be.closeTo(sunPlaceOf(sun).azimuth, 1e-6);
    expect(withPart(sun, noon, 'elevation', sunPlaceOf(sun).elevation)).to.deep.equal(sun);
    expect(sunPlaceOf(withPart(sun, sun, 'azimuth', 270)).azimuth).to.equal(270);
  });

  it('has no rotation and scale where its axes are sheared', () => {
    const sheared = [1, 0, 0, 0, 0.4, 1, 0, 0, 0, 0, 1, 0, 5, 6, 7, 1];
    expect(isPlain(sheared)).to.equal(false);
    const { document } = scene([{ mesh: sphere(1), object: { transform: sheared } }]);
    const keys = controlsOf(document, { pointer: '/objects/part0' }).map(({ key }) => key);
    expect(keys)
      .to.include('/objects/part0/transform#position')
      .and.to.not.include('/objects/part0/transform#rotation');
  });
});

describe('aiming', () => {
  const seen = { point: [0, 0, 0] as Triple, normal: [0, 1, 0] as Triple, eye: [3, 4, 0] as Triple };

  it('turns −Z to a point, straight down too, and leaves place and scale', () => {
    const lamp = translation(2, 5, 1);
    close(aimed(lamp, [2, 0, 1]).slice(8, 11), [0, 1, 0]);
    expect(aimed(lamp, [9, 0, 1]).slice(12, 15)).to.deep.equal([2, 5, 1]);
    expect(() => aimed(lamp, [2, 5, 1])).to.throw(RangeError, /stands/);
  });

  it('puts a highlight where the law of reflection has it', () => {
    const lamp = withHighlight(translation(0, 10, 0), false, seen);
    close(lamp.slice(12, 15), [-6, 8, 0]);
    close(lamp.slice(8, 11), [-0.6, 0.8, 0]);
    close(withHighlight(translation(0, 0, 0), true, seen).slice(8, 11), [-0.6, 0.8, 0]);
  });

  it('lays a shadow from one point to another, with the light beyond what throws it', () => {
    const lamp = withShadow(translation(0, 1, 0), false, [1, 1, 0], [0, 0, 0]);
    close(lamp.slice(12, 15), [1.5, 1.5, 0]);
    close(withShadow(translation(0, 0, 0), true, [1, 1, 0], [0, 0, 0]).slice(8, 11), [Math.SQRT1_2, Math.SQRT1_2, 0]);
  });

  it('measures depth along the camera’s axis', () => {
    expect(depthOf(lookAt([0, 0, 5], [0, 0, 0]), [2, 1, 1])).to.be.closeTo(4, 1e-12);
    expect(depthOf(lookAt([0, 0, 5], [0, 0, 0]), [0, 0, 6])).to.be.closeTo(-1, 1e-12);
  });
});

describe('items that come and go', () => {
  const made = () => {
    const { document } = scene([{ mesh: sphere(1), object: { name: 'ball' } }, { mesh: sphere(2) }]);
    document.lights.key = { ...defaultLight('point'), name: 'key', shadowsOf: { mode: 'except', objects: ['part0', 'part1'] } };
    document.lights.glow = { ...defaultLight('mesh'), name: 'glow', object: 'part0' };
    return validateDocument(document);
  }; // prettier-ignore

  it('are new under a free id, lit to the same irradiance whatever their kind', () => {
    const document = made();
    expect(freeId({ key: 1, 'key-2': 1 }, 'key')).to.equal('key-3');
    const seen = { point: [0, 0, 0] as Triple, normal: [0, 0, 1] as Triple, eye: [0, 0, 10] as Triple };
    const spot = newLight(document, 'spot', seen).item;
    expect(spot.transform.slice(12, 15)).to.deep.equal([0, 0, 3]);
    // Irradiance on the axis: intensity over the distance squared (inverse square law); of a small area, radiance × area over it.
    expect(spot.intensity / 9).to.be.closeTo(1.5, 1e-12);
    const quad = newLight(document, 'rectangle', seen).item;
    if (quad.kind !== 'rectangle') throw new Error('another kind');
    expect((quad.intensity * quad.width * quad.height) / 9).to.be.closeTo(1.5, 1e-12);
    const camera = newCamera(document);
    expect(camera.item.transform).to.deep.equal(document.cameras.main.transform);
    expect(copyOf(document, '/lights/key').pointer).to.equal('/lights/key-2');
  });

  it('tell what refers to them, take it along, and come back to the same bytes', () => {
    const document = made();
    const users = usersOf(document, '/objects/part0').map(({ told }) => told);
    expect(users).to.deep.equal(['its light glow goes along', 'key no longer links it']);
    const patch = removalPatch(document, ['/objects/part0']);
    const after = validateDocument(applyPatch(document, patch));
    expect(after.lights).to.have.all.keys('key');
    expect(after.lights.key.shadowsOf.objects).to.deep.equal(['part1']);
    expect(canonicalText(applyPatch(after, invertPatch(document, patch)))).to.equal(canonicalText(document));
    expect(tellChange(document, after, patch)).to.include.members(['ball: object deleted', 'glow: light deleted']);
  });

  it('stay where something needs them, and it is named', () => {
    const document = made();
    expect(() => removalPatch(document, ['/materials/part0'])).to.throw(InvalidInput, /ball is made of it/);
    expect(() => removalPatch(document, ['/cameras/main'])).to.throw(InvalidInput, /no other camera/);
    expect(() => removalPatch(document, ['/sheets/preview'])).to.throw(InvalidInput, /cameras, lights/);
    const two = { ...document, cameras: { ...document.cameras, wide: { ...defaultCamera(), transform: lookAt([0, 0, 9], [0, 0, 0]), fieldOfView: 60 } } }; // prettier-ignore
    expect(validateDocument(applyPatch(two, removalPatch(two, ['/cameras/main']))).camera).to.equal('wide');
    expect(Object.keys(applyPatch(document, removalPatch(document, ['/objects/part0', '/materials/part0'])).objects)).to.deep.equal(['part1']); // prettier-ignore
  });

  it('and values that change are told as the controls they are', () => {
    const document = made();
    document.lights.sun = { ...defaultLight('distant'), name: 'sun', transform: placedAt(sunDirection({ elevation: 32, azimuth: 90 }), [0, 0, 0]) }; // prettier-ignore
    const values = {
      '/lights/sun/transform': withPart(document.lights.sun.transform, document.lights.sun.transform, 'elevation', 18),
      '/samples': 128,
      '/frame': 7,
      '/cameras/wide': { ...defaultCamera(), transform: lookAt([0, 0, 9], [0, 0, 0]), fieldOfView: 60 },
    };
    const patch = valuesPatch(document, ['preview', 'final'], values);
    const told = tellChange(document, validateDocument(applyPatch(document, patch)), patch);
    expect(told).to.have.members([
      'sun, Elevation: 32° → 18°',
      'Samples: 64 → 128 (preview and final)',
      'Frame: 1 → 7',
      'wide: new camera',
    ]);
    expect(tellInOne(told, 2)).to.match(/; and 2 more$/);
  });

  it('tells a background that came, and that it went', () => {
    const before = made();
    const put = valuesPatch(before, ['preview'], { '/background': { ...defaultBackground(), intensity: 0.5 } });
    const after = validateDocument(applyPatch(before, put));
    expect(tellChange(before, after, put)).to.deep.equal(['view background: new']);
    const out = valuesPatch(after, ['preview'], { '/background': null });
    expect(tellChange(after, before, out)).to.deep.equal(['view background: gone']);
  });
});
