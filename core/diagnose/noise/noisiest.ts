import type { Picture, Region } from '../../data/picture.ts';
import { regionOf } from '../regions.ts';

/** Size of a trial's region, as shares of the frame: what a few hundred samples can be afforded on. */
const REGION = { width: 0.15, height: 0.2 };

/** The part of a frame with the most visible noise. @param visible of each pixel, display steps */
export const noisiest = (picture: Picture, visible: Float32Array): Region =>
  regionOf(picture, visible.map((v) => v * v), REGION); // prettier-ignore
