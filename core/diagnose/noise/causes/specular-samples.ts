/** Too few reflection samples: blurred reflections. */
import { ofDial } from './of-dial.ts';

export const specularSamples = ofDial('noise.specular-samples', 'specular');
