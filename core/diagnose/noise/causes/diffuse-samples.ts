/** Too few diffuse samples at the first hit. */
import { ofDial } from './of-dial.ts';

export const diffuseSamples = ofDial('noise.diffuse-samples', 'diffuse');
