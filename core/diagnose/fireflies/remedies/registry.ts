import { adaptiveCeiling } from './adaptive-ceiling.ts';
import { equivalentLight } from './equivalent-light.ts';
import { hideLight } from './hide-light.ts';
import { hideShell } from './hide-shell.ts';
import { limitedReach } from './limited-reach.ts';
import { linkShell } from './link-shell.ts';
import type { Propose } from './proposal.ts';
import { roughnessFloor } from './roughness-floor.ts';
import { seeThroughGlass } from './see-through-glass.ts';

/** All remedies but the clamp, whose number is read off the film. */
export const proposers: Propose[] = [
  seeThroughGlass,
  hideShell,
  equivalentLight,
  limitedReach,
  linkShell,
  hideLight,
  roughnessFloor,
  adaptiveCeiling,
];
