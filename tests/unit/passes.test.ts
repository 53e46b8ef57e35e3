/** Lists of passes, what they are shown as, path signatures, memory told before a render, and fog along a ray. */
import { expect } from 'chai';
import prettyBytes from 'pretty-bytes';
import { evenEnvironment, defaultLight } from '../../core/document/defaults.ts';
import { channel } from '../../core/data/picture.ts';
import { figurePasses } from '../../core/picture/pass-figures.ts';
import { viewDirection, viewIds, viewPlace } from '../../core/picture/view.ts';
import { FogInterval } from '../../core/render/scene/fog.ts';
import { filmLayout, lightGroups } from '../../core/render/film/film-layout.ts';
import { createFilm, filmBytes, packFilm, unpackFilm } from '../../core/render/film/film.ts';
import { fillPicture, pictureOf } from '../../core/render/film/film-picture.ts';
import { frameBytes } from '../../core/render/film/frame-bytes.ts';
import { ALL_PASSES, lookOf, passChannels, passList } from '../../core/render/film/pass-list.ts';
import { meansOf, MEANS, NO_EXTRAS, type FilmLayout } from '../../core/render/film/passes.ts';
import { extend, pathOf } from '../../core/render/path/signature.ts';
import { DIFFUSE, SPECULAR, TRANSMISSION, VOLUME } from '../../core/materials/surface.ts';
import { compiled, render, scene, sphere, square } from './helpers.ts';

const RICH: FilmLayout = {
  groups: ['fill', 'key'],
  groupPasses: true,
  shadows: ['sun'],
  occlusion: true,
  lines: { ink: [0.2, 0.1, 0] },
  channelErrors: false,
};

describe('the list of passes', () => {
  it('names each once, with channels that no other has', () => {
    const list = passList(RICH);
    expect(new Set(list.map((pass) => pass.name)).size).to.equal(list.length);
    const channels = list.flatMap((pass) => pass.channels);
    expect(new Set(channels).size).to.equal(channels.length);
  });

  it('has groups, shadows, occlusion and lines only where the sheet asks for them', () => {
    expect(ALL_PASSES).to.not.include('occlusion');
    expect(passList(RICH).map((p) => p.name)).to.include.members([
      'occlusion',
      'lines',
      'shadow.sun',
      'group.key',
      'group.fill.emission',
    ]);
    expect(passChannels('group.key', RICH)).to.deep.equal(['group.key.R', 'group.key.G', 'group.key.B']);
    expect(() => passChannels('group.key')).to.throw(RangeError, 'no pass "group.key"');
    expect(meansOf(NO_EXTRAS)).to.equal(MEANS);
    expect(meansOf(RICH)).to.equal(MEANS + 2 * 11 * 3 + 2);
  });

  it('tells by the name alone how a pass is shown, as the list does', () => {
    for (const pass of passList(RICH)) expect(lookOf(pass.name), pass.name).to.equal(pass.look);
  });

  it('gives every channel of a real film, and figures for those that have one', () => {
    const test = scene([{ mesh: sphere(1) }], { environment: { ...evenEnvironment([1, 1, 1]), group: 'sky' }, lights: { sun: defaultLight('distant') } });
    test.document.sheets.preview.passes = { occlusion: true, shadows: true, lines: true, groups: true };
    const { layout } = compiled(test);
    expect(layout).to.deep.equal(filmLayout(test.document, test.document.sheets.preview));
    expect(lightGroups(test.document)).to.deep.equal(['sky']);
    const film = render(test, { x: 4, y: 4, width: 8, height: 8 }, 8);
    const picture = pictureOf([film], film.region, passList(layout).map((p) => p.name), layout);
    for (const [name, plane] of picture.channels) expect(plane.every(Number.isFinite), name).to.equal(true);
    expect(figurePasses(layout)).to.include.members(['beauty', 'cut.any', 'error.beauty', 'occlusion', 'motion']);
    expect(figurePasses(layout)).to.not.include('position');
  }); // prettier-ignore
});

describe('a picture of every so many-th pixel', () => {
  it('holds just those, whatever films they lie in', () => {
    const test = scene([{ mesh: square(1, 0) }], { environment: evenEnvironment([1, 1, 1]) });
    const films = [{ x: 2, y: 1, width: 5, height: 6 }, { x: 7, y: 1, width: 4, height: 6 }].map((r) => render(test, r, 4));
    const region = { x: 2, y: 1, width: 9, height: 6 };
    const whole = channel(pictureOf(films, region, ['depth']), 'depth');
    const { picture, add } = fillPicture(region, ['depth'], NO_EXTRAS, 2);
    films.forEach(add);
    expect([picture.width, picture.height]).to.deep.equal([5, 3]);
    for (let y = 0; y < 3; y++)
      for (let x = 0; x < 5; x++) expect(channel(picture, 'depth')[y * 5 + x]).to.equal(whole[y * 2 * 9 + x * 2]);
  }); // prettier-ignore
});

describe('films with extras', () => {
  it('come back from bytes with them', () => {
    const layout = { ...RICH, channelErrors: true };
    const film = createFilm({ x: 1, y: 2, width: 3, height: 2 }, layout);
    film.means.forEach((_, i) => (film.means[i] = i));
    film.channelMoments.forEach((_, i) => (film.channelMoments[i] = i / 7));
    const back = unpackFilm(packFilm(film));
    expect(back.width).to.equal(meansOf(layout));
    expect([...back.means]).to.deep.equal([...film.means]);
    expect([...back.channelMoments]).to.deep.equal([...film.channelMoments]);
    expect(packFilm(film).length).to.be.closeTo(6 * filmBytes(layout), 40);
  });
});

describe('memory', () => {
  it('is told for a whole frame, in units people read', () => {
    const { document } = scene([{ mesh: square(1, 0) }]);
    const sheet = { ...document.sheets.preview, width: 1920, height: 1080 };
    expect(frameBytes(document, sheet)).to.equal(1920 * 1080 * filmBytes(NO_EXTRAS));
    expect(prettyBytes(frameBytes(document, sheet))).to.equal('680 MB');
  });
});

describe('path signatures', () => {
  it('tell the kinds of events in order, ten at the most, in a number that 32 bits hold', () => {
    const kinds = [TRANSMISSION, TRANSMISSION, DIFFUSE, VOLUME];
    expect(pathOf(kinds.reduce(extend, 0))).to.equal('camera, transmission, transmission, diffuse, volume');
    expect(pathOf(0)).to.equal('camera');
    let long = 0;
    for (let k = 0; k < 30; k++) long = extend(long, SPECULAR);
    expect(pathOf(long).split(', ').length).to.equal(11);
    expect(Math.fround(long)).to.equal(long);
  });
});

describe('data on screen', () => {
  const bytes = (draw: (out: Uint8ClampedArray) => void, pixels = 1) => {
    const out = new Uint8ClampedArray(pixels * 4);
    draw(out);
    return [...out];
  };
  it('directions run from black at −1 to full at 1', () =>
    expect(bytes((out) => viewDirection([-1], [0], [1], out))).to.deep.equal([0, 128, 255, 255]));

  it('places run from the least to the greatest of the picture', () =>
    expect(bytes((out) => viewPlace([[5, 7, 9], [1, 1, 1]], out), 3)).to.deep.equal([0, 0, 0, 255, 128, 0, 0, 255, 255, 0, 0, 255])); // prettier-ignore

  it('ids have colours of their own, 0 is black, and the same id the same colour', () => {
    const ids = Array.from({ length: 40 }, (_, i) => i);
    const out = bytes((o) => viewIds([...ids, 7], o), 41);
    const colour = (i: number) => out.slice(i * 4, i * 4 + 3).join();
    expect(colour(0)).to.equal('0,0,0');
    expect(new Set(ids.map(colour)).size).to.equal(40);
    expect(colour(40)).to.equal(colour(7));
  });
});

describe('fog along a ray', () => {
  const fog = Float64Array.of(0.5, 1, 1, 1, 0, -1, -1, -1, 1, 1, 1);
  const interval = new FogInterval(fog);
  const between = (ray: number[], end = Infinity) => {
    interval.set(Float64Array.from(ray), end);
    return [interval.near, interval.far];
  };
  it('lies between the planes of its box, before the end, and nowhere for rays that miss it', () => {
    expect(between([0, 0, 5, 0, 0, -1])).to.deep.equal([4, 6]);
    expect(between([0, 0, 5, 0, 0, -1], 4.5)).to.deep.equal([4, 4.5]);
    expect(between([0, 0, 0, 1, 0, 0])).to.deep.equal([0, 1]);
    const [near, far] = between([0, 3, 5, 0, 0, -1]);
    expect(far).to.equal(near);
    expect(between([0, 0, 5, 0, 0, 1])[1]).to.equal(between([0, 0, 5, 0, 0, 1])[0]);
  });

  it('lets exp(−σd) through, and events within it have the mean of a cut exponential', () => {
    between([0, 0, 5, 0, 0, -1]);
    expect(interval.through).to.be.closeTo(Math.exp(-1), 1e-12);
    let mean = 0;
    for (let i = 0; i < 20000; i++) mean += interval.placeWithin((i + 0.5) / 20000) / 20000;
    // ∫ t σ e^(−σt) dt over 0…d, over 1 − e^(−σd): 1/σ − d/(e^(σd) − 1).
    expect(mean - 4).to.be.closeTo(2 - 2 / (Math.E - 1), 1e-4);
  });
});
