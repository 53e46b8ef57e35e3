import type { Intersector } from '../../geometry/intersector.ts';
import type { Surface } from '../../materials/surface.ts';
import type { GroupRandom } from '../film/random.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import type { CompiledScene } from '../scene/scene.ts';
import type { Collector } from './collector.ts';
import type { MediumStack } from './medium-stack.ts';
import type { PathState } from './path-state.ts';
import type { Recorder } from './recorder.ts';
import type { Shading } from './shading.ts';

/** What the parts of an integrator share: made once for it and never replaced, so that each may hold what it reads in its hot loops. */
export class PathContext {
  constructor(
    readonly scene: CompiledScene,
    readonly settings: PathSettings,
    readonly random: GroupRandom,
    readonly rays: Intersector,
    /** The path that is being traced. */
    readonly path: PathState,
    /** Its present hit, and the scattering there. */
    readonly shading: Shading,
    readonly surface: Surface,
    /** Bodies that the present ray runs through. */
    readonly media: MediumStack,
    readonly collector: Collector,
    readonly recorder: Recorder | null,
  ) {}
}
