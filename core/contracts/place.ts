/** What a place in a picture says of the light there, for the page and the shell. */
import type { Region } from '../data/picture.ts';
import type { ControlValues } from '../document/set-values.ts';

/**
 * How a light stands to a place: it lights it, does so in part at a shadow's edge, is held back, should be held back and is
 * not, or does not light it whatever stands between.
 */
export type LightState = 'lit' | 'edge' | 'shaded' | 'missing' | 'unlit';

export interface ToldBlocker {
  id: string;
  name: string;
  /** World, metres: a point of it on the way, and how far that is. */
  at: [number, number, number];
  metres: number;
  /** Share of the light that it stands before, 0–1. */
  share: number;
  blocks: boolean;
  /** Why it does not, a clause each. */
  reasons: string[];
}

export interface ToldRemedy {
  title: string;
  values: ControlValues;
  /** By which the place changes, stops; null: a trial tells. */
  stops: number | null;
}

export interface ToldLight {
  /** Key of the light; `environment`, or what glows. */
  id: string;
  name: string;
  /** Pointer of its controls; null: none of its own. */
  pointer: string | null;
  state: LightState;
  /** `family.cause`; null: nothing is wrong with it here. */
  cause: string | null;
  /** A sentence. */
  verdict: string;
  /** Irradiance, luminance, W/m²: with nothing between, and as rendered. */
  unshadowed: number;
  arriving: number;
  /** Share of all light here. */
  share: number;
  /** Unit, towards its middle; metres to it, null: far or all around. */
  direction: [number, number, number] | null;
  metres: number | null;
  /** Degrees above the surface, and degrees wide. */
  elevation: number | null;
  angle: number | null;
  /** Stops between its full shadow and its full light here. */
  contrast: number | null;
  /** Width of the shadow's edge on the surface. */
  penumbra: { metres: number; pixels: number } | null;
  /** Shadow rays per pixel that keep the edge of its shadow below the noise target, and those that there are; samples of the light's own that come to as many, null: more than it can have. Null: nothing to tell. */
  edgeRays: { needed: number; now: number; samples: number | null } | null;
  /** The colour of what arrives of it: stops by channel, degrees of hue and its name. Null: grey, or nothing arrives. */
  tint: { channels: [number, number, number]; stops: number; hue: number; name: string } | null;
  blockers: ToldBlocker[];
  remedies: ToldRemedy[];
}

export interface ToldPlace {
  pixel: [number, number];
  object: { id: string; name: string };
  point: [number, number, number];
  normal: [number, number, number];
  /** From the eye; and metres that a pixel is wide here. */
  metres: number;
  pixelSize: number;
  /** Names of glass that is looked through. */
  through: string[];
  /** What is to be said first. */
  sentence: string;
  /** What is wrong first, then by what they would bring. */
  lights: ToldLight[];
  /** Irradiance, luminance, W/m²; the second null: not known here. */
  direct: number;
  indirect: number | null;
  leftOut: { lights: number; share: number };
}

/** How a light stands to a region of the picture; shares are of its places, 0–1. */
export interface ToldRegionLight {
  id: string;
  name: string;
  pointer: string | null;
  /** Share of all direct light there. */
  share: number;
  /** Irradiance, the mean, luminance, W/m²: with nothing between, and as rendered. */
  unshadowed: number;
  arriving: number;
  shaded: number;
  edge: number;
  missing: number;
  /** Medians: stops between its light and its shadow, and the width of its shadows' edges. */
  contrast: number | null;
  penumbra: { metres: number; pixels: number } | null;
}

export interface ToldRegion {
  region: Region;
  /** Places that were asked, and how many more show no surface. */
  places: number;
  empty: number;
  sentence: string;
  /** What brings most first. */
  lights: ToldRegionLight[];
  direct: number;
  /** The place that tells most. */
  telling: ToldPlace;
}

/** The environment as a light, and what it brings as it is turned. */
export interface ToldEnvironment {
  /** Irradiance that it brings to level ground with nothing around, luminance, W/m². */
  level: number;
  /** A daylight sky with its sun, which is told apart. */
  hasSun: boolean;
  /** Of its brightest hundredth: where, degrees; share of its light; stops above its mean. */
  brightest: { elevation: number; azimuth: number; share: number; stops: number };
  /** Stops that it adds to other direct light here; null: there is none. */
  adds: number | null;
  /** As the document has it, and what the place gets more or less at others, stops. */
  rotation: number;
  turned: { rotation: number; stops: number }[];
}
