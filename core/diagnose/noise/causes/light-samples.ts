/** Soft shadows: too few samples of each light. */
import { ofDial } from './of-dial.ts';

export const lightSamples = ofDial('noise.light-samples', 'light');
