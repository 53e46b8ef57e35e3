/** Shadows of a real-time preview by depth maps: arithmetic of the papers, limits that hide each other, and settings that fit. */
import { expect } from 'chai';
import { lookAt, translation } from '../../core/data/transform.ts';
import { defaultCamera, defaultLight, defaultPreviewShadows } from '../../core/document/defaults.ts';
import type { LightSpec, PreviewShadowsSpec } from '../../core/document/schema.ts';
import { placesOver } from '../../core/place/grid.ts';
import { SurfaceWalk } from '../../core/place/surface-walk.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { DepthMap } from '../../core/shadow-map/depth-map.ts';
import { chebyshev } from '../../core/shadow-map/filters/variance.ts';
import { filterOf } from '../../core/shadow-map/filters/registry.ts';
import { fitShadows } from '../../core/shadow-map/fit.ts';
import { framesOf, splitsOf, texelAt } from '../../core/shadow-map/frames.ts';
import { simulate, type SimulatedShadows } from '../../core/shadow-map/simulate.ts';
import { traceShadows, type TracedShadows } from '../../core/shadow-map/trace.ts';
import type { Remedy } from '../../core/contracts/finding.ts';
import { lookInRender } from '../../core/diagnose/run.ts';
import { shadows } from '../../core/diagnose/shadows/definition.ts';
import { withValues } from '../../core/document/set-values.ts';
import { valueIn } from '../../core/figures/effect.ts';
import { buildHiveYard } from '../../demo/ha-050/build.ts';
import { box } from '../../demo/shapes.ts';
import { benchShot, inputOf, renderShot, tryRemedy } from './bench-shot.ts';
import { compiled, scene, square, type TestScene } from './helpers.ts';

const light = <K extends LightSpec['kind']>(kind: K, rest: Partial<LightSpec>): LightSpec => ({ ...defaultLight(kind), ...rest }) as LightSpec; // prettier-ignore
const maps = (rest: Partial<PreviewShadowsSpec>): PreviewShadowsSpec => ({ ...defaultPreviewShadows(), ...rest });
const camera = (from: [number, number, number], to: [number, number, number], fieldOfView: number) => ({ main: { ...defaultCamera(), transform: lookAt(from, to), fieldOfView } }); // prettier-ignore
const block = (x: number, y: number, z: number) => box([-x / 2, -y / 2, -z / 2], [x / 2, y / 2, z / 2]);

interface Seen {
  walk: SurfaceWalk;
  traced: TracedShadows;
  by(spec: Partial<PreviewShadowsSpec>): SimulatedShadows;
}
function seen(test: TestScene): Seen {
  const sheet = test.document.sheets.preview;
  const walk = new SurfaceWalk(compiled(test), settingsOf(sheet));
  const traced = traceShadows(walk, 0, placesOver(walk, sheet, sheet.width * sheet.height).places);
  return { walk, traced, by: (spec) => simulate(walk, traced, maps(spec)) };
}
const shareOf = ({ reasons }: SimulatedShadows, id: string): number => reasons.find((one) => one.id === id)?.share ?? 0;

/** A mast of 300 m on a plain, with a sun at 17°: its shadow is 980 m long. Seen from 700 m away. */
const plain = (): TestScene =>
  scene(
    [
      { mesh: square(5000, 0), object: { name: 'plain' } },
      { mesh: block(60, 60, 300), object: { name: 'mast', transform: translation(-400, 0, 150) } },
    ],
    {
      lights: { sun: light('distant', { transform: lookAt([-Math.cos(0.2967), 0, Math.sin(0.2967)], [0, 0, 0]) }) },
      cameras: camera([0, -700, 160], [100, 60, 0], 50),
    },
    { width: 128, height: 72 },
  );

/** A board a hand over a table, under a lamp; the table is seen in front of it too. */
const table = (rest: Partial<LightSpec> = {}, height = 0.1): TestScene =>
  scene(
    [
      { mesh: square(1, 0), object: { name: 'table' } },
      { mesh: block(0.3, 0.3, 0.01), object: { name: 'board', transform: translation(0, 0, height) } },
    ],
    {
      lights: {
        lamp: light('spot', { transform: lookAt([0.6, 0.2, 1.2], [0, 0, 0]), cone: 80, softness: 0, ...rest }),
      },
      cameras: camera([0.3, -1.6, 1], [0, 0, 0], 32),
    },
    { width: 96, height: 72 },
  );

describe('depth maps of a preview', () => {
  it('are split as the practical scheme splits them', () => {
    // Zhang et al. 2006, equations 1 to 6: logarithmic, uniform, and their mean.
    const all = (blend: number) => splitsOf(1, 1000, 3, blend).map((metres) => +metres.toFixed(6));
    expect(all(1)).to.deep.equal([10, 100, 1000]);
    expect(all(0)).to.deep.equal([334, 667, 1000]);
    expect(all(0.5)).to.deep.equal([172, 383.5, 1000]);
  });

  it('hold a cascade in the least sphere around its part of the view, and have texels of its width', () => {
    const { walk } = seen(plain());
    const [frame] = framesOf(walk.scene, 0, maps({ mapDistance: 1000, lightDistance: 2000 }));
    const up = Math.tan((25 * Math.PI) / 180);
    const corner = up * Math.hypot(1, 16 / 9);
    // The sphere through the far corners whose middle lies in the far plane, for the view is wider than it is deep: radius d·tan.
    expect(corner).to.be.above(0.95);
    const middle = Math.min(1000, ((0.05 + 1000) / 2) * (1 + corner ** 2));
    expect(frame.half).to.be.closeTo(Math.hypot(1000 - middle, corner * 1000), 1e-6);
    expect(texelAt(frame, 2048, 5)).to.equal((2 * frame.half) / 2048);
    expect(texelAt({ ...frame, isParallel: false, half: 0.5 }, 1000, 8)).to.be.closeTo(0.008, 1e-15);
  });

  it('store depths in the steps that their bits leave', () => {
    const { walk } = seen(table());
    const [frame] = framesOf(walk.scene, 0, maps({ near: 0.1, lightDistance: 10 }));
    const sun = new DepthMap(walk, { ...frame, isParallel: true, near: 0, far: 65.535 }, maps({ depthBits: 16 }), false); // prettier-ignore
    expect(sun.stepAt(30)).to.be.closeTo(0.001, 1e-12);
    const lamp = new DepthMap(walk, frame, maps({ depthBits: 16 }), false);
    // Source: the depth buffer of OpenGL, d = f/(f − n)·(1 − n/z), whose slope is f·n/((f − n)·z²).
    const slope = (lamp.encode(4.001) - lamp.encode(3.999)) / 0.002;
    expect(lamp.stepAt(4) * slope * 65535).to.be.closeTo(1, 1e-6);
    expect([lamp.encode(0.1), lamp.encode(10)]).to.deep.equal([0, 1]);
  });

  it('bound the light exactly where one caster is before one surface, and leak where two are', () => {
    // Donnelly & Lauritzen 2006, section 4.2: of a share p at the surface and the rest at the caster, the bound is p.
    const [p, caster, surface] = [0.3, 0.2, 0.7];
    const mean = p * surface + (1 - p) * caster;
    expect(chebyshev((p - p * p) * (surface - caster) ** 2, surface - mean)).to.be.closeTo(p, 1e-12);
    const footprint = (depths: number[]) => ({ count: 2, depths: Float64Array.from(depths), weights: Float64Array.from([0.5, 0.5]) }); // prettier-ignore
    // Both texels lie before the surface: no light gets there, and the bound lets some.
    const leak = filterOf('variance').light(footprint([0.1, 0.4]), 0.5, maps({ leakCut: 0 }));
    expect(leak).to.be.closeTo(0.0225 / (0.0225 + 0.25 ** 2), 1e-9);
    expect(filterOf('percentage-closer').light(footprint([0.1, 0.4]), 0.5, maps({}))).to.equal(0);
    expect(filterOf('variance').light(footprint([0.1, 0.4]), 0.5, maps({ leakCut: 0.3 }))).to.equal(0);
    // Annen et al. 2008, equation 7: the mean of exp(c(z − d)).
    expect(filterOf('exponential').light(footprint([0.45, 0.4]), 0.5, maps({ exponent: 20 }))).to.be.closeTo((Math.exp(-1) + Math.exp(-2)) / 2, 1e-12); // prettier-ignore
  });

  it('lose the shadows of a wide scene by two distances, each of which hides the other', () => {
    const { by, traced } = seen(plain());
    const shaded = traced.caster.filter((metres) => metres < Infinity).length / traced.isFaced.reduce((n, one) => n + one, 0); // prettier-ignore
    expect(shaded).to.be.above(0.01);
    const at = (mapDistance: number, lightDistance: number) => by({ mapDistance, lightDistance, resolution: 4096, filter: 'single' }); // prettier-ignore
    // Common practice: both at 40 m give no shadow in a scene of hundreds of metres.
    const near = at(40, 40);
    expect(near.missing / shaded).to.be.above(0.99);
    expect(near.together[0].ids).to.deep.equal(['beyond-map', 'beyond-light']);
    // Raising one alone brings nothing back.
    expect(at(2000, 40).missing / shaded).to.be.above(0.99);
    expect(at(40, 2000).missing / shaded).to.be.above(0.99);
    // Common practice: long shadows fail at 500 m, arrive at 1,000, are right at 2,000, and get coarser beyond.
    const [half, one, two, four] = [500, 1000, 2000, 4000].map((metres) => at(metres, metres));
    expect(half.missing / shaded).to.be.above(0.7);
    expect(one.missing / shaded).to.be.below(0.5);
    expect(shareOf(two, 'beyond-map') + shareOf(two, 'beyond-light')).to.equal(0);
    const k = two.texel.findIndex((pixels) => pixels > 0);
    expect(four.texel[k] / two.texel[k]).to.be.closeTo(2, 0.001);
  });

  it('shade their own surfaces with too little bias, and lose contact with too much', () => {
    const { by } = seen(table({}, 0.03));
    const bare = by({ filter: 'single', bias: 0, slopeBias: 0, resolution: 256, near: 0.2, lightDistance: 5 });
    expect(shareOf(bare, 'bias-too-small')).to.be.above(0.2);
    const right = by({ filter: 'single', bias: 0.0005, slopeBias: 0.8, resolution: 256, near: 0.2, lightDistance: 5 });
    expect(shareOf(right, 'bias-too-small')).to.equal(0);
    // The board hangs 25 mm over the table: with 60 mm taken off no texel holds anything back.
    const deep = by({ filter: 'single', bias: 0.06, slopeBias: 0, resolution: 1024, near: 0.2, lightDistance: 5 });
    expect(shareOf(deep, 'bias-too-large') / deep.missing).to.be.above(0.9);
    const few = by({ filter: 'single', bias: 0.0005, slopeBias: 0.8, resolution: 1024, depthBits: 8, near: 0.02, lightDistance: 5 }); // prettier-ignore
    expect(shareOf(few, 'bits')).to.be.above(0.01);
  });

  it('take in what is before a lamp only from where they begin, and contact shadows bring back what is on screen', () => {
    const { by } = seen(table({ transform: lookAt([0.1, 0, 1.2], [0, 0, 0]) }, 0.9));
    expect(by({ near: 0.5, lightDistance: 5 }).reasons[0].id).to.equal('before-near');
    const at = (contact: number) => seen(table({}, 0.1)).by({ mapDistance: 0.1, contact });
    const [without, close] = [at(0), at(0.2)];
    expect(close.missing).to.be.below(0.7 * without.missing);
  });

  it('fit the camera: the least distance, texels of a pixel, a bias without acne', () => {
    for (const test of [plain(), table(), table({}, 0.03)]) {
      const { walk, traced, by } = seen(test);
      const before = maps({ filter: 'single', mapDistance: 40, lightDistance: 40, bias: 0, slopeBias: 0 });
      const fitted = fitShadows(walk, traced, before)!;
      const after = by(fitted.spec);
      for (const id of ['beyond-map', 'beyond-light', 'before-near', 'bias-too-small'])
        expect(shareOf(after, id), id).to.equal(0);
      expect(fitted.texel).to.be.closeTo(after.texels.most, 0.1 * after.texels.most + 0.02);
      if (!fitted.givesWay) expect(after.texels.most).to.be.at.most(1.05);
      expect(after.wrong).to.be.below(0.02);
      // It is the least: a tenth less, and something that is lit lies beyond.
      const farthest = traced.depth.reduce((most, depth, k) => (traced.isFaced[k] ? Math.max(most, depth) : most), 0);
      expect(fitted.spec.mapDistance / farthest).to.be.within(1, 1.13);
    }
  });

  it('are told by a finding, with a trial that measures what was forecast, and cured by what fits', async () => {
    const shot = await benchShot(buildHiveYard, { width: 160, height: 90, samples: 16 });
    const look = (values: Record<string, unknown>) => {
      const its = { ...shot, document: withValues(shot.document, ['preview'], values) };
      const found = lookInRender(inputOf(its, renderShot(its)), shadows);
      return { its, found: found.filter(({ finding }) => finding.cause.startsWith('shadows.map-')) };
    };
    const { its, found } = look({ '/previewShadows': maps({ mapDistance: 3, lightDistance: 2, near: 0.1 }) });
    expect(found.map(({ finding }) => finding.cause)).to.deep.equal(['shadows.map-distance']);
    expect(found[0].finding.headline).to.match(/raising either one alone brings nothing back|distance/);
    const [fit] = found[0].finding.remedies;
    const predicted = valueIn(fit.predicted!, 'preview-shadows')!;
    const measured = valueIn(tryRemedy(its, found[0], fit), 'preview-shadows')!;
    expect(predicted).to.deep.equal(measured);
    expect(measured.before! - measured.after!).to.be.above(0.1);
    expect(look({ '/previewShadows': { ...maps({ mapDistance: 3, lightDistance: 2, near: 0.1 }), ...unpointed(fit) } }).found).to.deep.equal([]); // prettier-ignore
  });
});

/** Values of a remedy by the last key of their pointers. */
const unpointed = ({ change }: Pick<Remedy, 'change'>) =>
  Object.fromEntries(Object.entries((change as { values: Record<string, unknown> }).values).map(([pointer, value]) => [pointer.split('/')[2], value])); // prettier-ignore
