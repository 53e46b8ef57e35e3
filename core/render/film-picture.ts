/** Films → a Picture with named channels, pass by pass. */
import { createPicture, type Picture, type Region } from '../data/picture.ts';
import { standardError, type Film } from './film.ts';
import { CUTS, LIGHT_PASSES, MEAN_CUT, MEAN_RAYS, MEANS, passChannels } from './passes.ts';
import { GROUP } from './random.ts';

/** Gives one channel value of one pixel of a film. */
type Reader = (film: Film, pixel: number) => number;

function readers(pass: string): Reader[] {
  const light = (LIGHT_PASSES as readonly string[]).indexOf(pass);
  if (light >= 0) return [0, 1, 2].map((c) => (film, i) => film.means[i * MEANS + light * 3 + c]);
  if (pass === 'samples') return [(film) => film.groups * GROUP];
  if (pass === 'cost') return [(film, i) => film.means[i * MEANS + MEAN_RAYS]];
  if (pass === 'crossings') return [(film, i) => film.crossings[i]];
  const cut = CUTS.findIndex((c) => pass === `cut.${c}`);
  if (cut >= 0) return [(film, i) => film.means[i * MEANS + MEAN_CUT + cut]];
  const error = LIGHT_PASSES.findIndex((p) => pass === `error.${p}`);
  if (error >= 0) return [(film, i) => standardError(film, i, error)];
  throw new RangeError(`there is no pass "${pass}"`);
}

/** A picture that films are added to one by one, so that not all of them need be there at once. */
export interface PictureFill {
  picture: Picture;
  /** Films may lie anywhere; what none of them covers stays 0. */
  add(film: Film): void;
}

/**
 * @param region what the picture covers, full-frame pixels
 * @param passes names from `ALL_PASSES`; a RangeError names one that is not
 */
export function fillPicture(region: Region, passes: Iterable<string>): PictureFill {
  const names = [...passes];
  const picture = createPicture(region.width, region.height, names.flatMap(passChannels), region.x, region.y);
  const plan = names.flatMap((pass) => {
    const channels = passChannels(pass);
    return readers(pass).map((read, i) => ({ read, plane: picture.channels.get(channels[i])! }));
  });
  const add = (film: Film) => {
    const { x, y, width, height } = film.region;
    const x0 = Math.max(x, region.x);
    const x1 = Math.min(x + width, region.x + region.width);
    for (let row = Math.max(y, region.y); row < Math.min(y + height, region.y + region.height); row++)
      for (let column = x0; column < x1; column++) {
        const from = (row - y) * width + column - x;
        const to = (row - region.y) * region.width + column - region.x;
        for (const { read, plane } of plan) plane[to] = read(film, from);
      }
  };
  return { picture, add };
}

/** The picture of films that are all at hand, see `fillPicture`. */
export function pictureOf(films: Iterable<Film>, region: Region, passes: Iterable<string>): Picture {
  const { picture, add } = fillPicture(region, passes);
  for (const film of films) add(film);
  return picture;
}
