/** Too few samples of the fog. */
import { ofDial } from './of-dial.ts';

export const volumeSamples = ofDial('noise.volume-samples', 'volume');
