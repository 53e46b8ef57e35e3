import type { ShotDocument } from '../../document/schema.ts';
import type { CompiledScene } from '../../render/scene/scene.ts';

/** Pointer of the controls of a row of lights; null where none are its own, as of surfaces that glow. */
export function pointerOfLight(
  { document, scene }: { document: ShotDocument; scene: CompiledScene },
  row: number,
): string | null {
  const id = scene.lightIds[row];
  if (Object.hasOwn(document.lights, id)) return `/lights/${id}`;
  return id === 'environment' || id === 'sun of the sky' ? '/environment' : null;
}
