/** Noise on the picture as it is, display steps: bright parts, which the shadow boost blows out, show theirs here alone. */
import { plainDisplay } from '../data/grain.ts';
import { noiseFigure } from './noise-figure.ts';

export const brightNoise = noiseFigure({ id: 'bright-noise', label: 'Noise without shadow boost', short: 'noise unboosted', display: plainDisplay, seen: 0.2 }); // prettier-ignore
