/** Normals: surfaces that are shaded by other directions than they should be. */
import { ofRenders, type Family, type Words } from '../family.ts';
import { MIRROR_PASSES } from '../mirrors.ts';
import { listed, percent } from '../words.ts';
import { casesOf, type FacetCase } from './case.ts';
import { faceted } from './causes/faceted.ts';
import { smoothNormals } from './remedies/smooth-normals.ts';

export const normals: Family = {
  id: 'normals',
  title: 'Normals',
  healthy: 'No faceted reflections.',
  isEarly: true,
  render: ofRenders<FacetCase>({
    needs: () => ['beauty', 'error.beauty', ...MIRROR_PASSES],
    cases: casesOf,
    causes: [faceted],
    remedies: [smoothNormals],
    tell,
    evidence: ({ same, turned }) => [
      {
        kind: 'shares',
        title: 'Normals of neighbouring pixels',
        bars: [{ label: 'pairs', parts: [{ label: 'the same', share: same }, { label: 'a little turned', share: turned }, { label: 'further', share: Math.max(0, 1 - same - turned) }] }], // prettier-ignore
      },
    ],
  }),
};

function tell({ objects, flat, coarse, same }: FacetCase): Words {
  const why = [
    `${percent(same)} of neighbouring pixels have one normal, and others are turned a little, as no curved surface is: each facet mirrors by itself.`,
    flat.length ? 'The mesh has smooth normals, which are not used.' : '',
    coarse.length ? `${listed(coarse)} ${coarse.length === 1 ? 'has' : 'have'} no smoother normals in the mesh: it has to come finer, or with normals.` : '', // prettier-ignore
    'More samples would only make the edges cleaner.',
  ];
  return {
    sentence: `Reflections of ${listed(objects)} are faceted.`,
    headline: `Facets, and not too few samples, break the edges that ${listed(objects)} ${objects.length === 1 ? 'mirrors' : 'mirror'}`,
    why: why.filter(Boolean).join(' '),
  };
}
