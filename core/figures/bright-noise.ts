/** Noise on the picture as it is, display steps: bright parts, which the shadow lift blows out, show theirs here alone. */
import { plainDisplay } from '../data/grain.ts';
import { noiseFigure } from './noise-figure.ts';

export const brightNoise = noiseFigure({ id: 'bright-noise', label: 'Noise without the lift', short: 'noise without lift', display: plainDisplay, seen: 0.2 }); // prettier-ignore
