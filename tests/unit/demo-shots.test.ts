/** The other demo shots: built the same every time, and wrong in the way their descriptions say. */
import { expect } from 'chai';
import { channel } from '../../core/data/picture.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { ShotDocument, Sheet } from '../../core/document/schema.ts';
import { validateDocument } from '../../core/document/validate.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { demoShots } from '../../demo/shots.ts';
import { builtOnce } from './built.ts';
import { kernelScene } from './kernel.ts';

const mean = (plane: ArrayLike<number>) => Array.from(plane).reduce((a, b) => a + b, 0) / plane.length;

describe('demo shots', function () {
  this.timeout(120_000);
  const shots = new Map<string, { document: ShotDocument; assets: Assets }>();
  before(async () => {
    for (const [code, build] of Object.entries(demoShots)) {
      const { document, files } = await builtOnce(build);
      shots.set(code, {
        document,
        assets: await loadAssets(document, async (p) => files.get(p) ?? null, code, 'stand in'),
      });
    }
  });

  /** A small render of the preview with some of the document changed. */
  function picture(code: string, passes: string[], change: (d: ShotDocument, s: Sheet) => void = () => {}) {
    const { document: original, assets } = shots.get(code)!;
    const document = structuredClone(original);
    Object.assign(document.sheets.preview, { width: 96, height: 54, samples: 16 });
    change(document, document.sheets.preview);
    const sheet = document.sheets.preview;
    const scene = kernelScene(compileScene(document, assets, sheet));
    const film = createFilm({ x: 0, y: 0, width: 96, height: 54 }, scene.layout);
    renderGroups(scene, settingsOf(sheet), film, sheet.samples / 4);
    return pictureOf([film], film.region, passes, scene.layout);
  }

  it('are complete, valid, and the same every time', async () => {
    for (const [code, build] of Object.entries(demoShots)) {
      const { document } = shots.get(code)!;
      expect(document.code).to.equal(code);
      expect(canonicalText(validateDocument(JSON.parse(canonicalText(document))))).to.equal(canonicalText(document));
      expect(canonicalText((await build()).document)).to.equal(canonicalText(document));
    }
  });

  it('HA-020: the light on the table comes by chance alone, in samples that stand far out', () => {
    const p = picture('HA-020', ['diffuse.direct', 'diffuse.indirect', 'brightest.value', 'brightest.light']);
    // The chimney holds back every shadow ray to the flame: what is direct is the night.
    expect(mean(channel(p, 'diffuse.direct.R'))).to.be.below(0.1 * mean(channel(p, 'diffuse.indirect.R')));
    const values = Float32Array.from(channel(p, 'brightest.value')).sort();
    expect(values[Math.floor(values.length * 0.998)] / values[values.length >> 1]).to.be.above(300);
    const open = picture('HA-020', ['diffuse.direct'], (d) => (d.objects.chimney.seeThroughShadows = true));
    expect(mean(channel(open, 'diffuse.direct.R'))).to.be.above(20 * mean(channel(p, 'diffuse.direct.R')));
  });

  it('HA-020: the final sheet’s clamps take the flame’s brightness, and the pass says so', () => {
    const clamps = shots.get('HA-020')!.document.sheets.final.clamps;
    const flame = (c: Sheet['clamps']) =>
      picture('HA-020', ['transmission.direct', 'clamped'], (_, s) => (s.clamps = c));
    const [open, clamped] = [flame({ direct: null, indirect: null, bounced: null }), flame(clamps)];
    expect(mean(channel(clamped, 'transmission.direct.R'))).to.be.below(
      0.1 * mean(channel(open, 'transmission.direct.R')),
    );
    expect(mean(channel(clamped, 'clamped'))).to.be.above(0);
  });

  it('HA-040: occlusion is black without a distance and tells shape with one', () => {
    expect(mean(channel(picture('HA-040', ['occlusion']), 'occlusion'))).to.equal(0);
    const near = channel(
      picture('HA-040', ['occlusion'], (_, s) => (s.occlusion.distance = 0.4)),
      'occlusion',
    );
    expect(mean(near)).to.be.within(0.5, 0.98);
  });

  it('HA-040: the fan stands still though it has keys, and turns when it is told to move', () => {
    const turning = (motion: 'static' | 'transform') =>
      Math.max(
        ...channel(
          picture('HA-040', ['motion'], (d) => (d.objects.fan.motion = motion)),
          'motion.X',
        ).map(Math.abs),
      );
    expect(turning('static')).to.equal(0);
    expect(turning('transform')).to.be.above(1);
  });

  it('HA-050: far rows are missing, shadows stop, and positions are 4 mm apart', () => {
    const hives = (change?: (d: ShotDocument, s: Sheet) => void) => {
      const p = picture('HA-050', ['depth', 'cut.distance', 'shadow.sun'], (d, s) => {
        s.passes.shadows = true;
        change?.(d, s);
      });
      const shade = channel(p, 'shadow.sun').filter((v, i) => v < 0.5 && channel(p, 'depth')[i] > 0).length;
      return { deepest: Math.max(...channel(p, 'depth')), cut: mean(channel(p, 'cut.distance')), shade };
    };
    const wrong = hives();
    const right = hives((d, s) => {
      s.rayDistance = null;
      const { sun } = d.lights;
      sun.shadowDistance = null;
    });
    expect(wrong.deepest).to.be.below(400);
    expect(wrong.cut).to.be.above(0);
    expect(right.deepest).to.be.above(700);
    expect(right.cut).to.equal(0);
    expect(right.shade).to.be.above(wrong.shade * 1.2);
    const { document, assets } = shots.get('HA-050')!;
    expect(compileScene(document, assets, document.sheets.preview).warnings.join()).to.match(/3\.9 mm apart/);
  });
});
