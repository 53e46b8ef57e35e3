import { EMITTER_STRIDE } from '../../lights/mesh-light.ts';
import type { LightSampler } from '../../lights/light-sampler.ts';
import { IS_BACK_ONLY, IS_FRONT_ONLY, type CompiledScene } from '../scene/scene.ts';
import type { Shading } from './shading.ts';

/** Radiance of the emitting triangle that the sampler aimed at, into the sampler; false when its shining side looks away. */
export function aimedGlow(scene: CompiledScene, sampler: LightSampler, shading: Shading): boolean {
  const { emitters, instanceFlags } = scene;
  const row = sampler.emitter;
  const instance = emitters.instance[row];
  const flags = instanceFlags[instance];
  if ((flags & (IS_FRONT_ONLY | IS_BACK_ONLY)) !== 0) {
    const front = sampler.emitterCosine(row * EMITTER_STRIDE) > 0;
    if (front === ((flags & IS_BACK_ONLY) !== 0)) return false;
  }
  const { rows } = emitters;
  const e = row * EMITTER_STRIDE;
  const { u, v } = sampler;
  shading.emission(
    instance,
    emitters.triangle[row],
    u,
    v,
    rows[e] + u * rows[e + 3] + v * rows[e + 6],
    rows[e + 1] + u * rows[e + 4] + v * rows[e + 7],
    rows[e + 2] + u * rows[e + 5] + v * rows[e + 8],
  );
  sampler.radiance.set(shading.emitted);
  return true;
}
