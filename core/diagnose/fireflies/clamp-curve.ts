/**
 * What clamps would take, read off a film without rendering: a sample of value b brings b/N to a mean of N, so a pixel
 * whose brightest sample is cut down to c loses (b − c)/N at least; and no mean of clamped samples is above c, so that
 * one of m loses m − c at least. The greater of both is taken for the loss: less than it really is where a few samples
 * are bright.
 */
import { stopsBetween } from '../../figures/stops-between.ts';
import { channel, type Picture, type Region } from '../../data/picture.ts';
import { findFireflies } from '../../picture/fireflies.ts';
import { luminancePlane } from '../../picture/measured.ts';
import { LIGHT_PASSES } from '../../render/film/passes.ts';
import { isBounced, isDirect } from '../../render/path/signature.ts';

/** Light by what clamps it: found after a bounce, met later otherwise, met at once. */
export type ClampKind = 'bounced' | 'indirect' | 'direct';

/** The narrowest clamp that light of a path falls under. */
export const clampKindOf = (signature: number): ClampKind =>
  isBounced(signature) ? 'bounced' : isDirect(signature) ? 'direct' : 'indirect';

/** Passes whose light is all of a kind, or may be: none is all light mirrored or seen through glass that bounced. */
const WHOLLY: Record<ClampKind, (pass: string) => boolean> = {
  bounced: (pass) => pass === 'diffuse.indirect' || pass === 'volume.indirect',
  indirect: (pass) => pass.endsWith('.indirect'),
  direct: (pass) => !pass.endsWith('.indirect'),
};

export interface ClampPoint {
  clamp: number;
  /** Share of the fireflies that is left, 0–1. */
  left: number;
  /** Share of the picture's light that it takes, 0–1. */
  taken: number;
}

/** The indirect clamp takes what bounced as well. */
const clampTakes = (kind: ClampKind, signature: number): boolean =>
  clampKindOf(signature) === kind || (kind === 'indirect' && clampKindOf(signature) === 'bounced');

/** Passes that a picture must have. */
export const CLAMP_PASSES = [...LIGHT_PASSES, 'samples', 'object', 'brightest.value', 'brightest.path'];

/** Clamp values that are looked at: halves of a stop, over so many stops below the brightest sample. */
const STEPS_A_STOP = 2;
const STOPS = 24;
/** A darker clamp leaves no picture. */
const LEAST_CLAMP = 1e-3;

/** Objects that are seen in fewer tell nothing. */
const LEAST_PIXELS = 20;

/** From the brightest clamp down to the darkest that is of use. @param at numbers of the fireflies that it is for. @param clamps those alone */
export function clampCurve(picture: Picture, kind: ClampKind, at: number[], clamps?: number[]): ClampPoint[] {
  const { width, height } = picture;
  const y = luminancePlane(picture, 'beauty');
  const clampable = clampableOf(picture, kind);
  const top = at.reduce((most, i) => Math.max(most, clampable.brightest[i]), 0);
  const light = y.reduce((sum, v) => sum + (v - v === 0 ? v : 0), 0);
  const after = new Float32Array(y.length);
  const points: ClampPoint[] = [];
  const steps = Array.from({ length: STOPS * STEPS_A_STOP + 1 }, (_, k) => rounded(top * 2 ** (-k / STEPS_A_STOP)));
  for (const clamp of clamps ?? steps) {
    let taken = 0;
    for (let i = 0; i < y.length; i++) {
      after[i] = y[i] - lossAt(clampable, i, clamp);
      if (y[i] - y[i] === 0) taken += y[i] - after[i];
    }
    const { mask } = findFireflies({ luminance: after, width, height });
    const left = at.reduce((sum, i) => sum + mask[i], 0) / at.length;
    points.push({ clamp, left, taken: light > 0 ? taken / light : 0 });
    if (left === 0 || clamp < LEAST_CLAMP) break;
  }
  return points;
}

/** The brightest clamp that takes nearly all that any takes: where a pixel has several bright samples, none does. */
export function enoughOf(curve: ClampPoint[], share = 0.99): ClampPoint {
  const least = Math.min(...curve.map(({ left }) => left));
  return curve.find(({ left }) => left <= least + 1 - share)!;
}

/** What a clamp takes from a region of the picture, stops. */
export function takenFrom(picture: Picture, kind: ClampKind, clamp: number, region: Region): number {
  const y = luminancePlane(picture, 'beauty');
  const clampable = clampableOf(picture, kind);
  let [before, after] = [0, 0];
  for (let row = region.y; row < region.y + region.height; row++)
    for (let x = region.x; x < region.x + region.width; x++) {
      const i = row * picture.width + x;
      before += y[i];
      after += y[i] - lossAt(clampable, i, clamp);
    }
  return stopsBetween(before, after);
}

/** What a clamp takes from each object, in stops, the most first. */
export function dulled(picture: Picture, kind: ClampKind, clamp: number): { object: number; stops: number }[] {
  const y = luminancePlane(picture, 'beauty');
  const clampable = clampableOf(picture, kind);
  const objects = channel(picture, 'object');
  const sums = new Map<number, [before: number, after: number, pixels: number]>();
  for (let i = 0; i < y.length; i++) {
    if (objects[i] === 0) continue;
    let sum = sums.get(objects[i]);
    if (!sum) sums.set(objects[i], (sum = [0, 0, 0]));
    sum[0] += y[i];
    sum[1] += y[i] - lossAt(clampable, i, clamp);
    sum[2] += 1;
  }
  return [...sums]
    .filter(([, [, , pixels]]) => pixels >= LEAST_PIXELS)
    .map(([id, [before, after]]) => ({
      object: id - 1,
      stops: stopsBetween(before, after),
    })) // prettier-ignore
    .sort((a, b) => a.stops - b.stops);
}

/** Light that a clamp is for. */
interface Clampable {
  /** Its brightest sample, 0 where the brightest is of the other kind. */
  brightest: Float32Array;
  /** Its mean. */
  mean: Float32Array;
  samples: Float32Array;
}

function clampableOf(picture: Picture, kind: ClampKind): Clampable {
  const paths = channel(picture, 'brightest.path');
  const mean = new Float32Array(paths.length);
  for (const pass of LIGHT_PASSES.slice(1)) {
    if (!WHOLLY[kind](pass)) continue;
    luminancePlane(picture, pass).forEach((v, i) => (mean[i] += v));
  }
  const brightest = channel(picture, 'brightest.value').map((v, i) => (clampTakes(kind, paths[i]) ? v : 0)); // prettier-ignore
  return { brightest, mean, samples: channel(picture, 'samples') };
}

const lossAt = ({ brightest, mean, samples }: Clampable, i: number, clamp: number): number =>
  Math.max(0, (brightest[i] - clamp) / Math.max(1, samples[i]), mean[i] - clamp);

/** Two digits: nobody sets a clamp finer. */
export const rounded = (value: number): number => Number(value.toPrecision(2));
