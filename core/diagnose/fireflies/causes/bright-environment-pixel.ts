/** A few texels of the environment are far brighter than the rest. */
import { byShare } from './by-share.ts';

export const brightEnvironmentPixel = byShare('fireflies.bright-environment-pixel');
