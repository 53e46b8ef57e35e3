import { adaptiveCeiling } from './adaptive-ceiling.ts';
import { clamps } from './clamp.ts';
import { equivalentLight } from './equivalent-light.ts';
import { hideLight } from './hide-light.ts';
import { hideShell } from './hide-shell.ts';
import { holdOut } from './hold-out.ts';
import { limitedReach } from './limited-reach.ts';
import { linkShell } from './link-shell.ts';
import type { ProposeCure } from './proposal.ts';
import { roughnessFloor } from './roughness-floor.ts';
import { sampleEmitter } from './sample-emitter.ts';
import { seeThroughGlass } from './see-through-glass.ts';

/** All remedies. */
export const remedies: ProposeCure[] = [
  sampleEmitter,
  seeThroughGlass,
  hideShell,
  equivalentLight,
  limitedReach,
  linkShell,
  hideLight,
  roughnessFloor,
  adaptiveCeiling,
  clamps,
  holdOut,
];
