/**
 * What a frame takes, measured and not guessed: blocks of its pixels, spread evenly, rendered by its own sheet on one
 * thread while a clock runs. Rays are counted, so that they are the same on any machine; seconds are this machine's.
 *
 * @example
 * const { threadSeconds, error } = timeFrame({ scene, sheet }, pilotSeed(7), () => performance.now());
 */
import { decidingSamples } from '../render/frame/adaptive.ts';
import { MEAN_RAYS } from '../render/film/passes.ts';
import { GROUP } from '../render/film/random.ts';
import { renderPixels, type Clock } from '../render/frame/render-tile.ts';
import { settingsOf } from '../render/scene/scene.ts';
import { planSmall, type ChangeSide } from './small-render.ts';

export interface FrameTime {
  /** Seconds that the frame takes on one thread. */
  threadSeconds: number;
  rays: number;
  /** Standard error of both, as a share: pixels differ, and only some were rendered. */
  error: number;
}

/** Pixels that are rendered before the clock runs, so that it does not time the making of code. */
const WARM = 64;
/** Parts of the frame along each side, whose spread tells the error. */
const PARTS = 8;

/** @param seed must not be a trial's */
export function timeFrame({ scene, sheet }: ChangeSide, seed: number, clock: Clock): FrameTime {
  const frame = { x: 0, y: 0, width: sheet.width, height: sheet.height };
  const { pixels, width, height, groups } = planSmall(frame, sheet.width, sheet.samples);
  const settings = settingsOf(sheet, seed);
  renderPixels(scene, settings, pixels.subarray(0, WARM), groups);
  const begun = clock();
  const film = renderPixels(scene, settings, pixels, groups);
  const milliseconds = clock() - begun;

  const deciding = decidingSamples(sheet);
  const parts = new Float64Array(PARTS * PARTS);
  const counts = new Float64Array(PARTS * PARTS);
  let [traced, rays] = [0, 0];
  for (let i = 0; i < pixels.length; i++) {
    const perSample = film.means[i * film.width + MEAN_RAYS];
    // Adaptive sampling gives each pixel its own number, and no more than the sheet's.
    const own = sheet.adaptive.on ? Math.min(sheet.samples, film.wanted[i] * GROUP) : sheet.samples;
    traced += perSample * (film.counts[i] * GROUP + deciding);
    rays += perSample * (own + deciding);
    const column = Math.floor(((i % width) * PARTS) / width);
    const part = Math.floor((Math.floor(i / width) * PARTS) / height) * PARTS + column;
    parts[part] += perSample * (own + deciding);
    counts[part] += 1;
  }
  const frameRays = (rays * frame.width * frame.height) / pixels.length;
  return {
    threadSeconds: (frameRays * milliseconds) / traced / 1000,
    rays: frameRays,
    error: errorOf(parts, counts),
  };
}

/** Of the mean, told by how its parts differ. */
function errorOf(sums: Float64Array, counts: Float64Array): number {
  const means = [...sums].map((sum, i) => sum / counts[i]).filter(Number.isFinite);
  const mean = means.reduce((a, b) => a + b, 0) / means.length;
  const squares = means.reduce((sum, m) => sum + (m - mean) ** 2, 0);
  return means.length > 1 && mean > 0 ? Math.sqrt(squares / (means.length - 1) / means.length) / mean : 0;
}
