import type { Intersector } from '../../geometry/intersector.ts';
import type { Surface } from '../../materials/surface.ts';
import type { GroupRandom } from '../film/random.ts';
import type { CompiledScene, RenderSettings } from '../scene/scene.ts';
import type { Collector } from './collector.ts';
import type { MediumStack } from './medium-stack.ts';
import type { PathState } from './path-state.ts';
import type { Recorder } from './recorder.ts';
import type { Shading } from './shading.ts';

/** What the parts of an integrator share: made once for it and never replaced, so that each may hold what it reads in its hot loops. */
export interface PathContext {
  scene: CompiledScene;
  settings: RenderSettings;
  random: GroupRandom;
  rays: Intersector;
  /** The path that is being traced. */
  path: PathState;
  /** Its present hit, and the scattering there. */
  shading: Shading;
  surface: Surface;
  /** Bodies that the present ray runs through. */
  media: MediumStack;
  collector: Collector;
  recorder: Recorder | null;
}
