/** There is so much noise that what is left of it is seen. */
import type { Cause } from '../../family.ts';
import { STAYS, type DenoisedCase } from '../denoised.ts';

export const tooMuchNoise: Cause<DenoisedCase> = {
  id: 'denoising.too-much-noise',
  share: ({ still, fireflyLeft }) => (!still && (fireflyLeft === null || fireflyLeft < STAYS) ? 1 : null),
};
