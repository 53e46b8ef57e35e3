import { invert } from '../data/transform.ts';
import { showValue, type Problem } from './problem.ts';
import type { LinkSpec, ShotDocument } from './schema.ts';

/** Adds a problem for each id that stands for nothing and each transform that cannot be inverted. */
export function checkReferences(document: ShotDocument, problems: Problem[]): void {
  const refer = (path: string, id: string | null, map: Record<string, unknown>, kind: string) => {
    if (id !== null && !Object.hasOwn(map, id))
      problems.push({
        path,
        value: showValue(id),
        expected: `the id of ${kind === 'object' ? 'an' : 'a'} ${kind} in this document`,
      });
  };
  const place = (path: string, transform: number[]) => {
    try {
      invert(transform);
    } catch {
      problems.push({ path, value: showValue(transform), expected: 'a transform that does not flatten space' });
    }
    if (transform[3] !== 0 || transform[7] !== 0 || transform[11] !== 0 || transform[15] !== 1)
      problems.push({ path, value: showValue(transform), expected: 'a last row of 0, 0, 0, 1' });
  };
  const link = (path: string, { objects }: Pick<LinkSpec, 'objects'>) =>
    objects.forEach((id, i) => refer(`${path}/objects/${i}`, id, document.objects, 'object'));

  refer('/camera', document.camera, document.cameras, 'camera');
  for (const [id, camera] of Object.entries(document.cameras)) place(`/cameras/${id}/transform`, camera.transform);
  for (const [id, light] of Object.entries(document.lights)) {
    place(`/lights/${id}/transform`, light.transform);
    link(`/lights/${id}/lights`, light.lights);
    link(`/lights/${id}/shadowsOf`, light.shadowsOf);
    if (light.kind === 'mesh') refer(`/lights/${id}/object`, light.object, document.objects, 'object');
  }
  for (const [id, group] of Object.entries(document.groups)) link(`/groups/${id}`, group);
  link('/environment/lights', document.environment.lights);
  link('/environment/shadowsOf', document.environment.shadowsOf);
  refer('/environment/texture', document.environment.texture, document.textures, 'texture');
  if (document.background) refer('/background/texture', document.background.texture, document.textures, 'texture');
  for (const [id, map] of Object.entries(document.maps))
    if (map.kind === 'image') refer(`/maps/${id}/texture`, map.texture, document.textures, 'texture');
  for (const [id, material] of Object.entries(document.materials)) {
    for (const slot of MAP_SLOTS) refer(`/materials/${id}/${slot}`, material[slot], document.maps, 'map');
    refer(`/materials/${id}/coat`, material.coat, document.coats, 'coat');
  }
  for (const [id, object] of Object.entries(document.objects)) {
    refer(`/objects/${id}/mesh`, object.mesh, document.meshes, 'mesh');
    refer(`/objects/${id}/material`, object.material, document.materials, 'material');
    place(`/objects/${id}/transform`, object.transform);
    object.keys.forEach((key, i) => {
      place(`/objects/${id}/keys/${i}/transform`, key.transform);
      refer(`/objects/${id}/keys/${i}/mesh`, key.mesh, document.meshes, 'mesh');
    });
  }
}

/** The keys of a material that name a map. */
export const MAP_SLOTS = [
  'baseColourMap',
  'metallicMap',
  'roughnessMap',
  'normalMap',
  'bumpMap',
  'displacementMap',
  'alphaMap',
  'emissionMap',
] as const;
