import { setting, tellObjects, type ProposeCure } from './proposal.ts';

/** The glass around a lamp is left out of its shadows by linking, and its light is not looked for through glass. */
export const linkShell: ProposeCure = (of) => {
  const { document, shells } = of;
  const values: Record<string, unknown> = {};
  const lamps: string[] = [];
  if (shells.length === 0) return null;
  for (const { light } of of.glows) {
    if (light === null) continue;
    const { shadowsOf, visibility, kind, name } = document.lights[light];
    // A mesh that is seen through the glass would vanish.
    if (kind === 'mesh' || shadowsOf.mode === 'only') continue;
    const objects = [...new Set([...shadowsOf.objects, ...shells])].sort();
    if (shadowsOf.mode === 'except' && objects.length === shadowsOf.objects.length) continue;
    values[`/lights/${light}/shadowsOf`] = { mode: 'except', objects };
    if (visibility.transmission) values[`/lights/${light}/visibility/transmission`] = false;
    lamps.push(name || light);
  }
  if (lamps.length === 0) return null;
  return {
    id: 'link-shell',
    title: `Leave ${tellObjects(of, shells)} out of the shadows of ${lamps.join(' and ')}`,
    isAimed: true,
    ...setting(values),
  };
};
