/** Too few samples through glass. */
import { ofDial } from './of-dial.ts';

export const transmissionSamples = ofDial('noise.transmission-samples', 'transmission');
