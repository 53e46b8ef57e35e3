/** Debug views of hot data say what the hot code did: the same light as the film, the same triangles as the mesh. */
import { expect } from 'chai';
import { luminance } from '../../core/data/colour.ts';
import { treeStats } from '../../core/geometry/tree-stats.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { layoutRows } from '../../core/render/film/told-layout.ts';
import { meansOf, NO_EXTRAS } from '../../core/render/film/passes.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { tracePath } from '../../core/render/frame/told-path.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { smallShot } from '../api/small-shot.ts';

describe('debug views', function () {
  this.timeout(60_000);

  it('of a path have the light that the film has, sample by sample, and its rays', async () => {
    const { document, files } = await smallShot('TRACE', { samples: 32, filter: { kind: 'box', width: 1 }, clamps: { direct: null, indirect: null, bounced: null } }); // prettier-ignore
    const sheet = document.sheets.preview;
    const scene = compileScene(document, await loadAssets(document, async (path) => files.get(path) ?? null, 'x'), sheet); // prettier-ignore
    for (const [x, y] of [[48, 32], [10, 50]]) {
      const film = createFilm({ x, y, width: 1, height: 1 }, scene.layout);
      const rays = renderGroups(scene, settingsOf(sheet), film, sheet.samples / 4);
      const paths = Array.from({ length: sheet.samples }, (_, k) => tracePath(scene, settingsOf(sheet), x, y, k));
      const mean = paths.reduce((sum, { lights }) => sum + lights.reduce((all, { value }) => all + value, 0), 0) / sheet.samples; // prettier-ignore
      const [r, g, b] = film.means;
      expect(mean / luminance(r, g, b), `${x}, ${y}`).to.be.closeTo(1, 1e-5);
      expect(paths.reduce((sum, path) => sum + path.rays, 0)).to.equal(rays);
    } // prettier-ignore
    const { events } = tracePath(scene, settingsOf(sheet), 48, 32, 0);
    expect(events[0].object).to.match(/^pane/);
    expect(events.every(({ weight }) => weight.every((v) => v >= 0 && v < 1e3))).to.equal(true);
  });

  it('of trees count what they are built of', async () => {
    const { document, files } = await smallShot('TREES');
    const scene = compileScene(document, await loadAssets(document, async (path) => files.get(path) ?? null, 'x'), document.sheets.preview); // prettier-ignore
    for (const { bounds, links, indices } of scene.geometry.meshes) {
      const stats = treeStats(bounds, links);
      expect(stats.items).to.equal(indices.length / 3);
      // A binary tree has a leaf more than inner nodes.
      expect(stats.nodes).to.equal(2 * stats.leaves - 1);
      expect(stats.depth).to.be.at.least(Math.ceil(Math.log2(stats.leaves)) + 1);
    }
    // One box of one item costs one test; two halves of a box side by side cost the two boxes and half of each item.
    expect(treeStats([0, 0, 0, 1, 1, 1], [0, 1]).cost).to.equal(1);
    const halves = treeStats([0, 0, 0, 2, 1, 1, 0, 0, 0, 1, 1, 1, 1, 0, 0, 2, 1, 1], [2, 0, 0, 1, 1, 1]);
    expect(halves.cost).to.be.closeTo(2 + 2 * (6 / 10), 1e-12);
    expect([halves.leaves, halves.depth, halves.meanItems]).to.deep.equal([2, 2, 1]);
  });

  it('of a film name each number of a pixel once', () => {
    for (const layout of [
      NO_EXTRAS,
      { ...NO_EXTRAS, groups: ['key', 'fill'], groupPasses: true, shadows: ['sun'], occlusion: true },
    ]) {
      // prettier-ignore
      const rows = [...layoutRows(layout)].sort((a, b) => a.at - b.at);
      let end = 0;
      for (const { at, floats, name } of rows) {
        expect(at, name).to.equal(end);
        end = at + floats;
      }
      expect(end).to.equal(meansOf(layout));
    }
  });
});
