import { STOP, type Check } from '../check.ts';
import { count } from '../tell.ts';

export const uvMissing: Check = {
  id: 'uv-missing',
  group: 'surface',
  title: 'Missing UVs',
  why: 'Without UVs a texture is one texel over the whole object.',
  threshold: STOP,
  run(scene) {
    const lacking = new Map<string, string[]>();
    for (const { objects, material } of scene.worn)
      for (const { node, poly } of objects)
        if (poly.uvs.length === 0) lacking.set(node.path, [...new Set([...(lacking.get(node.path) ?? []), material])]);
    const offenders = [...lacking].map(([object, materials]) => ({
      object,
      detail: `has no UVs for the textures of ${materials.join(', ')}`,
      count: 1,
    }));
    return { expected: 'UVs on what is textured', found: count(offenders, 'object'), offenders };
  },
};
