import { setting, tellObjects, type ProposeCure } from './proposal.ts';

const KINDS = ['shadow', 'diffuse', 'specular'] as const;

/** Glass around a lamp that only the camera sees: other rays go on as if it were not there. */
export const hideShell: ProposeCure = (of) => {
  const values: Record<string, boolean> = {};
  for (const id of of.shells)
    for (const kind of KINDS)
      if (of.document.objects[id].visibility[kind]) values[`/objects/${id}/visibility/${kind}`] = false;
  if (Object.keys(values).length === 0) return null;
  return {
    id: 'hide-shell',
    title: `Hide ${tellObjects(of, of.shells)} from shadow and reflection rays; the camera sees it`,
    isAimed: true,
    ...setting(values),
    note: 'It is missing from reflections, casts no shadow, and no longer tints light.',
  };
};
