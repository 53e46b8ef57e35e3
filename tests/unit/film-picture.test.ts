/** Films as pictures, pass by pass, and film by film. */
import { expect } from 'chai';
import { channel } from '../../core/data/picture.ts';
import { createFilm, foldGroup, packFilm, standardError, unpackFilm } from '../../core/render/film/film.ts';
import { fillPicture, pictureOf } from '../../core/render/film/film-picture.ts';
import { ALL_PASSES, passChannels } from '../../core/render/film/pass-list.ts';
import { BEAUTY, CUTS, LIGHT_PASSES, MEAN_CUT, MEAN_RAYS, MEANS } from '../../core/render/film/passes.ts';
import { tilesOf } from '../../core/render/frame/render-tile.ts';
import { randomNumbers } from './size.ts';

/** A film of `groups` groups whose values are random but known. */
function filmOf(region: { x: number; y: number; width: number; height: number }, groups: number, seed = 1) {
  const random = randomNumbers(seed);
  const film = createFilm(region);
  const values: number[][][] = [];
  for (let pixel = 0; pixel < region.width * region.height; pixel++) {
    values.push([]);
    for (let g = 0; g < groups; g++) {
      const group = Float64Array.from({ length: MEANS }, () => random());
      values[pixel].push([...group]);
      foldGroup(film, pixel, group);
    }
  }
  film.groups = groups;
  return { film, values };
}

describe('films as pictures', () => {
  const region = { x: 3, y: 5, width: 4, height: 2 };
  const { film, values } = filmOf(region, 6);
  const mean = (pixel: number, k: number) => values[pixel].reduce((sum, g) => sum + g[k], 0) / 6;

  it('hold the mean of the groups in every light pass, cut and cost', () => {
    const picture = pictureOf([film], region, ALL_PASSES);
    for (let pixel = 0; pixel < 8; pixel++) {
      LIGHT_PASSES.forEach((pass, p) =>
        ['R', 'G', 'B'].forEach((c, k) =>
          expect(channel(picture, `${pass}.${c}`)[pixel]).to.be.closeTo(mean(pixel, p * 3 + k), 1e-6),
        ),
      );
      CUTS.forEach((cut, k) =>
        expect(channel(picture, `cut.${cut}`)[pixel]).to.be.closeTo(mean(pixel, MEAN_CUT + k), 1e-6),
      );
      expect(channel(picture, 'cost')[pixel]).to.be.closeTo(mean(pixel, MEAN_RAYS), 1e-6);
      expect(channel(picture, 'samples')[pixel]).to.equal(24);
    }
  });

  it('hold the textbook standard error of the mean of group luminances: s / √n', () => {
    const y = values[3].map((g) => 0.2126 * g[0] + 0.7152 * g[1] + 0.0722 * g[2]);
    const average = y.reduce((a, b) => a + b) / 6;
    const s2 = y.reduce((sum, v) => sum + (v - average) ** 2, 0) / 5;
    expect(standardError(film, 3, BEAUTY)).to.be.closeTo(Math.sqrt(s2 / 6), 1e-6);
    expect(channel(pictureOf([film], region, ['error.beauty']), 'error.beauty')[3]).to.be.closeTo(
      Math.sqrt(s2 / 6),
      1e-6,
    );
  });

  it('know no error below two groups', () => {
    expect(standardError(filmOf(region, 1).film, 0, BEAUTY)).to.equal(0);
  });

  it('are the same put together from tiles, whole or one by one, in any order', () => {
    const whole = { x: 0, y: 0, width: 10, height: 7 };
    const films = tilesOf(whole, 4).map((tile, i) => filmOf(tile, 3, i + 1).film);
    const passes = ['beauty', 'error.beauty', 'cut.any'];
    const once = pictureOf(films, whole, passes);
    const { picture, add } = fillPicture(whole, passes);
    for (const film of [...films].reverse()) add(unpackFilm(packFilm(film)));
    expect(picture).to.deep.equal(once);
  });

  it('take the part of a film that lies in the region, and leave the rest at 0', () => {
    const part = { x: 5, y: 4, width: 6, height: 3 };
    const picture = pictureOf([film], part, ['beauty']);
    const red = channel(picture, 'beauty.R');
    expect(red[1 * 6 + 0], 'full-frame pixel 5, 5').to.be.closeTo(mean(2, 0), 1e-6);
    expect(red[0], 'above the film').to.equal(0);
    expect(red[1 * 6 + 4], 'right of the film').to.equal(0);
  });

  it('have three channels a light pass and one a measured pass, and no pass of another name', () => {
    expect(passChannels('specular.direct')).to.deep.equal([
      'specular.direct.R',
      'specular.direct.G',
      'specular.direct.B',
    ]);
    expect(passChannels('cut.any')).to.deep.equal(['cut.any']);
    expect(() => pictureOf([film], region, ['sheen'])).to.throw(RangeError, 'no pass "sheen"');
  });

  it('cost no more than 330 bytes per pixel', () => {
    const one = packFilm(createFilm({ x: 0, y: 0, width: 100, height: 100 })).length / 10_000;
    expect(one).to.be.below(330);
  });
});
