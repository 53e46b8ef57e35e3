/**
 * The cheapest samples that reach a noise target, from measured variances and ray counts.
 *
 * With n_k samples of kind k behind each of N camera samples the variance is
 * V = (V₀ + Σ V_k/n_k + 2 Σ C_jk/max(n_j, n_k)) / N: kinds share the draws that both have (the C terms).
 * Source: Neyman 1934; Cochran, Sampling Techniques; whole numbers are found by search.
 */
import type { ExtraKind, Sheet } from '../document/schema.ts';
import { STAGE_CAMERA, STAGE_LIGHT, STAGES } from '../render/path/recorder.ts';
import type { SamplePilot } from './sample-pilot.ts';

export type ExtraSamples = Sheet['extraSamples'];

export interface SampleModel {
  /** Weighted variance of one group's mean at given extra samples. */
  variance(extra: ExtraSamples): number;
  /** Rays of one group of 4 samples. */
  rays(extra: ExtraSamples): number;
  /** Weighted variance that each dial can lower, at one sample each; `camera` is what only camera samples lower. */
  parts: Record<PlannedKind | 'camera', number>;
}

/** Kinds that lower noise in the beauty; occlusion samples serve a pass of their own. */
export type PlannedKind = Exclude<ExtraKind, 'occlusion'>;

/** By stage. */
const KINDS: PlannedKind[] = ['diffuse', 'specular', 'transmission', 'volume', 'light'];

/** @param total weighted variance of one group's mean over the same pixels, at `extra`, as a film measured it */
export function sampleModel(pilot: SamplePilot, total: number, extra: ExtraSamples): SampleModel {
  const { spread, rays } = pilot;
  const within = (e: ExtraSamples) => {
    let sum = 0;
    for (let j = 0; j < STAGE_CAMERA; j++)
      for (let k = 0; k < STAGE_CAMERA; k++) {
        // Light samples are drawn apart from the others.
        if (j !== k && (j === STAGE_LIGHT || k === STAGE_LIGHT)) continue;
        sum += spread[j * STAGES + k] / Math.max(e[KINDS[j]], e[KINDS[k]]);
      }
    return sum;
  };
  const camera = Math.max(0, total - within(extra));
  const part = (k: number) => spread[k * STAGES + k];
  return {
    variance: (e) => camera + within(e),
    rays: (e) => rays[STAGE_CAMERA] + KINDS.reduce((sum, kind, k) => sum + rays[k] * e[kind], 0),
    parts: { diffuse: part(0), specular: part(1), transmission: part(2), volume: part(3), light: part(4), camera },
  };
}

export interface Plan {
  /** Samples per pixel, a multiple of 4. */
  samples: number;
  extra: ExtraSamples;
  /** Rays a pixel. */
  rays: number;
}

const CHOICES = [1, 2, 3, 4, 6, 8, 12, 16];
const MOST_SAMPLES = 65536;
/** One group alone has no spread, so that no trial could tell its noise. */
const LEAST_GROUPS = 2;

/** Samples per pixel that bring the variance of the mean to `target`, with these extra samples. */
export function planFor(model: SampleModel, target: number, extra: ExtraSamples): Plan {
  const groups = Math.max(LEAST_GROUPS, Math.ceil(model.variance(extra) / target));
  const samples = Math.min(MOST_SAMPLES, groups * 4);
  return { samples, extra, rays: (samples / 4) * model.rays(extra) };
}

/** The plan with the fewest rays among all mixtures of extra samples. */
export function cheapestPlan(model: SampleModel, target: number, fewest: ExtraSamples): Plan {
  let best = planFor(model, target, fewest);
  const { occlusion } = fewest;
  const inFog = model.parts.volume > 0 ? CHOICES : [1];
  for (const volume of inFog)
    for (const light of CHOICES)
      for (const diffuse of CHOICES)
        for (const specular of CHOICES)
          for (const transmission of CHOICES) {
            const extra = { light, diffuse, specular, transmission, volume, occlusion };
            const plan = planFor(model, target, extra);
            // A mixture must pay for being one.
            if (plan.rays < best.rays * 0.98) best = plan;
          }
  return best;
}
