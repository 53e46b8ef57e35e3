import { SMALL } from '../case.ts';
import type { ProposeCure } from './proposal.ts';
import { setting, tellObjects } from './proposal.ts';
import { radianceOf, standInLights } from './stand-in-lights.ts';

/** A small emitting mesh is only seen; a sampled light of the same power, size and place lights instead. */
export const equivalentLight: ProposeCure = (of) => {
  const { document, shells } = of;
  const values: Record<string, unknown> = {};
  const replaced: string[] = [];
  let count = 0;
  for (const glow of of.glows) {
    const radiance = radianceOf(document, glow);
    if (!radiance || glow.material === null || glow.spheres.length === 0 || glow.size > SMALL) continue;
    const lights = standInLights(document, glow, radiance, 'light', [...glow.objects, ...shells]);
    Object.assign(values, lights, { [`/materials/${glow.material}/sampledAsLight`]: false });
    count += Object.keys(lights).length;
    for (const id of glow.objects)
      for (const kind of ['diffuse', 'specular'] as const) values[`/objects/${id}/visibility/${kind}`] = false;
    replaced.push(...glow.objects);
  }
  if (replaced.length === 0) return null;
  // What bounces must not find the mesh through the glass around it, or its light would be there twice.
  for (const id of shells)
    for (const kind of ['diffuse', 'specular'] as const) values[`/objects/${id}/visibility/${kind}`] = false;
  const shape = count === 1 ? 'a light of its power, size and place' : `${count} lights along it of the same power`;
  return {
    id: 'equivalent-light',
    title: `Put ${shape} for ${tellObjects(of, replaced)}; the mesh is only seen`,
    isAimed: true,
    ...setting(values),
    note: shells.length ? `Its light passes through ${tellObjects(of, shells)} unattenuated.` : undefined,
  };
};
