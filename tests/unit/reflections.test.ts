/** Edges in reflections: facets by the normals, texels by their angle; neither where the mirror is smooth or rough. Worked by hand. */
import { expect } from 'chai';
import { writeGlb } from '../../core/formats/gltf.ts';
import { writePng } from '../../core/formats/png.ts';
import { lighting } from '../../core/diagnose/lighting/definition.ts';
import { normals } from '../../core/diagnose/normals/definition.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { box, lathe } from '../../demo/shapes.ts';
import type { ControlValues } from '../../core/document/set-values.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { smallShot } from '../api/small-shot.ts';
import { examine, valuesOf, renderShot, type BenchShot } from './bench-shot.ts';
import { read } from './effects.ts';
import { randomNumbers } from './size.ts';

/** A ball of 24 × 12 faces with smooth normals, mirroring a wall. */
async function ball(
  change: (document: ShotDocument, files: Map<string, Uint8Array>) => void = () => {},
): Promise<BenchShot> {
  const { document, files } = await smallShot('MIRROR', { samples: 16, width: 192, height: 128, grainTarget: 50 });
  const profile = Array.from({ length: 13 }, (_, k): [number, number] => [0.6 * Math.sin((Math.PI * k) / 12), -0.6 * Math.cos((Math.PI * k) / 12)]); // prettier-ignore
  const meshes = [
    { name: 'wall', mesh: box([-4, -4, -1.1], [4, 4, -1]) },
    { name: 'pane', mesh: lathe(profile, 24, 89) },
  ];
  files.set('geometry/panes.glb', await writeGlb(meshes));
  document.materials.glass = {
    ...document.materials.wall,
    name: 'mirror',
    baseColour: [0.9, 0.9, 0.9],
    metallic: 1,
    roughness: 0,
  };
  delete document.objects.pane1;
  delete document.objects.pane2;
  document.objects.pane0.name = 'ball';
  change(document, files);
  return { document, assets: await loadAssets(document, async (path) => files.get(path) ?? null, 'x') };
}
const found = async (shot: Promise<BenchShot>) =>
  examine(await shot, [normals, lighting]).map(({ finding }) => finding);

describe('reflections', function () {
  this.timeout(60_000);
  it('are cut into facets by normals of triangles, and the remedy is the switch', async () => {
    const [finding, ...rest] = await found(ball((document) => (document.objects.pane0.normals = 'flat')));
    expect(rest).to.deep.equal([]);
    expect(finding.sentence).to.equal('Reflections of ball are faceted.');
    expect(valuesOf(finding.remedies[0])).to.deep.equal({ '/objects/pane0/normals': 'smooth' });
    expect(read(finding.remedies[0].predicted).rays).to.be.within(0.8, 1.2);
  });

  it('are whole on a smooth ball, on a flat mirror, and on a rough one', async () => {
    expect(await found(ball())).to.deep.equal([]);
    const plane = async (roughness: number) =>
      found(
        ball((document) => {
          document.objects.pane0.mesh = 'wall';
          document.objects.pane0.normals = 'flat';
          document.objects.pane0.transform = [0.1, 0, 0, 0, 0, 0.1, 0, 0, 0, 0, 1, 0, 0, 0, 0.5, 1];
          document.materials.glass.roughness = roughness;
        }),
      );
    expect(await plane(0)).to.deep.equal([]);
    const rough = ball((document) => {
      document.objects.pane0.normals = 'flat';
      document.materials.glass.roughness = 0.5;
    });
    expect(await found(rough)).to.deep.equal([]);
  });

  it('show the texels of an environment that has fewer than the frame has pixels', async () => {
    const random = randomNumbers(2);
    const sky = (document: ShotDocument, files: Map<string, Uint8Array>) => {
      files.set(
        'textures/sky.png',
        writePng(
          64,
          32,
          Uint8Array.from({ length: 64 * 32 * 3 }, () => 255 * random()),
        ),
      );
      document.textures.sky = { file: 'textures/sky.png', colourSpace: 'srgb' };
      document.environment = {
        ...document.environment,
        kind: 'image',
        texture: 'sky',
        colour: [1, 1, 1],
        intensity: 1,
      };
    };
    const shot = await ball(sky);
    const [finding] = await found(Promise.resolve(shot));
    // 360/64 are 5.63° a texel; 30° over 128 rows 0.234° a pixel: 24 of them.
    expect(finding.sentence).to.equal(
      'The environment is coarser than the frame: a texel of it is 24 pixels wide where ball mirrors it.',
    );
    expect(finding.cause).to.equal('lighting.environment-coarse');
    expect(finding.headline).to.equal('64 texels around: 5.63° each, and 0.234° a pixel');
    // 360/0.234 are 1536: the next power of two.
    expect(finding.why).to.match(/about 2048 texels around/);
    // Half of a GGX distribution is 2 × 2 × 0.6436 α wide in what is mirrored: α 0.038 for 0.0982, roughness 0.195.
    const [remedy] = finding.remedies;
    expect(valuesOf(remedy)).to.deep.equal({ '/materials/glass/roughness': 0.2 });
    /** How much neighbouring pixels of the ball differ, as a share of their light. */
    const steps = (values: ControlValues) => {
      const { channels, width } = renderShot(shot, values);
      const [y, objects] = ['beauty.G', 'object'].map((name) => channels.get(name)!);
      let [sum, count] = [0, 0];
      for (let i = 0; i < y.length - width; i++)
        for (const j of [i + 1, i + width])
          if (objects[i] === 1 && objects[j] === 1) {
            sum += Math.abs(y[i] - y[j]) / (y[i] + y[j]);
            count += 1;
          }
      return sum / count;
    };
    expect(steps(valuesOf(remedy))).to.be.below(0.8 * steps({}));
  });
});
