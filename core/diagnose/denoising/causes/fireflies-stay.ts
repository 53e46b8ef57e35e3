/** A firefly is a light to a denoiser: what stands out far enough stays. */
import type { Cause } from '../../family.ts';
import { STAYS, type DenoisedCase } from '../denoised.ts';

export const fireflies: Cause<DenoisedCase> = {
  id: 'denoising.fireflies-stay',
  share: ({ still, fireflyLeft }) => (!still && fireflyLeft !== null && fireflyLeft >= STAYS ? 1 : null),
};
