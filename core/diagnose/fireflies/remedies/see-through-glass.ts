import { setting, tellObjects, type ProposeCure } from './proposal.ts';

/** Shadow rays go straight through the glass, tinted, so that lights behind it are aimed at and not found by chance. */
export const seeThroughGlass: ProposeCure = (of) => {
  const closed = of.shells.filter((id) => !of.document.objects[id].seeThroughShadows);
  if (closed.length === 0) return null;
  return {
    id: 'see-through',
    title: `Let light through ${tellObjects(of, closed)} to what it shades`,
    isAimed: true,
    ...setting(Object.fromEntries(closed.map((id) => [`/objects/${id}/seeThroughShadows`, true]))),
    note: 'Light passes straight through: caustics are lost, and so is the darkening where glass refracts light away.',
  };
};
