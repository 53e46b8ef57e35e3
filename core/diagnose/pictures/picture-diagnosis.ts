/** What a family of problems finds in a picture by itself, whoever made it: no scene, no sheet. A new one is a file and a line in `registry.ts`. */
import type { Region } from '../../data/picture.ts';
import type { Severity } from '../../contracts/finding.ts';
import type { RenderedWith } from './plan-in-numbers.ts';
import type { Layer } from '../../formats/layers.ts';

export interface PictureToDiagnose {
  width: number;
  height: number;
  planes: Map<string, ArrayLike<number>>;
  layers: Layer[];
  /** The layer that is seen. */
  beauty: Layer;
  /** Its luminance, linear. */
  luminance: Float32Array;
  /** Luminances of light passes that are no part of another one, by layer. */
  passes: Map<string, Float32Array>;
  /** Luminance of the albedo, where there is such a layer. */
  albedo: Float32Array | null;
  /** Standard error of the beauty, where it came along. */
  sigma: ArrayLike<number> | null;
  /** Albedo, normals and depth, where there are such layers: passes without noise. */
  guides: Float32Array[];
  /** Luminances of two renders of half the samples, of which the picture is the mean. */
  halves: [Float32Array, Float32Array] | null;
  /** What it was rendered with, where a record says it. */
  renderedWith: RenderedWith | null;
  /** The frames before and after, where they are of the same size: luminances. */
  beside: Float32Array[];
}

export interface PictureRemedy {
  title: string;
  /** A patch cannot be given where nobody knows the settings: what is to be done is told in factors. */
  patch: null;
  predicted: Record<string, number>;
}

export interface PictureFinding {
  family: string;
  cause: string;
  severity: Severity;
  sentence: string;
  where: { region: Region; pixels: number; objects: string[]; passes: string[] };
  evidence: Record<string, unknown>;
  remedies: PictureRemedy[];
}

export interface PictureDiagnosis {
  family: string;
  examine(picture: PictureToDiagnose): PictureFinding[];
}
