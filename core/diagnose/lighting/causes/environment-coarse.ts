/** The environment has fewer texels than the frame has pixels, where it is mirrored. */
import type { Cause } from '../../family.ts';
import type { CoarseCase } from '../environment.ts';

export const environmentCoarse: Cause<CoarseCase> = { id: 'lighting.environment-coarse', share: () => 1 };
