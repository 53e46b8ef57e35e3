/** What a sheet asks of every path, as plain numbers: without a limit is Infinity. */
import { falloffNumber } from '../../data/falloff.ts';
import type { i32 } from '../../data/numbers.ts';
import { groupWidth, meansOf, occlusionAt, shadowsAt, type FilmLayout } from '../film/passes.ts';
import { tabulated, type FilterTable } from '../film/pixel-filter.ts';
import type { RenderSettings } from './scene.ts';

export interface EventLimits {
  diffuse: number;
  specular: number;
  transmission: number;
  volume: number;
  alpha: number;
  overall: number;
}

export interface Clamps {
  direct: number;
  indirect: number;
  bounced: number;
}

/** Samples of each kind at the first hit. */
export interface ExtraSamples {
  light: i32;
  diffuse: i32;
  specular: i32;
  transmission: i32;
  volume: i32;
  occlusion: i32;
}

export interface OcclusionRays {
  /** Metres. */
  distance: number;
  /** Number of one of `FALLOFFS`. */
  falloff: i32;
  /** Squared sine of the cone's half angle. */
  sine2: number;
  /** 1 outward, −1 inward. */
  side: number;
  seeThrough: boolean;
  /** Of what dims light: how much of it, the power of the openness, and what is left per channel where all is shut. */
  strength: number;
  contrast: number;
  left: Float64Array;
}

/** Where a pixel's sums stand that not every film has. */
export interface SumsLayout {
  /** Numbers in all. */
  size: i32;
  /** Numbers of a light group, the first of which stands at `MEANS`. */
  groupFloats: i32;
  groupPasses: boolean;
  shadows: i32;
  shadowCount: i32;
  /** −1 without. */
  occlusion: i32;
}

export interface PathSettings {
  width: i32;
  height: i32;
  seed: i32;
  roulette: boolean;
  filter: FilterTable;
  limits: EventLimits;
  /** Metres. */
  rayDistance: number;
  clamps: Clamps;
  roughnessFloor: number;
  extraSamples: ExtraSamples;
  occlusion: OcclusionRays;
  sums: SumsLayout;
}

export function pathSettings(settings: RenderSettings, layout: FilmLayout): PathSettings {
  const { width, height, seed, roulette, limits, roughnessFloor, extraSamples, clamps, occlusion } = settings;
  return {
    width,
    height,
    seed,
    roulette,
    filter: tabulated(settings.filter),
    limits,
    rayDistance: settings.rayDistance ?? Infinity,
    clamps: {
      direct: clamps.direct ?? Infinity,
      indirect: clamps.indirect ?? Infinity,
      bounced: clamps.bounced ?? Infinity,
    },
    roughnessFloor,
    extraSamples,
    occlusion: {
      distance: occlusion.distance ?? Infinity,
      falloff: falloffNumber(occlusion.falloff),
      sine2: Math.sin((occlusion.cone * Math.PI) / 180) ** 2,
      side: occlusion.direction === 'outward' ? 1 : -1,
      seeThrough: occlusion.seeThrough,
      strength: settings.neutral === 'neutral-occlusion' ? 1 : occlusion.strength,
      contrast: occlusion.contrast,
      left: Float64Array.from(occlusion.colour),
    },
    sums: {
      size: meansOf(layout),
      groupFloats: groupWidth(layout) * 3,
      groupPasses: layout.groupPasses,
      shadows: shadowsAt(layout),
      shadowCount: layout.shadows.length,
      occlusion: layout.occlusion ? occlusionAt(layout) : -1,
    },
  };
}
