/** Unusual geometry, scales and places: no NaN, no hang, no speckle, and a word about it. */
import { expect } from 'chai';
import type { Mesh } from '../../core/data/mesh.ts';
import {
  between,
  identity,
  lookAt,
  multiply,
  rotationX,
  rotationY,
  scaling,
  translation,
} from '../../core/data/transform.ts';
import { defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import { ALL_RAYS, BvhIntersector } from '../../core/geometry/intersector.ts';
import { compileGeometry, compileMesh } from '../../core/geometry/scene-geometry.ts';
import { channel } from '../../core/data/picture.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { blendMeshes, posesInShutter, SLICES } from '../../core/render/compile/motion.ts';
import { defaultObject } from '../../core/document/defaults.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, meanOf, render, scene, sphere, square } from './helpers.ts';
import { kernelRays } from './kernel.ts';

const MATT = { baseColour: [0.8, 0.8, 0.8], roughness: 1, specular: 0 };
const GLASS = { baseColour: [1, 1, 1], roughness: 0.1, transmission: 1 };

const allFinite = (film: ReturnType<typeof render>) =>
  film.means.every(Number.isFinite) && film.moments.every(Number.isFinite);

describe('unusual scenes', () => {
  it('triangles without area: are passed by and warned about', () => {
    const mesh: Mesh = { ...square(1, 0), indices: Uint32Array.from([0, 1, 2, 0, 2, 3, 0, 0, 1, 2, 2, 2]) };
    const test = scene([{ mesh, material: { ...MATT, emission: [1, 1, 1] } }], {
      environment: evenEnvironment([1, 1, 1]),
    });
    expect(compiled(test).warnings.join()).to.match(/"part0" has 2 triangles without area/);
    expect(allFinite(render(test, undefined, 16))).to.equal(true);
  });

  it('a lamp inside glass lights and is seen through it', () => {
    const lamp = { ...defaultLight('point'), radius: 0.05, intensity: 1 };
    const test = scene(
      [
        { mesh: sphere(0.5), material: GLASS },
        { mesh: square(3, -1), material: MATT },
      ],
      { lights: { lamp } },
    );
    const film = render(test, undefined, 64);
    expect(allFinite(film)).to.equal(true);
    expect(meanOf(film).mean).to.be.above(0);
  });

  it('coincident faces: one of them is met, always the same', () => {
    const [red, blue] = [[1, 0, 0], [0, 0, 1]].map((baseColour) => ({ mesh: square(5, 0), material: { ...MATT, baseColour } }));
    const film = render(scene([red, blue], { environment: evenEnvironment([1, 1, 1]) }), undefined, 16);
    const object = channel(pictureOf([film], film.region, ['object']), 'object');
    expect(new Set(object).size).to.equal(1);
  }); // prettier-ignore

  for (const size of [0.001, 1, 10_000])
    for (const at of [0, 40_000])
      it(`a convex white body ${size} m across, ${at / 1000} km from the origin, has no speckle in a furnace`, () => {
        // Between a body of a millimetre and forty kilometres lie all the digits that 32 bits have, and more.
        const place = translation(at, 0, 0);
        const test = scene(
          [{ mesh: sphere(0.5, 32, true), material: { ...MATT, baseColour: [1, 1, 1] }, object: { transform: multiply(place, scaling(size, size, size)) } }],
          { environment: evenEnvironment([1, 1, 1]) },
          { limits: { diffuse: 1, specular: 0, transmission: 0, volume: 0, alpha: 0, overall: 1 } },
        ); // prettier-ignore
        test.document.cameras.main.transform = lookAt([at, 0, size * 5], [at, 0, 0]);
        const film = render(test, undefined, 64);
        expect(allFinite(film)).to.equal(true);
        // With one diffuse event a ray that met its own surface again would bring nothing.
        expect(meanOf(film).mean).to.be.closeTo(1, 1e-4);
      });

  it('at single precision 40 km out, rays do not meet their own surface either', () => {
    const test = scene(
      [{ mesh: box([-5, -1, -5], [5, 0, 5]), material: { ...MATT, baseColour: [1, 1, 1] }, object: { transform: translation(40_000, 0, -3000) } }],
      { environment: evenEnvironment([1, 1, 1]) },
      { precision: 'single', limits: { diffuse: 1, specular: 0, transmission: 0, volume: 0, alpha: 0, overall: 1 } },
    ); // prettier-ignore
    test.document.cameras.main.transform = lookAt([40_000, 4, -2990], [40_000, 0, -3000]);
    const film = render(test, undefined, 64);
    expect(meanOf(film).mean).to.be.closeTo(1, 1e-3);
  });
});

describe('motion', () => {
  it('slices: the kernel and its twin see a moving instance at one place each', () => {
    const mesh = compileMesh(box([-1, -1, -1], [1, 1, 1]));
    const instances = Array.from({ length: 8 }, (_, slice) => ({ mesh: 0, transform: translation(slice * 4, 0, 0), mask: ALL_RAYS, slice }));
    const geometry = compileGeometry([mesh], [...instances, { mesh: 0, transform: translation(0, 9, 0), mask: ALL_RAYS }]);
    for (const rays of [new BvhIntersector(geometry), kernelRays(geometry)])
      for (let slice = 0; slice < 8; slice++) {
        rays.slice = slice;
        for (let x = 0; x < 8; x++)
          expect(rays.closest(x * 4, 0, 9, 0, 0, -1, Infinity, ALL_RAYS)).to.equal(x === slice);
        expect(rays.closest(0, 9, 9, 0, 0, -1, Infinity, ALL_RAYS)).to.equal(true);
      }
  }); // prettier-ignore

  it('between keys turns along the shortest arc and moves straight (Shoemake 1985)', () => {
    const half = between(
      multiply(translation(0, 0, 0), rotationY(10)),
      multiply(translation(2, 4, 0), rotationY(70)),
      0.5,
    );
    multiply(translation(1, 2, 0), rotationY(40)).forEach((v, i) => expect(half[i]).to.be.closeTo(v, 1e-12));
    const over = between(rotationX(170), rotationX(-170), 0.5);
    rotationX(180).forEach((v, i) => expect(over[i]).to.be.closeTo(v, 1e-12));
    const mirrored = between(scaling(-1, 1, 1), scaling(-3, 1, 1), 0.5);
    scaling(-2, 1, 1).forEach((v, i) => expect(mirrored[i]).to.be.closeTo(v, 1e-12));
  });

  it('a static object has one pose whatever its keys; a moving one has one for each slice of the shutter', () => {
    const keys = [{ frame: 0, transform: identity(), mesh: null }, { frame: 1, transform: translation(1, 0, 0), mesh: null }];
    const object = { ...defaultObject(), mesh: 'm', material: 'm', keys };
    expect(posesInShutter(object, 0, { samples: 2, shutter: 0.5 }).length).to.equal(1);
    const poses = posesInShutter({ ...object, motion: 'transform' }, 0, { samples: 2, shutter: 0.5 });
    expect(poses.length).to.equal(SLICES);
    expect(poses[0].transform[12]).to.be.closeTo(0.5 / SLICES / 2, 1e-12);
    expect(poses[SLICES - 1].transform[12]).to.be.closeTo(0.5 - 0.5 / SLICES / 2, 1e-12);
    expect(posesInShutter({ ...object, motion: 'transform' }, 0, { samples: 1, shutter: 0.5 }).length).to.equal(1);
  }); // prettier-ignore

  it('a deforming mesh is mixed vertex by vertex, or the nearer one is taken where the makes differ', () => {
    const [a, b] = [square(1, 0), square(3, 2)];
    expect([...blendMeshes(a, b, 0.5).positions]).to.deep.equal([...square(2, 1).positions]);
    expect(blendMeshes(a, sphere(1), 0.4)).to.equal(a);
    expect(blendMeshes(a, sphere(1), 0.6).positions.length).to.equal(sphere(1).positions.length);
  });
});
