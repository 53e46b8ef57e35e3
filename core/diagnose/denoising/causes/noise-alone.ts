/** Nothing but noise, and little enough of it. */
import type { Cause } from '../../family.ts';
import type { DenoisedCase } from '../denoised.ts';

export const noiseAlone: Cause<DenoisedCase> = {
  id: 'denoising.noise-alone',
  share: ({ still }) => (still ? 1 : null),
};
