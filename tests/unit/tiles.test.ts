/** UDIM tiles: their numbers as MaterialX 1.38 has them ("Filename Substitutions"), what is read inside them, at their edges and where there is none. */
import { expect } from 'chai';
import type { Texture } from '../../core/data/texture.ts';
import { defaultMap, defaultMaterial } from '../../core/document/defaults.ts';
import { validateDocument } from '../../core/document/validate.ts';
import type { MapSpec } from '../../core/document/schema.ts';
import { loadAssets, referencedFiles } from '../../core/render/compile/load-assets.ts';
import { compileMap } from '../../core/textures/compiled-map.ts';
import { mipChain } from '../../core/textures/image.ts';
import { MapSampler } from '../../core/textures/map-sampler.ts';
import { cutTile, filesOf, joinTiles, tileAt, tileFile, tileNumber } from '../../core/textures/tiles.ts';
import { writePng } from '../../core/formats/png.ts';
import { scene } from './helpers.ts';

/** A tile of one grey, or one for each texel of its only row. */
const tile = (...greys: number[]): Texture => ({ width: greys.length, height: 1, texels: Float32Array.from(greys.flatMap((g) => [g, g, g])), alpha: null }); // prettier-ignore
function look(texture: Texture, u: number, v: number, filter: 'nearest' | 'bilinear' = 'bilinear'): number {
  const spec = { ...defaultMap('image'), texture: 't', filter } as MapSpec;
  const sampler = new MapSampler([compileMap(spec, ['t'], texture)], [mipChain(texture)]);
  sampler.uv.set([u, v, u, v]);
  return sampler.number(0);
}

describe('tiles', () => {
  it('are numbered 1001 + u + 10 v', () => {
    expect([tileNumber(0.5, 0.5), tileNumber(9.9, 0), tileNumber(0, 1), tileNumber(3.2, 2.7)]).to.deep.equal([1001, 1010, 1011, 1024]); // prettier-ignore
    for (const number of [1001, 1010, 1011, 1024]) expect(tileNumber(...tileAt(number))).to.equal(number);
    expect(tileFile('wax.<UDIM>.exr', 1012)).to.equal('wax.1012.exr');
    expect(filesOf({ file: 'wax.<UDIM>.exr', tiles: [1001, 1002] })).to.deep.equal(['wax.1001.exr', 'wax.1002.exr']);
    expect(filesOf({ file: 'wax.exr' })).to.deep.equal(['wax.exr']);
  });

  it('show each its own image, whatever their sizes, and black where there is none', () => {
    const joined = joinTiles(new Map([[1001, tile(0.25)], [1012, tile(0.5, 0.75)]]), 'test'); // prettier-ignore
    expect(look(joined, 0.5, 0.5)).to.be.closeTo(0.25, 1e-6);
    expect([look(joined, 1.25, 1.5), look(joined, 1.75, 1.5)].map((v) => +v.toFixed(6))).to.deep.equal([0.5, 0.75]);
    for (const [u, v] of [[1.5, 0.5], [0.5, 1.5], [3, 0.5], [-1.5, 0.5], [0.5, -2.5]]) expect(look(joined, u, v), `${u}, ${v}`).to.be.closeTo(0, 1e-12); // prettier-ignore
  });

  it('are read into each other at their edges, and at the outermost as they end', () => {
    const joined = joinTiles(new Map([[1001, tile(0, 1)], [1002, tile(0, 0.5)]]), 'test'); // prettier-ignore
    expect(look(joined, 1, 0.5), 'half of either').to.be.closeTo(0.5, 1e-6);
    expect([look(joined, 0, 0.5), look(joined, 2, 0.5)].map((v) => +v.toFixed(6))).to.deep.equal([0, 0.5]);
    expect([look(joined, 0.75, 0), look(joined, 0.75, 1)].map((v) => +v.toFixed(6))).to.deep.equal([1, 1]);
  });

  it('are cut apart again as they were', () => {
    const [left, right] = [tile(0, 1), tile(0.25, 0.5)];
    const joined = joinTiles(new Map([[1001, left], [1002, right]]), 'test'); // prettier-ignore
    const tiled = { ...joined, tiles: joined.tiles! };
    expect([...cutTile(tiled, 1001).texels]).to.deep.equal([...left.texels]);
    expect([...cutTile(tiled, 1002).texels]).to.deep.equal([...right.texels]);
  });

  it('that make too large an image are refused before it is made', () => {
    const large = { ...tile(0), width: 8192, height: 8192 };
    expect(() => joinTiles(new Map([[1001, large], [1090, large]]), 'wax.<UDIM>.exr')).to.throw(RangeError, 'wax.<UDIM>.exr: its tiles make an image of'); // prettier-ignore
  });

  it('of a document are each a file; one that is missing is named, and a wrong list refused', async () => {
    const { document } = scene([]);
    document.materials.wax = { ...defaultMaterial(), baseColourMap: 'colour' };
    document.maps.colour = { ...defaultMap('image'), texture: 'wax' } as MapSpec;
    document.textures.wax = { file: 'wax.<UDIM>.png', colourSpace: 'linear', tiles: [1001, 1002] };
    expect(referencedFiles(document)).to.deep.equal(['wax.1001.png', 'wax.1002.png']);
    const read = (there: string[]) => async (path: string) => (there.includes(path) ? writePng(1, 1, Uint8Array.of(255, 255, 255)) : null); // prettier-ignore
    const { textures } = await loadAssets(document, read(['wax.1001.png', 'wax.1002.png']), 'test');
    expect(textures.get('wax')!.tiles).to.deep.include({ left: 0, low: 0, columns: 2, rows: 1 });
    const { missing } = await loadAssets(document, read(['wax.1001.png']), 'test', 'stand in');
    expect(missing).to.deep.equal(['File "wax.1002.png" is not there; its tile is black.']);
    document.textures.wax.tiles = [];
    expect(() => validateDocument(document, 'test')).to.throw('at least one tile');
    document.textures.wax = { file: 'wax.png', colourSpace: 'linear', tiles: [1001] };
    expect(() => validateDocument(document, 'test')).to.throw('no tiles, or <UDIM>');
  });
});
