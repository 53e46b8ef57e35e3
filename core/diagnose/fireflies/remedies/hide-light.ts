import type { ProposeCure } from './proposal.ts';
import { setting, tellObjects } from './proposal.ts';

/** Share of the fireflies that must have come so. */
const OFTEN = 0.3;

/** The light is not there for reflection rays, or for those that come out of glass: whichever found most fireflies. */
export const hideLight: ProposeCure = (of) => {
  const { share } = of;
  const kind = share.lastMirrored >= share.lastThrough ? ('specular' as const) : ('transmission' as const);
  if (Math.max(share.lastMirrored, share.lastThrough) < OFTEN) return null;
  const values: Record<string, unknown> = {};
  const named: string[] = [];
  for (const { light, objects } of of.glows) {
    const pointers = light === null ? objects.map((id) => `/objects/${id}`) : [`/lights/${light}`];
    for (const at of pointers) {
      const [, part, id] = at.split('/') as ['', 'objects' | 'lights', string];
      if (!of.document[part][id].visibility[kind]) continue;
      values[`${at}/visibility/${kind}`] = false;
      named.push(part === 'objects' ? tellObjects(of, [id]) : of.document.lights[id].name || id);
    }
  }
  if (named.length === 0) return null;
  return {
    id: `hide-light-${kind}`,
    title: `Hide ${named.slice(0, 2).join(' and ')} from ${kind === 'specular' ? 'reflections' : 'what is seen through glass'}`,
    ...setting(values),
  };
};
