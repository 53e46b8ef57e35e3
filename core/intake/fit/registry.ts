/** Every limit, in the order in which people read them, and the targets that ship. */
import type { Limit } from './limit.ts';
import { air } from './limits/air.ts';
import { depth } from './limits/depth.ts';
import { dials } from './limits/dials.ts';
import { floors } from './limits/floors.ts';
import { integrator } from './limits/integrator.ts';
import { lightFeatures } from './limits/light-features.ts';
import { lights } from './limits/lights.ts';
import { mapsBaked } from './limits/maps-baked.ts';
import { mapsDropped } from './limits/maps-dropped.ts';
import { memory } from './limits/memory.ts';
import { motion } from './limits/motion.ts';
import { precision } from './limits/precision.ts';
import { sides } from './limits/sides.ts';
import { surfaces } from './limits/surfaces.ts';
import { uvSets } from './limits/uv-sets.ts';
import type { Target } from './target.ts';
import { heronTarget } from './targets/heron.ts';
import { millraceTarget } from './targets/millrace.ts';
import { ploverTarget } from './targets/plover.ts';

export const LIMITS: Limit[] = [
  surfaces,
  mapsDropped,
  mapsBaked,
  uvSets,
  floors,
  sides,
  lights,
  lightFeatures,
  air,
  motion,
  integrator,
  precision,
  depth,
  dials,
  memory,
];

/** Invented renderers, as examples of what a target says. */
export const TARGETS: Target[] = [heronTarget, millraceTarget, ploverTarget];
