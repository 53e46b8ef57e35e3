/** Textures: images that are filtered, read, cut out or sized as they should not be. Each fault is a file in `faults`. */
import type { Cause, Family } from '../family.ts';
import { ofRenders } from '../family.ts';
import { STEP_PASSES } from '../texel-steps.ts';
import { FAULTS, textureCases, type TextureCase } from './case.ts';

export const textures: Family = {
  id: 'textures',
  title: 'Textures',
  healthy: 'Images are read in the right colour space, and are as large as they appear.',
  isEarly: true,
  render: ofRenders<TextureCase>({
    needs: () => ['beauty', 'error.beauty', 'emission', 'position', ...STEP_PASSES],
    cases: textureCases,
    causes: FAULTS.map(({ cause }): Cause<TextureCase> => ({ id: cause, isIndependent: true, share: (of) => (of.cause === cause ? 1 : null) })),
    remedies: [({ told }) => told.proposals],
    tell: ({ told }) => told.words,
    evidence: ({ told }) => told.evidence ?? [],
    measured: ({ told }) => told.measured ?? {},
  }),
}; // prettier-ignore
