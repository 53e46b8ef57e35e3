/** The night lantern, small: where its fireflies come from, and what a clamp does to them, held against a render with it. */
import { expect } from 'chai';
import { channel, type Picture } from '../../core/data/picture.ts';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import { fireflies } from '../../core/diagnose/fireflies/definition.ts';
import { findFireflies } from '../../core/picture/fireflies.ts';
import { luminancePlane } from '../../core/picture/measured.ts';
import { pilotSeed, trialSeed } from '../../core/predict/seeds.ts';
import { compileScene } from '../../core/render/compile.ts';
import { createFilm } from '../../core/render/film.ts';
import { pictureOf } from '../../core/render/film-picture.ts';
import { loadAssets } from '../../core/render/load-assets.ts';
import { ALL_PASSES } from '../../core/render/pass-list.ts';
import { renderGroups } from '../../core/render/render-tile.ts';
import { settingsOf } from '../../core/render/scene.ts';
import { extend, isDirect } from '../../core/render/signature.ts';
import { buildNightLantern } from '../../demo/ha-020/build.ts';
import { kernelRays } from './kernel.ts';

describe('night lantern', function () {
  this.timeout(240_000);
  let picture: Picture;
  let clamped: Picture;
  let found: FindingWithMask;
  const count = (of: Picture) => findFireflies({ luminance: luminancePlane(of, 'beauty'), width: of.width, height: of.height, albedo: luminancePlane(of, 'albedo') }).pixels.length; // prettier-ignore

  before(async () => {
    const { document, files } = await buildNightLantern();
    const assets = await loadAssets(document, async (path) => files.get(path) ?? null, 'HA-020');
    const sheet = Object.assign(document.sheets.preview, { width: 240, height: 135, samples: 32 });
    const scene = compileScene(document, assets, sheet);
    scene.rays = kernelRays(scene.geometry);
    const frame = { x: 0, y: 0, width: sheet.width, height: sheet.height };
    const render = (settings: ReturnType<typeof settingsOf>) => {
      const film = createFilm(frame);
      renderGroups(scene, settings, film, sheet.samples / 4);
      return pictureOf([film], frame, ALL_PASSES);
    };
    picture = render(settingsOf(sheet));
    [found] = fireflies.examine({ document, sheet, scene, picture, pilotSeed: pilotSeed(1) });
    const [{ values }] = found.finding.remedies;
    clamped = render({ ...settingsOf(sheet, trialSeed(1)), clamps: { direct: null, indirect: values['/clamps/indirect'] } }); // prettier-ignore
  });

  it('has fireflies all over, traced to the flame behind the chimney, met by chance', () => {
    const { finding, mask } = found;
    expect(mask.reduce((a, b) => a + b, 0))
      .to.equal(count(picture))
      .and.to.be.greaterThan(30);
    expect(finding.severity).to.equal('caution');
    expect(finding.sentence).to.match(/^\d+ fireflies.*: \d+ in (diffuse|specular) indirect\.$/);
    expect(finding.cause).to.match(
      /^Light met by chance: camera → (table|wall), (bounced|mirrored) → chimney, through → .*→ flame$/,
    );
    expect(finding.dials).to.have.length(1);
    expect(finding.dials[0]).to.include({ pointer: '/clamps/indirect', note: 'off' });
  });

  it('is rid of 95 % of them by the clamp that is proposed, in a render of other random numbers', () => {
    expect(count(clamped)).to.be.at.most(0.05 * count(picture));
  });

  it('keeps the flame, which is met at once, within 0.1 stops', () => {
    const flame = (of: Picture) => {
      const y = [...luminancePlane(of, 'transmission.direct')].sort((a, b) => b - a).slice(0, 20);
      return y.reduce((a, b) => a + b, 0);
    };
    expect(Math.abs(Math.log2(flame(clamped) / flame(picture)))).to.be.below(0.1);
  });

  it('foretells what the clamp takes from the pixels between them', () => {
    const [{ predicted }] = found.finding.remedies;
    const { region } = found.finding;
    const inside = (of: Picture, skip: Uint8Array) => {
      const y = luminancePlane(of, 'beauty');
      let sum = 0;
      for (let j = region.y; j < region.y + region.height; j++)
        for (let i = region.x; i < region.x + region.width; i++)
          if (!skip[j * of.width + i]) sum += y[j * of.width + i];
      return sum;
    };
    const measured = Math.log2(inside(clamped, found.mask) / inside(picture, found.mask));
    expect(predicted.stops).to.be.at.most(0);
    expect(Math.abs(predicted.stops - measured)).to.be.below(0.2);
    expect(channel(clamped, 'clamped').reduce((a, b) => a + b, 0)).to.be.greaterThan(0);
  });

  it('tells light that is met at once from light met later, as passes and clamps do', () => {
    const [diffuse, transmission] = [0, 2];
    expect([0, extend(0, diffuse), extend(extend(0, transmission), transmission)].every(isDirect)).to.equal(true);
    expect([extend(extend(0, diffuse), transmission), extend(extend(0, transmission), diffuse)].some(isDirect)).to.equal(false); // prettier-ignore
  });
});
