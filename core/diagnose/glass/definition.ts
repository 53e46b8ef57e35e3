/** Glass: what is seen through it, and why it is not. */
import { ofRenders, type Family, type Words } from '../family.ts';
import { listed, percent } from '../words.ts';
import { blackGlassCases, type BlackGlassCase } from './black-glass.ts';
import { blackFilter } from './causes/black-filter.ts';
import { clearFilter } from './remedies/clear-filter.ts';

export const glass: Family = {
  id: 'glass',
  title: 'Glass',
  healthy: 'No glass filters everything away.',
  isEarly: true,
  render: ofRenders<BlackGlassCase>({
    needs: () => ['beauty', 'object', 'transmission.direct', 'transmission.indirect'],
    cases: blackGlassCases,
    causes: [blackFilter],
    remedies: [clearFilter],
    figure: 'brightness',
    tell,
    evidence: ({ materials }) => [
      { kind: 'swatches', title: 'What each face lets through', swatches: materials.map(({ name, rgb }) => ({ label: name, rgb })) }, // prettier-ignore
    ],
  }),
};

function tell({ objects, materials, through }: BlackGlassCase): Words {
  const names = listed(materials.map(({ name }) => name));
  return {
    sentence: `Black glass: ${listed(objects)} ${objects.length === 1 ? 'lets' : 'let'} ${percent(through)} of the light through.`,
    headline: `The colour of ${names} is black, and it is what each face filters by`,
    why: `Two faces let ${percent(through)} through. Neither limits nor samples change that.`,
  };
}
