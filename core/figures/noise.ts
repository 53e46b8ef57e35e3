/** Visible noise: how far it moves pixels on the display after the shadow lift, display steps of 255. See `data/grain.ts`. */
import { liftedDisplay } from '../data/grain.ts';
import { noiseFigure } from './noise-figure.ts';

export const noise = noiseFigure({ id: 'noise', label: 'Noise after the shadow lift', short: 'noise', display: liftedDisplay, seen: 0.05, always: true }); // prettier-ignore
