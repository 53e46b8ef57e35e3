import { boxOf, furthest, worldTriangles } from '../../../geometry/instance-places.ts';
import type { FireflyCase, Glow } from '../case.ts';
import { setting, tellObjects, type ProposeCure } from './proposal.ts';
import { radianceOf, standInLights } from './stand-in-lights.ts';

/** Reach of a table lamp where nothing is around it, metres, and its bounces: common practice. */
const LAMP = 0.13;
const BOUNCES = 2;

/** An emitting surface lights only what is near it; fill lights without the glass give back what it lit further on. */
export const limitedReach: ProposeCure = (of) => {
  const { document, shells } = of;
  const values: Record<string, unknown> = {};
  const objects: string[] = [];
  let told = LAMP;
  for (const glow of of.glows) {
    const radiance = radianceOf(document, glow);
    if (!radiance || glow.spheres.length === 0) continue;
    const distance = Number((glow.shellReach ?? LAMP).toPrecision(2));
    const at = glow.light === null ? `/materials/${glow.material}` : `/lights/${glow.light}`;
    const near = within(of, glow, distance);
    const far = { mode: 'except' as const, objects: near };
    Object.assign(values, { [`${at}/reach/distance`]: distance, [`${at}/reach/bounces`]: BOUNCES });
    Object.assign(values, standInLights(document, glow, radiance, 'fill', [...glow.objects, ...shells], far));
    objects.push(...glow.objects);
    told = distance;
  }
  if (objects.length === 0) return null;
  return {
    id: 'limited-reach',
    title: `End the light of ${tellObjects(of, objects)} after ${told} m and ${BOUNCES} bounces, with fill light beyond`,
    isAimed: true,
    ...setting(values),
  };
};

/** Objects that lie within the reach altogether: the fill is not for them. */
function within({ scene }: FireflyCase, glow: Glow, distance: number): string[] {
  const [{ centre }] = glow.spheres;
  const out = new Set<string>(glow.objects);
  const beyond = new Set<string>();
  scene.instanceObject.forEach((object, instance) => {
    const box = boxOf(worldTriangles(scene.geometry, instance));
    (furthest(box, centre) <= distance ? out : beyond).add(scene.objectIds[object]);
  });
  return [...out].filter((id) => !beyond.has(id)).sort();
}
