/**
 * A region rendered small: blocks of its pixels, spread evenly, with as many samples as a trial would give them or
 * fewer, so that noise, fireflies and brightness of a trial can be told from it. Blocks and not every so-many-th pixel:
 * what stands out is told by its neighbours.
 */
import { channel, type Picture, type Region } from '../data/picture.ts';
import { decidingSamples } from '../render/frame/adaptive.ts';
import { pictureOf } from '../render/film/film-picture.ts';
import { addFilm } from '../render/film/put-together.ts';
import { GROUP } from '../render/film/random.ts';
import { renderPixels, type Clock } from '../render/frame/render-tile.ts';
import { settingsOf, type CompiledScene } from '../render/scene/scene.ts';
import type { Sheet } from '../document/schema.ts';

export interface ChangeSide {
  scene: CompiledScene;
  sheet: Sheet;
  /** A second render that is put together with it, see `document/hold-out.ts`. */
  alone?: Omit<ChangeSide, 'alone'>;
}

/** A side that is compiled when it is rendered, and let go after it. */
export interface Variation {
  sheet: Sheet;
  compile(): CompiledScene;
  /** A second render that is put together with it. */
  alone?: Omit<Variation, 'alone'>;
}

export const compiledSide = ({ sheet, compile, alone }: Variation): ChangeSide => ({
  sheet,
  scene: compile(),
  ...(alone && { alone: { sheet: alone.sheet, scene: alone.compile() } }),
});

export interface SmallPlan {
  /** Full-frame pixel numbers, y × width + x, row by row. */
  pixels: Uint32Array;
  width: number;
  height: number;
  /** Pixels of the region for each of these. */
  standsFor: number;
  /** Of 4 samples each. */
  groups: number;
}

/** The fewest groups that tell an error, and the most that are needed. */
const LEAST_GROUPS = 4;
const MOST_GROUPS = 16;
/** Most samples of one side: a few seconds of one thread. */
const MOST_SAMPLES = 150_000;
/** Share of a trial's rays that a prediction may take. */
const SHARE = 0.25;

/** Blocks along each side of a region, where there are pixels enough for blocks; fewer pixels stand alone. */
const BLOCKS = 8;
const ENOUGH = 40;

/** At most one in `sparse` of the places from 0 to `length`, in blocks from one end to the other. */
function placesIn(length: number, sparse: number): number[] {
  const count = Math.max(1, Math.floor(length / sparse));
  const blocks = count < ENOUGH ? count : BLOCKS;
  const out: number[] = [];
  for (let b = 0; b < blocks; b++) {
    const size = Math.floor(((b + 1) * count) / blocks) - Math.floor((b * count) / blocks);
    const from = blocks === 1 ? Math.floor((length - size) / 2) : Math.round((b * (length - size)) / (blocks - 1));
    for (let i = 0; i < size; i++) out.push(from + i);
  }
  return out;
}

/** @param samples per pixel of the trial. @param divisor further parts that the samples are shared among */
export function planSmall(region: Region, frameWidth: number, samples: number, divisor = 1): SmallPlan {
  const groups = Math.min(MOST_GROUPS, Math.max(LEAST_GROUPS, samples / GROUP));
  const share = (groups * GROUP * divisor) / samples / SHARE;
  const total = (region.width * region.height * groups * GROUP * divisor) / MOST_SAMPLES;
  const sparse = Math.sqrt(Math.max(1, share, total));
  const [columns, rows] = [placesIn(region.width, sparse), placesIn(region.height, sparse)];
  const pixels = new Uint32Array(columns.length * rows.length);
  rows.forEach((y, k) =>
    columns.forEach((x, i) => (pixels[k * columns.length + i] = (region.y + y) * frameWidth + region.x + x)),
  );
  const standsFor = (region.width * region.height) / pixels.length;
  return { pixels, width: columns.length, height: rows.length, standsFor, groups };
}

/**
 * @param passes names of those that the picture is to have; `error.…` and `cost` are as if each pixel had the samples
 *   that the sheet gives it, with those that decide how many; all else is as rendered
 * @param seed must not be the trial's
 * @param clock of a host that wants time told
 * @returns the picture, how many samples the sheet gives for each that was taken, and the seconds that those would take
 */
export function renderSmall(
  { scene, sheet, alone }: ChangeSide,
  plan: SmallPlan,
  passes: string[],
  seed: number,
  clock: Clock | null = null,
): { picture: Picture; samplesFor: number; seconds: number | null } {
  const { pixels, width, height, groups } = plan;
  const film = renderPixels(scene, settingsOf(sheet, seed), pixels, groups, clock);
  if (alone) addFilm(film, renderPixels(alone.scene, settingsOf(alone.sheet, seed), pixels, groups, clock));
  film.region = { x: 0, y: 0, width, height };
  const picture = pictureOf([film], film.region, [...new Set([...passes, 'samples'])], scene.layout);
  const samples = channel(picture, 'samples');
  const deciding = decidingSamples(sheet);
  let [given, microseconds] = [0, 0];
  for (let i = 0; i < pixels.length; i++) {
    // Adaptive sampling gives each pixel its own number, and no more than the sheet's.
    const own = sheet.adaptive.on ? Math.min(sheet.samples, film.wanted[i] * GROUP) : sheet.samples;
    const scale = own / samples[i];
    given += own;
    microseconds += film.time[i] * (scale + deciding / samples[i]);
    for (const name of passes) {
      if (name === 'cost') channel(picture, name)[i] *= scale + deciding / samples[i];
      else if (name.startsWith('error.')) channel(picture, name)[i] /= Math.sqrt(scale);
    }
  }
  const samplesFor = given / samples.reduce((sum, n) => sum + n, 0);
  return { picture, samplesFor, seconds: clock ? microseconds / 1e6 : null };
}
