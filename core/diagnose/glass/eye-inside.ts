/** A camera that stands in a body of glass: rays begin as in air, so that every way out of it is bent as a way in. */
import { objectNames } from '../../document/object-names.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';

export interface EyeCase extends Case {
  kind: 'eye';
  ids: string[];
  names: string[];
  camera: string;
}

const GLASS = 0.5;

export function eyeCases({ document, scene, sheet, picture }: RenderInput): EyeCase[] {
  const isGlass = (object: number) => {
    const { material, thin, visibility } = document.objects[scene.objectIds[object]];
    return document.materials[material].transmission >= GLASS && !thin && visibility.camera;
  };
  if (!scene.objectIds.some((_, object) => isGlass(object))) return [];
  const [x, y, z] = scene.camera;
  const inside = new LightWalk(scene, document, settingsOf(sheet)).bodiesAt([x, y, z]).filter(isGlass);
  if (inside.length === 0) return [];
  const names = objectNames(document);
  const { width, height } = picture;
  return [
    {
      key: 'glass.eye',
      kind: 'eye',
      severity: 'caution',
      region: {
        x: Math.floor(0.3 * width),
        y: Math.floor(0.3 * height),
        width: Math.ceil(0.4 * width),
        height: Math.ceil(0.4 * height),
      },
      mask: null,
      passes: ['beauty'],
      objects: inside.map((object) => names[object]),
      ids: inside.map((object) => scene.objectIds[object]),
      names: inside.map((object) => names[object]),
      camera: document.cameras[document.camera].name || document.camera,
    },
  ];
}
