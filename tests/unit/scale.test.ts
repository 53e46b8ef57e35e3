/** Distances: rays that end too soon, single precision far out, and a shot moved to the origin that changes no pixel. */
import { expect } from 'chai';
import { lookInRender } from '../../core/diagnose/run.ts';
import { spacing } from '../../core/data/float32.ts';
import { scale } from '../../core/diagnose/scale/definition.ts';
import { lighting } from '../../core/diagnose/lighting/definition.ts';
import { recentred } from '../../core/document/recentre.ts';
import { withValues } from '../../core/document/set-values.ts';
import { changeOf } from '../../core/figures/effect.ts';
import { buildHiveYard } from '../../demo/ha-050/build.ts';
import type { CameraSpec } from '../../core/document/schema.ts';
import { multiply, translation } from '../../core/data/transform.ts';
import { box } from '../../demo/shapes.ts';
import { scene, square } from './helpers.ts';
import { benchShot, inputOf, renderShot, tryRemedy } from './bench-shot.ts';

describe('scale and distance', function () {
  this.timeout(180_000);

  it('spaces numbers of 32 bits as the format does', () => {
    // IEEE 754-2019, binary32: 23 stored bits, so that neighbours above 2^15 are 2^-8 apart.
    expect(spacing(-40_000)).to.equal(2 ** -8);
    for (const x of [1, 3.7, 1024, 40_000, 5e6]) {
      const bits = new Uint32Array(new Float32Array([x]).buffer);
      const next = new Float32Array(Uint32Array.from([bits[0] + 1]).buffer)[0];
      expect(spacing(x)).to.equal(next - Math.fround(x));
    }
    expect(spacing(0)).to.equal(0);
  });

  it('finds what is wrong with the hive yard, and each remedy does what was forecast', async () => {
    const shot = await benchShot(buildHiveYard, { width: 240, height: 135 });
    const input = inputOf(shot, renderShot(shot));
    const found = [...lookInRender(input, scale), ...lookInRender(input, lighting)];
    expect(found.map(({ finding }) => finding.cause)).to.deep.equal(['scale.ray-distance', 'scale.single-precision', 'lighting.background-tied']); // prettier-ignore
    const [rays, single, sky] = found;
    expect(rays.finding.sentence).to.match(
      /^Rays end after 400 m: anything farther is missing from 1\.\d % of the picture\.$/,
    );
    expect(single.finding.sentence).to.match(/40\.1 km from the origin, where positions are 3\.9 mm apart/);
    expect(sky.finding.sentence).to.match(/^The sky blows out: 3\d % of the picture/);
    for (const one of found) {
      const [remedy] = one.finding.remedies;
      const measured = changeOf(tryRemedy(shot, one, remedy), 'brightness');
      expect(changeOf(remedy.predicted!, 'brightness') ?? 0, remedy.title).to.be.closeTo(measured ?? 0, 0.2);
    }
    const values = Object.assign({}, ...found.map(({ finding }) => (finding.remedies[0].change as { values: object }).values)) as Record<string, unknown>; // prettier-ignore
    const cured = { ...shot, document: withValues(shot.document, ['preview'], values) };
    const again = inputOf(cured, renderShot(cured));
    expect(
      [...lookInRender(again, scale), ...lookInRender(again, lighting)].map(({ finding }) => finding.sentence),
    ).to.deep.equal([]);
  });

  it('tells what the near and far planes cut, and leaves alone a plane that opens a whole wall', () => {
    const grey = { baseColour: [0.5, 0.5, 0.5], roughness: 1, specular: 0 };
    const floor = { mesh: box([-3, -1.1, -20], [3, -1, 4]), material: grey };
    const wall = { mesh: square(3, 2), material: grey };
    const seen = (camera: Partial<CameraSpec>, parts = [floor]) => {
      const shot = scene(parts, {}, { width: 32, height: 32, samples: 4 });
      Object.assign(shot.document.cameras.main, camera);
      const input = inputOf(shot, renderShot(shot));
      return { shot, found: lookInRender(input, scale).map(({ finding }) => finding) };
    };
    expect(seen({}).found).to.deep.equal([]);
    // The floor begins to be seen where the lower edge of the view meets it: 1 m / tan 10° = 5.67 m before the eye.
    const edge = 1 / Math.tan(Math.PI / 18);
    expect(seen({ near: 0.9 * edge }).found).to.deep.equal([]);
    expect(seen({ near: 1, far: 30 }, [floor, wall]).found).to.deep.equal([]);
    expect(seen({ near: 3.5 }, [floor, wall]).found, 'the wall at 3 m is opened').to.deep.equal([]);
    const near = seen({ near: 1.5 * edge });
    expect(near.found.map(({ cause }) => cause)).to.deep.equal(['scale.camera-near']);
    const { values } = near.found[0].remedies[0].change as { values: Record<string, number> };
    expect(values['/cameras/main/near']).to.be.within(0.45 * edge, 0.6 * edge);
    const far = seen({ far: 2 * edge });
    expect(far.found.map(({ cause }) => cause)).to.deep.equal(['scale.camera-far']);
    for (const { shot, found } of [near, far]) {
      const change = found[0].remedies[0].change as { values: Record<string, number> };
      const cured = { ...shot, document: withValues(shot.document, ['preview'], change.values) };
      expect(lookInRender(inputOf(cured, renderShot(cured)), scale)).to.deep.equal([]);
    }
  });

  it('tells whether placements or vertices hold the distance', () => {
    const away = (vertices: number, placed: number) => {
      const mesh = box([vertices - 1, -1, -1], [vertices + 1, 1, 1]);
      const shot = scene([{ mesh, object: { transform: translation(placed, 0, 0) } }], {}, { width: 32, height: 32, samples: 4, precision: 'single' }); // prettier-ignore
      shot.document.cameras.main.transform = multiply(translation(vertices + placed, 0, 0), shot.document.cameras.main.transform); // prettier-ignore
      const [first] = lookInRender(inputOf(shot, renderShot(shot)), scale);
      return first.finding.causes.map(({ id }) => id);
    };
    expect(away(0, 200_000)).to.deep.equal(['scale.single-precision', 'scale.offset-in-transforms']);
    expect(away(200_000, 0)).to.deep.equal(['scale.single-precision', 'scale.offset-in-vertices']);
  });

  it('moves a whole shot without changing a pixel, in double precision', async () => {
    const shot = await benchShot(buildHiveYard, { width: 96, height: 54, samples: 8, precision: 'double', rayDistance: null }); // prettier-ignore
    shot.document.materials.grass.baseColourMap = null;
    const before = renderShot(shot);
    const after = renderShot(shot, recentred(shot.document, [40_000, 0, -3_000]));
    let [most, different] = [0, 0];
    for (const c of ['beauty.R', 'beauty.G', 'beauty.B']) {
      const [was, is] = [before.channels.get(c)!, after.channels.get(c)!];
      was.forEach((v, i) => {
        const off = Math.abs(v - is[i]) / (Math.abs(v) + 0.01);
        most = Math.max(most, off);
        if (off > 1e-3) different += 1;
      });
    }
    // Of rounding alone an edge may fall the other way; nothing else may differ.
    expect(different / (3 * 96 * 54), `at most ${most}`).to.be.below(0.002);
  });
});
