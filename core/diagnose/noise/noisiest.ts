/** Where a picture shows most noise, and how much it is: chosen by one half of the pixels, measured by the other. */
import { grainOf, visibleGrain } from '../../data/grain.ts';
import { channel, type Picture, type Region } from '../../data/picture.ts';
import { choosing, measuredIn } from '../../picture/halves.ts';
import { luminancePlane } from '../../picture/measured.ts';
import { regionOf } from '../regions.ts';

/** Size of a trial's region, as shares of the frame: what a few hundred samples can be afforded on. */
const REGION = { width: 0.15, height: 0.2 };

export interface NoisyPlace {
  region: Region;
  /** Of noise there, display steps. */
  steps: number;
  /** Noise of each pixel of the frame, display steps. */
  visible: Float32Array;
}

/** The part of a frame with the most visible noise. @param visible of each pixel, display steps */
export const noisiest = (picture: Picture, visible: Float32Array): Region =>
  regionOf(picture, visible.map((v) => v * v), REGION); // prettier-ignore

/** @param display value, 0–255, of a luminance: with shadows boosted, or as the picture is */
export function noisiestPlace(picture: Picture, display: (y: number) => number): NoisyPlace {
  const planes = [luminancePlane(picture, 'beauty'), channel(picture, 'error.beauty')];
  const visible = planes[0].map((y, i) => visibleGrain(y, planes[1][i], display));
  const region = noisiest(picture, choosing(picture, visible));
  const [ys, sigmas] = measuredIn(picture, region, ...planes);
  return { region, steps: grainOf(ys, sigmas, 1, display), visible };
}
