/** What stands between camera samples: edges, fine detail, what is mirrored or seen through. */
import { ofDial } from './of-dial.ts';

export const pixelSamples = ofDial('noise.pixel-samples', 'camera');
