/** Bodies of glass that are not what they are meant to be, and those that are. */
import { expect } from 'chai';
import type { Mesh } from '../../core/data/mesh.ts';
import { translation } from '../../core/data/transform.ts';
import { bodyCases } from '../../core/diagnose/glass/bodies.ts';
import { glass } from '../../core/diagnose/glass/definition.ts';
import { lookInRender } from '../../core/diagnose/run.ts';
import { evenEnvironment } from '../../core/document/defaults.ts';
import { withValues } from '../../core/document/set-values.ts';
import { inputOf, renderShot, type BenchShot } from './bench-shot.ts';
import { scene, sphere, square } from './helpers.ts';

type Part = Parameters<typeof scene>[0][number];
const clear = { baseColour: [1, 1, 1], transmission: 1, roughness: 0, ior: 1.5, specular: 1 };
const shotOf = (...parts: Part[]): BenchShot =>
  scene(parts, { environment: evenEnvironment([1, 1, 1]) }, { width: 48, height: 48, samples: 4 });
const look = (shot: BenchShot) => lookInRender(inputOf(shot, renderShot(shot)), glass).map(({ finding }) => finding);
const reversed = (mesh: Mesh): Mesh => ({ ...mesh, indices: mesh.indices.slice().reverse() });
const ball = sphere(0.6, 32);

describe('bodies of glass', function () {
  this.timeout(60_000);

  it('are told by what is wrong with them, and right with what is proposed in values', () => {
    const open: Mesh = { ...ball, indices: ball.indices.slice(0, -60) };
    const cases: [Part, string, RegExp][] = [
      [{ mesh: reversed(ball), material: clear }, 'glass.normals-inverted', /inside out/],
      [{ mesh: square(0.7, 0), material: clear }, 'glass.thin-as-solid', /sheet without thickness/],
      [{ mesh: open, material: clear }, 'glass.missing-second-face', /is open: \d+ edges/],
      [{ mesh: ball, material: clear, object: { thin: true } }, 'glass.solid-as-thin', /790 mm thick/],
      [{ mesh: ball, material: { ...clear, ior: 1 } }, 'glass.ior-out-of-range', /index of refraction of 1\./],
      [{ mesh: ball, material: { ...clear, baseColour: [0.9, 0, 0.5] } }, 'glass.pure-channel-filter', /swallows all of green/],
      [{ mesh: ball, material: { ...clear, attenuationColour: [0.5, 0.5, 0.5], attenuationDistance: 0.01 } }, 'glass.absorption-too-strong', /black inside/],
    ]; // prettier-ignore
    for (const [part, cause, sentence] of cases) {
      const shot = shotOf(part);
      const found = look(shot);
      expect(found.map((one) => one.cause)).to.deep.equal([cause]);
      expect(found[0].sentence).to.match(sentence);
      const byValues = found[0].remedies.find(({ change }) => change?.kind === 'values')!;
      const { values } = byValues.change as { values: Record<string, unknown> };
      // A closed ball that is taken for thin walls to mend it is thick for that: a note.
      const left = look({ ...shot, document: withValues(shot.document, ['preview'], values) });
      expect(left.filter(({ severity }) => severity !== 'note').map((one) => one.cause), byValues.title).to.deep.equal([]); // prettier-ignore
    }
  });

  it('let through what Beer–Lambert says: the attenuation colour to the power of thickness over distance', () => {
    const material = { ...clear, attenuationColour: [0.5, 0.5, 0.5], attenuationDistance: 0.1 };
    const [of] = bodyCases(inputOf(shotOf({ mesh: ball, material }), renderShot(shotOf({ mesh: ball, material }))));
    // The mean chord of a ball is 4/3 of its radius (Cauchy): 0.8 m, of one of 32 segments a little less.
    expect(of.thickness).to.be.closeTo(0.8, 0.01);
    expect(of.through).to.be.closeTo(0.5 ** (of.thickness / 0.1), 1e-9);
  });

  it('are left alone where they are right: solid, hollow with air inside, walls, tinted', () => {
    expect(look(shotOf({ mesh: ball, material: clear }))).to.deep.equal([]);
    const hollow: Part = { mesh: sphere(0.55, 32), material: { ...clear, ior: 1 }, object: { priority: 1 } };
    expect(look(shotOf({ mesh: ball, material: clear }, hollow))).to.deep.equal([]);
    const inner: Part = { mesh: reversed(sphere(0.55, 32)), material: clear };
    expect(look(shotOf({ mesh: ball, material: clear }, inner))).to.deep.equal([]);
    expect(look(shotOf({ mesh: square(0.7, 0), material: clear, object: { thin: true } }))).to.deep.equal([]);
    expect(look(shotOf({ mesh: ball, material: { ...clear, baseColour: [0.9, 0.4, 0.1] } }))).to.deep.equal([]);
    const behind: Part = { mesh: square(0.7, 0), material: clear, object: { transform: translation(0, 0, 60) } };
    expect(look(shotOf({ mesh: ball, material: clear }, behind)), 'what is not seen').to.deep.equal([]);
  });

  it('meet by overlapping: faces that coincide and gaps are told, with the gap, and gone with what is proposed', () => {
    const [outside, inside] = [sphere(0.6, 32), sphere(0.5, 32)];
    const vessel: Part = {
      mesh: {
        positions: Float32Array.from([...outside.positions, ...inside.positions]),
        normals: null,
        uvs: null,
        indices: Uint32Array.from([...outside.indices, ...reversed(inside).indices.map((v) => v + outside.positions.length / 3)]),
      },
      material: clear,
      object: { name: 'vessel' },
    }; // prettier-ignore
    const liquid = (radius: number, rest: Part['object'] = {}): Part => ({ mesh: sphere(radius, 32), material: { ...clear, ior: 1.33 }, object: { name: 'liquid', ...rest } }); // prettier-ignore
    for (const [radius, cause] of [
      [0.5, 'glass.coincident-faces'],
      [0.49, 'glass.gap-to-liquid'],
    ] as const) {
      const shot = shotOf(vessel, liquid(radius));
      const found = look(shot);
      expect(found.map((one) => one.cause)).to.deep.equal([cause]);
      const { values } = found[0].remedies[0].change as { values: Record<string, unknown> };
      expect(look({ ...shot, document: withValues(shot.document, ['preview'], values) })).to.deep.equal([]);
    }
    // The shells are similar: a hundredth of a metre apart on every radius, more at a slant.
    const [gap] = look(shotOf(vessel, liquid(0.49)));
    expect(Number(/a gap of ([\d.]+) mm/.exec(gap.sentence)![1])).to.be.within(10, 14);
    expect(look(shotOf(vessel, liquid(0.55, { priority: 1 })))).to.deep.equal([]);
    expect(look(shotOf(vessel, liquid(0.2))), 'a ball that floats in air').to.deep.equal([]);
  });
});
