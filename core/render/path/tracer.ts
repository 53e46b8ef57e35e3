/** Ways into the path tracer. */
import { BvhIntersector } from '../../geometry/intersector.ts';
import { pathSettings } from '../scene/path-settings.ts';
import type { GroupTracer } from '../scene/scene-kernel.ts';
import type { CompiledScene, RenderSettings } from '../scene/scene.ts';
import { Integrator } from './integrator.ts';
import type { Recorder } from './recorder.ts';

/**
 * The kernel's tracer where a host lent one, or else its TypeScript twin: both give the same bits. It serves until the
 * scene is asked for another.
 *
 * @example
 * const tracer = tracerOf(scene, settingsOf(sheet));
 * tracer.group(48, 32, 0);
 * use(tracer.sums);
 */
export function tracerOf(scene: CompiledScene, settings: RenderSettings): GroupTracer {
  return scene.kernel?.tracer(pathSettings(settings, scene.layout)) ?? twinOf(scene, settings, null);
}

/** The twin, which tells a recorder what happens on its paths. */
export const recordedTracer = (scene: CompiledScene, settings: RenderSettings, recorder: Recorder): Integrator =>
  twinOf(scene, settings, recorder);

function twinOf(scene: CompiledScene, settings: RenderSettings, recorder: Recorder | null): Integrator {
  const rays = scene.kernel?.rays ?? new BvhIntersector(scene.geometry);
  return new Integrator(scene, pathSettings(settings, scene.layout), rays, recorder);
}
