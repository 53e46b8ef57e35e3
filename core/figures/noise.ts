/** Visible noise: how far it moves pixels on the display with shadows boosted, display steps of 255. See `data/grain.ts`. */
import { boostedDisplay } from '../data/grain.ts';
import { noiseFigure } from './noise-figure.ts';

export const noise = noiseFigure({ id: 'noise', label: 'Noise, shadows boosted', short: 'noise', display: boostedDisplay, seen: 0.05, always: true }); // prettier-ignore
