/** The shadow survey: the yard's faults are told in an order that makes sense, each trial shows what was forecast, and cured shots are clear. */
import { expect } from 'chai';
import { lookInRender } from '../../core/diagnose/run.ts';
import { shadows } from '../../core/diagnose/shadows/definition.ts';
import type { Mesh } from '../../core/data/mesh.ts';
import type { Triple } from '../../core/data/placement.ts';
import { lookAt, multiply, rotationX, translation } from '../../core/data/transform.ts';
import { silhouetteOf } from '../../core/diagnose/shadows/silhouette.ts';
import { defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import { withValues } from '../../core/document/set-values.ts';
import { changeOf } from '../../core/figures/effect.ts';
import { buildHiveYard } from '../../demo/ha-050/build.ts';
import { buildNightLantern } from '../../demo/ha-020/build.ts';
import { buildStoreRoom } from '../../demo/ha-040/build.ts';
import { box } from '../../demo/shapes.ts';
import { benchShot, inputOf, renderShot, tryRemedy, type BenchShot } from './bench-shot.ts';
import { atSize } from './size.ts';
import { compiled, scene, sphere, square } from './helpers.ts';

const look = (shot: BenchShot) => lookInRender(inputOf(shot, renderShot(shot)), shadows);

/** As it is rendered. */
const meshOf = (mesh: Mesh) => compiled(scene([{ mesh }])).geometry.meshes[0];

describe('the shadow survey', function () {
  this.timeout(120_000);

  it('finds in the hive yard that the sun’s shadows end too soon, and that the sky drowns them', async () => {
    const shot = await benchShot(buildHiveYard, { width: atSize(160, 240), height: atSize(90, 135) });
    const found = look(shot);
    expect(found.map(({ finding }) => finding.cause)).to.deep.equal(['shadows.distance-too-short', 'shadows.drowned-by-fill']); // prettier-ignore
    const [short, drowned] = found;
    expect(short.finding.sentence).to.match(
      /shadows of sun end 6 m from the lit point, and what should cast them stand/,
    );
    expect(short.finding.remedies[0].change).to.deep.equal({ kind: 'values', values: { '/lights/sun/shadowDistance': null } }); // prettier-ignore
    expect(drowned.finding.headline).to.match(
      /^The environment brings [5-9]\.\d times the light of sun into its shadows$/,
    );
    for (const one of found) {
      const [remedy] = one.finding.remedies;
      const measured = changeOf(tryRemedy(shot, one, remedy), 'brightness')!;
      expect(changeOf(remedy.predicted!, 'brightness'), remedy.title).to.be.closeTo(measured, 0.2);
      const contrast = changeOf(tryRemedy(shot, one, remedy), 'contrast')!;
      expect(Math.abs(measured) + Math.abs(contrast), `${remedy.title} is seen`).to.be.above(0.03);
    }
    // Both put right: nothing is left.
    const values = Object.assign({}, ...found.map(({ finding }) => (finding.remedies[0].change as { values: object }).values)) as Record<string, unknown>; // prettier-ignore
    expect(look({ ...shot, document: withValues(shot.document, ['preview'], values) })).to.deep.equal([]);
  });

  it('finds nothing in a room whose shadows are all there', async () => {
    expect(
      look(await benchShot(buildStoreRoom, { width: atSize(96, 160), height: atSize(54, 90), samples: 16 })),
    ).to.deep.equal([]);
  });

  it('leaves glass alone that a light is not linked to, or that throws no shadow on purpose', async () => {
    const shot = await benchShot(buildNightLantern, { width: 160, height: 90, samples: 16 });
    const glass = Object.entries(shot.document.objects).filter(([, { material }]) => shot.document.materials[material].transmission > 0).map(([id]) => id); // prettier-ignore
    expect(glass).not.to.have.length(0);
    const hidden = Object.fromEntries(glass.map((id) => [`/objects/${id}/visibility/shadow`, false]));
    expect(look({ ...shot, document: withValues(shot.document, ['preview'], hidden) })).to.deep.equal([]);
  });

  it('knows the outline of a mesh: a ball of n sides is a polygon of them, a box has corners of its own', () => {
    const none = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
    const seen = (mesh: Mesh, towards: Triple) => silhouetteOf(meshOf(mesh), none, towards);
    for (const sides of [8, 12, 24]) {
      const { degrees, metres, off } = seen(sphere(1, sides), [0, 1, 0])!;
      expect(degrees).to.be.closeTo(360 / sides, 0.01);
      expect(metres).to.be.closeTo(2 * Math.sin(Math.PI / sides), 1e-3);
      // The middle of a chord is 1 − cos(π/n) off a circle of radius 1.
      expect(off).to.be.closeTo(1 - Math.cos(Math.PI / sides), 0.03 * (1 - Math.cos(Math.PI / sides)));
    }
    expect(seen(box([-1, -1, -1], [1, 1, 1]), [0.6, 0.64, 0.48])).to.equal(null);
    expect(seen(sphere(1, 12, true), [0, 1, 0]), 'no smooth normals').to.equal(null);
  });

  it('finds that a shadow has the corners of a coarse mesh, and that dividing it takes them away', () => {
    // A ball that the camera does not see, and its shadow on a wall: 32 pixels a metre.
    const shot = (sides: number, angle: number): BenchShot =>
      scene(
        [
          { mesh: square(2, 0), material: { baseColour: [0.6, 0.6, 0.6], roughness: 1, specular: 0 }, object: { name: 'wall' } },
          { mesh: sphere(0.4, sides), object: { name: 'ball', transform: multiply(translation(0, 0, 1), rotationX(90)), visibility: { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true } } },
        ],
        { lights: { sun: { ...defaultLight('distant'), transform: lookAt([0, 0, 5], [0, 0, 0]), angle, intensity: 2 } }, environment: evenEnvironment([0.1, 0.1, 0.1]) },
        { width: 96, height: 96, samples: 4 },
      ); // prettier-ignore
    const [found, ...rest] = look(shot(10, 0.5));
    expect([found.finding.cause, rest.length]).to.deep.equal(['shadows.jagged', 0]);
    expect(found.finding.sentence).to.equal('The shadow of ball by sun has corners, though it is shaded smooth.');
    // An edge of a ten-sided polygon of radius 0.4 m; a metre is 96 pixels over 2 · 5 m · tan 10°.
    const edge = (2 * 0.4 * Math.sin(Math.PI / 10) * 96) / (10 * Math.tan(Math.PI / 18));
    expect(found.finding.headline).to.contain(`are ${edge.toFixed(0)} pixels long there and turn by 36°`);
    const { values } = found.finding.remedies[0].change as { values: Record<string, unknown> };
    expect(values).to.deep.equal({ '/objects/part1/subdivision/level': 1 });
    expect(look({ ...shot(10, 0.5), document: withValues(shot(10, 0.5).document, ['preview'], values) })).to.deep.equal([]); // prettier-ignore
    expect(look(shot(64, 0.5)), 'fine enough').to.deep.equal([]);
    expect(look(shot(10, 5)), 'soft enough').to.deep.equal([]);
  });
});
