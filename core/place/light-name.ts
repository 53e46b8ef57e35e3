import { objectNames } from '../document/object-names.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import type { ShotDocument } from '../document/schema.ts';

/** What a row of the table of lights is called: a light of the document, the environment, or the object that glows. */
export function lightName({ scene, document }: { scene: CompiledScene; document: ShotDocument }, row: number): string {
  const id = scene.lightIds[row];
  if (id === undefined) return 'no light';
  if (Object.hasOwn(document.lights, id)) return document.lights[id].name || id;
  if (id === 'environment') return 'the environment';
  if (id === 'sun of the sky') return 'the sun of the sky';
  const instance = scene.instanceLight.indexOf(row);
  return instance < 0 ? 'a glowing surface' : objectNames(document)[scene.instanceObject[instance]];
}
