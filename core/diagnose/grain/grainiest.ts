import type { Picture, Region } from '../../data/picture.ts';
import { strongestWindow } from '../../picture/measured.ts';

/** Size of a trial's region, as shares of the frame: what a few hundred samples can be afforded on. */
const REGION = { width: 0.15, height: 0.2 };

/** The part of a frame with the most visible grain. @param visible of each pixel, display steps */
export function grainiest(picture: Picture, visible: Float32Array): Region {
  return strongestWindow(
    picture,
    visible.map((v) => v * v),
    Math.ceil(picture.width * REGION.width),
    Math.ceil(picture.height * REGION.height),
  );
}
