/** Surfaces that turn away the side that is there: by closed bodies, mixed faces, open sheets; rooms that are looked into are meant. */
import { expect } from 'chai';
import type { Mesh } from '../../core/data/mesh.ts';
import { scaling } from '../../core/data/transform.ts';
import { meshShape } from '../../core/diagnose/mesh-shape.ts';
import { normals } from '../../core/diagnose/normals/definition.ts';
import { lookInRender } from '../../core/diagnose/run.ts';
import { withValues } from '../../core/document/set-values.ts';
import { evenEnvironment } from '../../core/document/defaults.ts';
import { box } from '../../demo/shapes.ts';
import { inputOf, renderShot, type BenchShot } from './bench-shot.ts';
import { compiled, scene, sphere, square } from './helpers.ts';

type Part = Parameters<typeof scene>[0][number];
const shotOf = (...parts: Part[]): BenchShot =>
  scene(parts, { environment: evenEnvironment([1, 1, 1]) }, { width: 64, height: 64, samples: 4 });
const look = (shot: BenchShot) => lookInRender(inputOf(shot, renderShot(shot)), normals);
const reversed = (mesh: Mesh): Mesh => ({ ...mesh, indices: mesh.indices.slice().reverse(), normals: turned(mesh.normals) }); // prettier-ignore
const turned = (normals: Mesh['normals']): Mesh['normals'] => normals && normals.map((v) => -v);
const front: Part['object'] = { name: 'thing', facing: 'front' };

describe('surfaces that turn away', () => {
  it('are told by what their mesh is, and are back with both sides', () => {
    const ball = sphere(0.6, 24);
    const mixed = { ...ball, indices: ball.indices.slice() };
    mixed.indices.subarray(0, mixed.indices.length / 2).reverse();
    mixed.normals = null;
    const cases: [Part, string, RegExp][] = [
      [{ mesh: reversed(ball), object: front }, 'normals.reversed', /turned inside out/],
      [{ mesh: mixed, object: front }, 'normals.mixed-winding', /point both ways/],
      [{ mesh: reversed(square(0.6, 0)), object: front }, 'normals.one-sided', /is open/],
    ];
    for (const [part, cause, headline] of cases) {
      const shot = shotOf(part);
      const [found, ...rest] = look(shot);
      expect([found.finding.cause, rest.length]).to.deep.equal([cause, 0]);
      expect(found.finding.headline).to.match(headline);
      const { values } = found.finding.remedies[0].change as { values: Record<string, unknown> };
      expect(look({ ...shot, document: withValues(shot.document, ['preview'], values) })).to.deep.equal([]);
    }
  });

  it('are not told where both sides are there, the right one is, or a room is looked into', () => {
    expect(look(shotOf({ mesh: reversed(sphere(0.6, 24)), object: { facing: 'both' } }))).to.deep.equal([]);
    expect(look(shotOf({ mesh: sphere(0.6, 24), object: front }))).to.deep.equal([]);
    const things = [-0.3, 0, 0.3].map((x): Part => ({ mesh: box([x - 0.05, -0.2, -0.1], [x + 0.05, 0, 0.1]) }));
    expect(look(shotOf({ mesh: reversed(box([-0.8, -0.8, -0.8], [0.8, 0.8, 0.8])), object: front }, ...things))).to.deep.equal([]); // prettier-ignore
  });

  it('tells normals that look away from their faces, all or some, by what that does to the shading', () => {
    const ball = sphere(0.6, 24);
    const half = { ...ball, normals: ball.normals!.map((v, i) => (ball.positions[i - (i % 3)] > 0 ? -v : v)) };
    const cases: [Mesh, string, RegExp][] = [
      [{ ...ball, normals: turned(ball.normals) }, 'normals.against-faces', /^Normals of part0 look away/],
      [half, 'normals.against-faces', /^Normals of part0 look away/],
      [{ ...ball, indices: ball.indices.slice().reverse() }, 'normals.reversed', /^Part0 is turned inside out/],
    ];
    for (const [mesh, cause, headline] of cases) {
      const shot = shotOf({ mesh });
      const [found, ...rest] = look(shot);
      expect([found.finding.cause, rest.length]).to.deep.equal([cause, 0]);
      expect(found.finding.headline).to.match(headline);
      const { change } = found.finding.remedies[0];
      expect(change).to.have.nested.property(
        'work.how',
        cause === 'normals.reversed' ? 'turn outwards' : 'mend normals',
      );
    }
    // Faces of the ball are up to 7.5° off its normals (half of 360°/24): so much is lost where all of them fall back on faces.
    const whole = look(shotOf({ mesh: { ...ball, normals: turned(ball.normals) } }));
    expect(+/shaded (\d+)° off/.exec(whole[0].finding.sentence)![1]).to.be.within(2, 8);
    // Flat faces lose nothing by it.
    const cube = box([-0.5, -0.5, -0.5], [0.5, 0.5, 0.5]);
    expect(look(shotOf({ mesh: { ...cube, normals: turned(cube.normals) } }))).to.deep.equal([]);
    expect(look(shotOf({ mesh: ball }))).to.deep.equal([]);
  });

  it('know a mesh for what it is where it stands: mirrored, open, closed', () => {
    const shapes = [
      { mesh: sphere(1, 16) },
      { mesh: sphere(1, 16), object: { transform: scaling(-1, 1, 1) } },
      { mesh: reversed(sphere(1, 16)), object: { transform: scaling(-1, 1, 1) } },
      { mesh: square(1, 0) },
    ].map((part) => meshShape(compiled(shotOf(part)), 0)!);
    expect(shapes.map(({ isClosed, isInsideOut, openEdges }) => [isClosed, isInsideOut, openEdges])).to.deep.equal([
      [true, false, 0],
      [true, true, 0],
      [true, false, 0],
      [false, false, 4],
    ]);
    expect(shapes[0].max[1]).to.be.closeTo(1, 1e-6);
  });
});
