/** Measurements of pictures, against formulas worked out by hand or by brute force. */
import { expect } from 'chai';
import { evenEnvironment } from '../../core/document/defaults.ts';
import { srgbFromLinear } from '../../core/data/colour.ts';
import { channel, clipRegion, createPicture } from '../../core/data/picture.ts';
import { grainOf, grainWeight, boostedDisplay, visibleGrain } from '../../core/data/grain.ts';
import { boxMean, cropPlane, luminancePlane, percentile, strongestWindow } from '../../core/picture/measured.ts';
import { noiseStops } from '../../core/picture/noise-stops.ts';
import { passFigures } from '../../core/picture/pass-figures.ts';
import { packPicture, unpackPicture } from '../../core/picture/planes.ts';
import { tellPixel } from '../../core/picture/tell-pixel.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { ALL_PASSES } from '../../core/render/film/pass-list.ts';
import { CUTS, LIGHT_PASSES } from '../../core/render/film/passes.ts';
import { render, scene, sphere } from './helpers.ts';
import { randomNumbers } from './size.ts';

describe('visible grain (Conventions)', () => {
  // v(Y) = 255·sRGB(min(1, 4Y))^(1/1.25)
  const v = (y: number) => 255 * srgbFromLinear(Math.min(1, 4 * y)) ** (1 / 1.25);

  it('is half the way that one error up and down moves the boosted display', () => {
    for (const [y, s] of [
      [0.05, 0.01],
      [0.2, 0.1],
      [0.001, 0.0004],
    ])
      expect(visibleGrain(y, s)).to.be.closeTo((v(y + s) - v(y - s)) / 2, 1e-9);
  });

  it('stops at black and at white', () => {
    expect(visibleGrain(0.01, 0.5)).to.be.closeTo((v(0.51) - v(0)) / 2, 1e-9);
    expect(visibleGrain(2, 0.1)).to.equal(0);
    expect(boostedDisplay(0.25)).to.be.closeTo(255, 1e-9);
    expect(boostedDisplay(-1)).to.equal(0);
  });

  it('is taken over a region as a root mean square, and scales', () => {
    const [y, s] = [
      [0.05, 0.1],
      [0.01, 0.02],
    ];
    const want = Math.sqrt((visibleGrain(0.05, 0.01) ** 2 + visibleGrain(0.1, 0.02) ** 2) / 2);
    expect(grainOf(y, s)).to.be.closeTo(want, 1e-9);
    expect(
      grainOf(
        y,
        s.map((x) => x * 2),
        0.5,
      ),
    ).to.be.closeTo(want, 1e-9);
    expect(grainOf([], [])).to.equal(0);
  });

  it('in stops is the exposure that one error is worth, of the median pixel', () => {
    // Twice the light is a stop; black pixels have none to hold an error against.
    expect(noiseStops([0.5, 2, 0.01, 0, 0], [0.5, 2, 0.01, 1, 1])).to.be.closeTo(1, 1e-12);
    expect(noiseStops([1, 1, 1], [0.1, 0.2, 3])).to.be.closeTo(Math.log2(1.2), 1e-12);
    expect(noiseStops([0], [1])).to.equal(0);
  });

  it('has weights that turn variances into squared grain', () => {
    expect(grainWeight(0.08, 0.02) * 0.02 ** 2).to.be.closeTo(visibleGrain(0.08, 0.02) ** 2, 1e-9);
    expect(grainWeight(0.08, 0)).to.be.above(0);
  });
});

describe('measured planes', () => {
  const random = randomNumbers(4);
  const [width, height] = [23, 17];
  const plane = Float32Array.from({ length: width * height }, () => random());
  const picture = createPicture(width, height, ['a'], 100, 50);
  channel(picture, 'a').set(plane);

  it('means over squares agree with summing each square', () => {
    for (const radius of [0, 1, 3, 30]) {
      const mean = boxMean(plane, width, height, radius);
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          let [sum, n] = [0, 0];
          for (let j = Math.max(0, y - radius); j <= Math.min(height - 1, y + radius); j++)
            for (let i = Math.max(0, x - radius); i <= Math.min(width - 1, x + radius); i++) {
              sum += plane[j * width + i];
              n++;
            }
          expect(mean[y * width + x]).to.be.closeTo(sum / n, 1e-6);
        }
    }
  });

  it('the strongest window is the one that brute force finds', () => {
    const [w, h] = [6, 4];
    let best = { sum: -1, x: 0, y: 0 };
    for (let y = 0; y + h <= height; y++)
      for (let x = 0; x + w <= width; x++) {
        let sum = 0;
        for (let j = 0; j < h; j++) for (let i = 0; i < w; i++) sum += plane[(y + j) * width + x + i];
        if (sum > best.sum) best = { sum, x, y };
      }
    expect(strongestWindow(picture, plane, w, h)).to.deep.equal({
      x: best.x + 100,
      y: best.y + 50,
      width: w,
      height: h,
    });
    expect(strongestWindow(picture, plane, 999, 999)).to.deep.equal({ x: 100, y: 50, width, height });
  });

  it('crops hold the pixels of their region', () => {
    const region = { x: 103, y: 52, width: 5, height: 3 };
    const part = cropPlane(picture, plane, region);
    for (let y = 0; y < 3; y++)
      for (let x = 0; x < 5; x++) expect(part[y * 5 + x]).to.equal(plane[(y + 2) * width + x + 3]);
  });

  it('percentiles are values below which that share lies', () => {
    const values = Array.from({ length: 100 }, (_, i) => 99 - i);
    expect(percentile(values, 0.95)).to.equal(95);
    expect(percentile(values, 1)).to.equal(99);
    expect(percentile([], 0.5)).to.equal(0);
  });

  it('regions are clipped to whole pixels of the frame', () => {
    expect(clipRegion({ x: -3.5, y: 2.2, width: 10, height: 1000 }, 20, 12)).to.deep.equal({
      x: 0,
      y: 2,
      width: 7,
      height: 10,
    });
    expect(clipRegion({ x: 50, y: 50, width: 4, height: 4 }, 20, 12).width).to.equal(0);
  });

  it('name a channel that is not there, and those that are', () => {
    expect(() => channel(picture, 'b')).to.throw(RangeError, 'no channel "b"; it has a');
  });
});

describe('pictures on their way', () => {
  it('come back as they were packed, and say when they are cut off', () => {
    const picture = createPicture(3, 2, ['beauty.R', 'ümlaut'], 7, 9);
    channel(picture, 'beauty.R').set([1, 2, 3, 4, 5, NaN]);
    channel(picture, 'ümlaut').set([-0.5, 1e-30, 1e30, Infinity, 0, 6]);
    const bytes = packPicture(picture, { revision: 12 });
    const { picture: same, facts } = unpackPicture(bytes.buffer as ArrayBuffer);
    expect(same).to.deep.equal(picture);
    expect(facts.revision).to.equal(12);
    for (const length of [0, 3, 20, bytes.length - 4])
      expect(() => unpackPicture(bytes.slice(0, length).buffer)).to.throw(RangeError, 'cut off');
  });
});

describe('figures of a render', () => {
  const test = scene(
    [{ mesh: sphere(1), material: { baseColour: [1, 1, 1], roughness: 0, transmission: 1 } }],
    { environment: evenEnvironment([1, 1, 1]) },
    { limits: { diffuse: 4, specular: 4, transmission: 1, volume: 2, alpha: 16, overall: 200 }, width: 24, height: 24 },
  );
  const film = render(test);
  const picture = pictureOf([film], film.region, ALL_PASSES);
  const figures = passFigures(picture);

  it('share out light and grain among the light passes', () => {
    const rows = Object.values(figures.light);
    expect(rows.length).to.equal(LIGHT_PASSES.length - 1);
    expect(rows.reduce((sum, r) => sum + r.light, 0)).to.be.closeTo(1, 1e-6);
    expect(rows.reduce((sum, r) => sum + r.grain, 0)).to.be.closeTo(1, 1e-6);
    expect(figures.grain).to.be.closeTo(
      grainOf(luminancePlane(picture, 'beauty'), channel(picture, 'error.beauty')),
      1e-9,
    );
  });

  it('tell what limits cut and what a straight path crosses', () => {
    expect(figures.crossings).to.deep.equal({ most: 2, usual: 2 });
    expect(figures.cuts.transmission).to.be.above(0.2);
    // Internal reflections are cut too, now and then; what several limits forbid counts once in any.
    const { transmission, specular, any } = figures.cuts;
    expect(any).to.be.within(transmission, transmission + specular + 1e-6);
    for (const cut of CUTS) expect(figures.tops[`cut.${cut}`]).to.equal(1);
    expect(figures.cost).to.be.above(1);
  });

  it('are put in words for one pixel', () => {
    const middle = 12 * 24 + 12;
    const values = Object.fromEntries([...picture.channels].map(([name, plane]) => [name, plane[middle]]));
    const told = tellPixel(values, test.document.sheets.preview.limits);
    expect(told).to.match(
      /^a straight path crosses 2 faces; \d+ % of the path weight is cut: \d+ % by transmission 1; \d+ rays for 64 samples$/,
    );
    expect(tellPixel({}, test.document.sheets.preview.limits)).to.equal('not rendered yet');
  });
});
