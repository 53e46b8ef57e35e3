/**
 * The passes of a film and where their numbers stand in a pixel.
 *
 * Light passes are named by the first scattering event of a path (a run of transmissions being one
 * event): direct when light is met right after it, emission and background when there was none. They
 * add up to the beauty, which is accumulated on its own.
 */
import type { i32 } from '../../data/numbers.ts';
import { KINDS } from '../../materials/surface.ts';

export const LIGHT_PASSES = [
  'beauty',
  'diffuse.direct',
  'diffuse.indirect',
  'specular.direct',
  'specular.indirect',
  'transmission.direct',
  'transmission.indirect',
  'volume.direct',
  'volume.indirect',
  'emission',
  'background',
] as const;
export type LightPass = (typeof LIGHT_PASSES)[number];

export const BEAUTY = 0;
export const EMISSION = 1 + KINDS * 2;
export const BACKGROUND = EMISSION + 1;
export const LIGHT_PASS_COUNT = LIGHT_PASSES.length;

/** The light pass of a path whose first event is `kind` (0 diffuse, 1 specular, 2 transmission, 3 volume). */
export const passOf = (kind: i32, direct: boolean): i32 => 1 + kind * 2 + (direct ? 0 : 1);

/** Every limit that can end a path, and `any` for paths that one or more of them ended. */
export const CUTS = ['diffuse', 'specular', 'transmission', 'volume', 'alpha', 'overall', 'distance', 'any'] as const;
export type Cut = (typeof CUTS)[number];
export const CUT_ALPHA = 4;
export const CUT_OVERALL = 5;
export const CUT_DISTANCE = 6;
export const CUT_ANY = 7;

/**
 * Layout of one pixel's means: light passes as RGB, the cuts, rays, luminance that clamps took, then the data
 * of the first hit, then what the scene and the sheet ask for (`FilmLayout`).
 */
export const MEAN_CUT = LIGHT_PASS_COUNT * 3;
export const MEAN_RAYS = MEAN_CUT + CUTS.length;
export const MEAN_CLAMPED = MEAN_RAYS + 1;
/** Share of samples that met something; what follows is multiplied with it. */
export const MEAN_COVERAGE = MEAN_CLAMPED + 1;
export const MEAN_DEPTH = MEAN_COVERAGE + 1;
export const MEAN_POSITION = MEAN_DEPTH + 1;
export const MEAN_NORMAL = MEAN_POSITION + 3;
export const MEAN_UV = MEAN_NORMAL + 3;
export const MEAN_ALBEDO = MEAN_UV + 2;
export const MEAN_MOTION = MEAN_ALBEDO + 3;
/** Share of samples whose first hit is the pixel's object, and its material. */
export const MEAN_OBJECT = MEAN_MOTION + 2;
export const MEAN_MATERIAL = MEAN_OBJECT + 1;
export const MEANS = MEAN_MATERIAL + 1;

/** What a film has beyond `MEANS`, by the scene and the sheet. */
export interface FilmLayout {
  /** Light groups whose beauty is kept, group numbers from 1. */
  groups: string[];
  /** Whether each group has all light passes, not its beauty alone. */
  groupPasses: boolean;
  /** Lights with a shadow pass. */
  shadows: string[];
  occlusion: boolean;
  /** Ink lines, and their colour where they are drawn over the light passes; null: none are kept. */
  lines: { ink: [number, number, number] | null } | null;
  /** Whether errors are kept per channel and not of the luminance alone. */
  channelErrors: boolean;
}

export const NO_EXTRAS: FilmLayout = {
  groups: [],
  groupPasses: false,
  shadows: [],
  occlusion: false,
  lines: null,
  channelErrors: false,
};

/** Passes of one light group: its beauty alone, or all. */
export const groupWidth = (layout: FilmLayout): number => (layout.groupPasses ? LIGHT_PASS_COUNT : 1);
export const occlusionAt = (layout: FilmLayout): number =>
  MEANS + layout.groups.length * groupWidth(layout) * 3 + layout.shadows.length;
export const shadowsAt = (layout: FilmLayout): number => MEANS + layout.groups.length * groupWidth(layout) * 3;
/** Numbers of a pixel's means in all. */
export const meansOf = (layout: FilmLayout): number => occlusionAt(layout) + (layout.occlusion ? 1 : 0);

/** The brightest contribution of a pixel: luminance, path signature, light + 1, first and second object + 1. */
export const BRIGHTEST = 5;
export const BRIGHTEST_PARTS = ['value', 'path', 'light', 'first', 'second'] as const;
