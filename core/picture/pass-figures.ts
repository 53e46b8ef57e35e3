/** What a pass rail shows beside each pass: where the light is, where the grain is, what was measured. */
import type { Picture } from '../data/picture.ts';
import { channel } from '../data/picture.ts';
import { passList, type PassLook } from '../render/film/pass-list.ts';
import { CUTS, LIGHT_PASSES, NO_EXTRAS, type FilmLayout } from '../render/film/passes.ts';
import { grainOf, grainWeight } from '../data/grain.ts';
import { withKnownErrors } from './known-errors.ts';
import { luminancePlane, percentile } from './measured.ts';
import { noiseStops } from './noise-stops.ts';

export interface PassFigures {
  /** Per light pass: share of the beauty's light and of the visible grain, 0–1. */
  light: Record<string, { light: number; grain: number }>;
  /** Visible grain of the whole picture, display steps. */
  grain: number;
  /** Standard error of the median pixel, stops. */
  noiseStops: number;
  /** Root mean square of the beauty's standard error, linear. */
  error: number;
  /** Rays a pixel. */
  cost: number;
  crossings: { most: number; usual: number };
  /** Mean path weight that each limit ended, 0–1. */
  cuts: Record<string, number>;
  /** Share of the light that clamps took. */
  clamped: number;
  /** Mean openness, 1 all open; null without that pass. */
  occlusion: number | null;
  /** Greatest value worth telling apart in each one-channel pass, for its false-colour scale. */
  tops: Record<string, number>;
}

const mean = (plane: Float32Array) => plane.reduce((a, b) => a + b, 0) / plane.length;

/** Passes that figures are read off. */
export const figurePasses = (layout: FilmLayout): string[] =>
  passList(layout)
    .filter(({ name, group, look }) => (group === 'Light' && look === 'light') || hasTop(look) || name === 'occlusion')
    .map(({ name }) => name);

const hasTop = (look: PassLook): boolean =>
  look === 'share' || look === 'amount' || look === 'count' || look === 'flow';

/** @param rendered what `figurePasses` names, of some or all pixels */
export function passFigures(rendered: Picture, layout: FilmLayout = NO_EXTRAS): PassFigures {
  const picture = withKnownErrors(rendered);
  const beauty = luminancePlane(picture, 'beauty');
  const sigma = channel(picture, 'error.beauty');
  const weights = beauty.map((y, i) => grainWeight(y, sigma[i]));
  const passes = LIGHT_PASSES.slice(1).map((pass) => ({
    pass,
    light: mean(luminancePlane(picture, pass)),
    noise: channel(picture, `error.${pass}`).reduce((sum, s, i) => sum + weights[i] * s * s, 0),
  }));
  const light = passes.reduce((sum, p) => sum + p.light, 0) || 1;
  const noise = passes.reduce((sum, p) => sum + p.noise, 0) || 1;
  const crossings = channel(picture, 'crossings');
  const cuts = Object.fromEntries(CUTS.map((cut) => [cut, mean(channel(picture, `cut.${cut}`))]));
  const tops: Record<string, number> = { crossings: crossings.reduce((a, b) => Math.max(a, b), 0) };
  for (const { name, look, channels } of passList(layout)) {
    if (look === 'share') tops[name] = 1;
    else if (look === 'flow') {
      const [x, y] = channels.map((part) => channel(picture, part));
      tops[name] = Math.max(
        1,
        percentile(
          x.map((v, i) => Math.hypot(v, y[i])),
          0.999,
        ),
      );
    } else if (hasTop(look) && name !== 'crossings') tops[name] = percentile(channel(picture, channels[0]), 0.995);
  }
  const clamped = mean(channel(picture, 'clamped'));
  return {
    light: Object.fromEntries(passes.map((p) => [p.pass, { light: p.light / light, grain: p.noise / noise }])),
    grain: grainOf(beauty, sigma),
    noiseStops: noiseStops(beauty, sigma),
    error: Math.sqrt(sigma.reduce((sum, s) => sum + s * s, 0) / sigma.length),
    cost: mean(channel(picture, 'cost')),
    crossings: {
      most: tops.crossings,
      usual: percentile(
        crossings.filter((n) => n > 0),
        0.95,
      ),
    },
    cuts,
    clamped: clamped / (mean(beauty) + clamped || 1),
    occlusion: layout.occlusion ? mean(channel(picture, 'occlusion')) : null,
    tops,
  };
}
