import { objectNames } from '../document/object-names.ts';
import type { RenderInput } from './family.ts';

/** What a row of the table of lights is called: a light of the document, the environment, or the object that glows. */
export function lightName({ scene, document }: Pick<RenderInput, 'scene' | 'document'>, row: number): string {
  const id = scene.lightIds[row];
  if (id === undefined) return 'no light';
  if (Object.hasOwn(document.lights, id)) return document.lights[id].name || id;
  if (id === 'environment') return 'the environment';
  const instance = scene.instanceLight.indexOf(row);
  return instance < 0 ? 'a glowing surface' : objectNames(document)[scene.instanceObject[instance]];
}
