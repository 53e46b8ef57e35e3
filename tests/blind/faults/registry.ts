/** All faults that are planted; what a cause is called stands in `core/diagnose/catalogue.ts`. A family is a file and a line here. */
import { noiseFaults } from './noise.ts';
import { seamsFaults } from './seams.ts';
import { boundFaults, displacementFaults } from './displacement.ts';
import { texturesFaults } from './textures.ts';
import { firefliesFaults } from './fireflies.ts';
import { limitsFaults } from './limits.ts';
import { surfacesFaults } from './surfaces.ts';
import { darkFaults } from './dark.ts';
import { coarseFaults, shadowsFaults } from './shadows.ts';
import { lightingFaults, poleFaults } from './lighting.ts';
import { scaleFaults } from './scale.ts';
import { glassFaults } from './glass.ts';
import { seenThroughFaults } from './seen-through.ts';
import { bakedFaults, motionFaults } from './motion.ts';
import { occlusionFaults } from './occlusion.ts';
import { oneSidedFaults } from './one-sided.ts';
import type { Fault } from './fault.ts';

export type { Fault };

export const FAULTS: Fault[] = [
  ...noiseFaults,
  ...firefliesFaults,
  ...limitsFaults,
  ...surfacesFaults,
  ...darkFaults,
  ...shadowsFaults,
  ...lightingFaults,
  ...scaleFaults,
  ...motionFaults,
  ...glassFaults,
  ...occlusionFaults,
  ...seenThroughFaults,
  ...displacementFaults,
  ...seamsFaults,
  ...texturesFaults,
  ...boundFaults,
  ...oneSidedFaults,
  ...coarseFaults,
  ...bakedFaults,
  ...poleFaults,
];
