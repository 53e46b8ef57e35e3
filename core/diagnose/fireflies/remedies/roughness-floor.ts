import { setting, type ProposeCure } from './proposal.ts';

const FLOOR = 0.5;
/** Share of the fireflies that were mirrored after a bounce. */
const OFTEN = 0.1;

/** Reflections after a bounce are blurred. Source: Kaplanyan & Dachsbacher, Path Space Regularization, 2013, in its plainest form. */
export const roughnessFloor: ProposeCure = ({ share, sheet }) =>
  share.mirroredAfter < OFTEN || sheet.roughnessFloor >= FLOOR
    ? null
    : {
        id: 'roughness-floor',
        title: `Blur reflections after a bounce, roughness ${FLOOR} at least`,
        ...setting({ '/roughnessFloor': FLOOR }),
        note: 'Reflected caustics lose their shape; mirrors the camera sees stay sharp.',
      };
