/**
 * Stated standard errors against true ones on the demo shots: per tile √(Σ error² / Σ stated²), its median over tiles
 * and 8 seeds between 0.85 and 1.15, at 8 groups against a reference of 64 × the samples. The lantern is apart: where
 * light comes by rare strokes of luck, 32 samples that met none state no error at all.
 */
import { expect } from 'chai';
import { channel } from '../../core/data/picture.ts';
import { luminance } from '../../core/data/colour.ts';
import type { Sheet } from '../../core/document/schema.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { demoShots } from '../../demo/shots.ts';
import { kernelScene } from './kernel.ts';
import { builtOnce } from './built.ts';
import { atSize } from './size.ts';

const TILE = 16;
const SEEDS = 8;

describe('errors of the demo shots', function () {
  this.timeout(atSize(180_000, 7200_000));

  /** Ratios of true to stated error, a tile and seed each. */
  async function ratios(code: string, change: (sheet: Sheet) => void): Promise<number[]> {
    const { document, files } = await builtOnce(demoShots[code]);
    const assets = await loadAssets(document, async (path) => files.get(path) ?? null, code);
    const { preview } = document.sheets;
    Object.assign(preview, {
      width: 160,
      height: 90,
      samples: 32,
      passes: { occlusion: false, shadows: false, lines: false, groups: false },
    });
    const side = TILE * atSize(1, 4);
    const region = { x: 72 - side / 2, y: 56 - side / 2, width: side, height: side };
    const scene = kernelScene(compileScene(document, assets, preview));
    const shoot = (sheet: Sheet, seed: number) => {
      const film = createFilm(region, scene.layout);
      renderGroups(scene, settingsOf(sheet, seed), film, sheet.samples / 4);
      const picture = pictureOf([film], region, ['beauty', 'error.beauty']);
      const [r, g, b] = ['R', 'G', 'B'].map((c) => channel(picture, `beauty.${c}`));
      return { y: r.map((v, i) => luminance(v, g[i], b[i])), stated: channel(picture, 'error.beauty') };
    };
    const truth = shoot({ ...preview, samples: 32 * 64 }, 4242).y;
    const sheet = structuredClone(preview);
    change(sheet);
    const out: number[] = [];
    for (let seed = 1; seed <= SEEDS; seed++) {
      const { y, stated } = shoot(sheet, seed);
      for (let tile = 0; tile < (side / TILE) ** 2; tile++) {
        const [x0, y0] = [(tile % (side / TILE)) * TILE, Math.floor(tile / (side / TILE)) * TILE];
        let error = 0;
        let expected = 0;
        for (let k = 0; k < TILE * TILE; k++) {
          const i = (y0 + Math.floor(k / TILE)) * side + x0 + (k % TILE);
          error += (y[i] - truth[i]) ** 2;
          expected += stated[i] ** 2;
        }
        out.push(Math.sqrt(error / expected));
      }
    }
    return out.sort((a, b) => a - b);
  }

  const median = (sorted: number[]) => (sorted[(sorted.length - 1) >> 1] + sorted[sorted.length >> 1]) / 2;

  for (const code of atSize(['HA-010', 'HA-050'], ['HA-010', 'HA-040', 'HA-050']))
    it(`${code}: stated errors are true ones`, async () =>
      expect(median(await ratios(code, () => {}))).to.be.within(0.85, 1.15));

  it('HA-050: with adaptive sampling as well', async () => {
    const adaptive = { on: true, target: 2, least: 32 };
    const found = await ratios('HA-050', (sheet) => Object.assign(sheet, { samples: 128, adaptive }));
    expect(median(found)).to.be.within(0.85, 1.15);
  });
});
