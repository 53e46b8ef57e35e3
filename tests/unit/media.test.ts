/** Which glass body a ray is in where several overlap. Source: Schmidt & Budge 2002. */
import { expect } from 'chai';
import { MediumStack } from '../../core/render/path/medium-stack.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, meanOf, render, scene, square } from './helpers.ts';

/** Bodies 0, 1, 2 of the given priorities and indices of refraction. */
function stack(bodies: { priority: number; ior: number }[]): MediumStack {
  const mesh = box([0, 0, 0], [1, 1, 1]);
  const parts = bodies.map(({ priority, ior }) => ({ mesh, material: { ior, transmission: 1 }, object: { priority } }));
  return new MediumStack(compiled(scene(parts)));
}

describe('media', () => {
  it('bend a ray by the index behind a face over the one in front', () => {
    const media = stack([{ priority: 0, ior: 1.5 }]);
    expect(media.inside()).to.equal(-1);
    expect(media.eta(0, true)).to.be.closeTo(1.5, 1e-12);
    media.cross(0, true);
    expect(media.inside()).to.equal(0);
    expect(media.eta(0, false)).to.be.closeTo(1 / 1.5, 1e-12);
    media.cross(0, false);
    expect(media.inside()).to.equal(-1);
  });

  it('hide the faces of a lower priority inside a higher one, and make the shared face one', () => {
    // Honey (1) reaches into its glass (0), which has the higher priority.
    const media = stack([
      { priority: 2, ior: 1.52 },
      { priority: 1, ior: 1.49 },
    ]);
    media.cross(0, true);
    expect(media.isFace(1, true), 'honey begins inside the glass: not there').to.equal(false);
    media.cross(1, true);
    expect(media.inside(), 'still glass').to.equal(0);
    expect(media.isFace(0, false), 'where the glass ends, honey begins').to.equal(true);
    expect(media.eta(0, false)).to.be.closeTo(1.49 / 1.52, 1e-12);
    media.cross(0, false);
    expect(media.inside()).to.equal(1);
    expect(media.isFace(1, false)).to.equal(true);
  });

  it('take the latest of equal priorities, and see both of its faces', () => {
    const media = stack([
      { priority: 0, ior: 1.3 },
      { priority: 0, ior: 1.6 },
    ]);
    media.cross(0, true);
    expect(media.isFace(1, true)).to.equal(true);
    media.cross(1, true);
    expect(media.inside()).to.equal(1);
    media.cross(1, false);
    expect(media.inside()).to.equal(0);
  });

  it('forget nothing when copied, and everything when cleared', () => {
    const media = stack([
      { priority: 0, ior: 1.3 },
      { priority: 1, ior: 1.6 },
    ]);
    media.cross(0, true);
    media.cross(1, true);
    const other = stack([
      { priority: 0, ior: 1.3 },
      { priority: 1, ior: 1.6 },
    ]);
    other.copy(media);
    media.clear();
    expect(media.inside()).to.equal(-1);
    expect(other.inside()).to.equal(1);
    other.cross(1, false);
    expect(other.inside()).to.equal(0);
  });

  it('let a face be left that was never entered, as open meshes do', () => {
    const media = stack([{ priority: 0, ior: 1.5 }]);
    media.cross(0, false);
    expect(media.inside()).to.equal(-1);
  });

  it('of one index leave no trace of the face between them: as bright as one body', () => {
    const glass = { baseColour: [1, 1, 1], roughness: 0, ior: 1.5, transmission: 1 };
    const light = { mesh: square(50, -5), material: { baseColour: [0, 0, 0], emission: [1, 1, 1], ior: 1 } };
    const sheet = { width: 4, height: 4, samples: 512 };
    const one = scene([{ mesh: box([-9, -9, -2], [9, 9, 0]), material: glass }, light], {}, sheet);
    const two = scene(
      [
        { mesh: box([-9, -9, -1], [9, 9, 0]), material: glass, object: { priority: 1 } },
        { mesh: box([-9, -9, -2], [9, 9, -0.999]), material: glass },
        light,
      ],
      {},
      sheet,
    );
    for (const test of [one, two]) test.document.cameras.main.fieldOfView = 0.5;
    const [a, b] = [meanOf(render(one)), meanOf(render(two))];
    expect(Math.abs(a.mean - b.mean)).to.be.below(3 * Math.hypot(a.error, b.error) + 1e-4);
  });
});
