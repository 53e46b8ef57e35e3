/** All families, in the order their findings stand for equal severity. A new one is a folder and a line here. */
import { figurePasses } from '../figures/registry.ts';
import type { FilmLayout } from '../render/film/passes.ts';
import { CAUSE_IDS, type FamilyId } from './catalogue.ts';
import type { Family } from './family.ts';
import { denoising } from './denoising/definition.ts';
import { displacement } from './displacement/definition.ts';
import { fireflies } from './fireflies/definition.ts';
import { glass } from './glass/definition.ts';
import { lighting } from './lighting/definition.ts';
import { limits } from './limits/definition.ts';
import { motion } from './motion/definition.ts';
import { noise } from './noise/definition.ts';
import { normals } from './normals/definition.ts';
import { occlusion } from './occlusion/definition.ts';
import { scale } from './scale/definition.ts';
import { seams } from './seams/definition.ts';
import { shadows } from './shadows/definition.ts';
import { textures } from './textures/definition.ts';

export const FAMILIES: readonly Family[] = checked([
  glass,
  limits,
  scale,
  lighting,
  motion,
  displacement,
  seams,
  shadows,
  occlusion,
  fireflies,
  textures,
  normals,
  noise,
  denoising,
]);

/** Families whose evidence suffices while a render is still noisy, by id. */
export const EARLY_FAMILIES: readonly FamilyId[] = FAMILIES.filter(({ isEarly }) => isEarly).map(({ id }) => id);

/** Every pass of a render that one of them looks at; those of figures are known to all, shadow passes of lights and occlusion among them. */
export const neededPasses = (layout: FilmLayout, families: readonly Family[] = FAMILIES): string[] => [
  ...new Set([...figurePasses(layout), ...families.flatMap(({ render }) => render?.needs?.(layout) ?? [])]),
];

/** @throws Error naming what is wrong with a family: an id twice, a cause that the catalogue lacks */
export function checked(families: Family[]): Family[] {
  const ids = new Set<string>();
  for (const { id, render, picture } of families) {
    if (ids.has(id)) throw new Error(`there are two families "${id}"`);
    ids.add(id);
    for (const cause of [...(render?.causes ?? []), ...(picture?.causes ?? [])])
      if (!CAUSE_IDS.has(cause.id)) throw new Error(`family "${id}" has the cause "${cause.id}", which is not in the catalogue`); // prettier-ignore
  }
  return families;
}
