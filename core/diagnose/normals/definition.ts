/** Normals: surfaces that are shaded by other directions than they should be, or turn the side away that is there. */
import { changeOf } from '../../figures/effect.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import { MIRROR_PASSES } from '../mirrors.ts';
import { capital, listed, percent } from '../words.ts';
import type { AgainstCase } from './against.ts';
import { normalsCases, type FacetCase, type NormalsCase } from './case.ts';
import { againstFaces } from './causes/against-faces.ts';
import { faceted } from './causes/faceted.ts';
import { turned } from './causes/turned.ts';
import type { TurnedCase } from './facing.ts';
import { bothSides } from './remedies/both-sides.ts';
import { mendNormals } from './remedies/mend-normals.ts';
import { smoothNormals } from './remedies/smooth-normals.ts';

export const normals: Family = {
  id: 'normals',
  title: 'Normals',
  healthy: 'Faces point at the camera, normals agree with their faces, and no reflections are faceted.',
  isEarly: true,
  render: ofRenders<NormalsCase>({
    needs: () => ['beauty', 'error.beauty', ...MIRROR_PASSES],
    cases: normalsCases,
    causes: [...turned, againstFaces, faceted],
    remedies: [bothSides, mendNormals, smoothNormals],
    figure: 'brightness',
    goesWith: (effect) => Math.min(1, Math.abs(changeOf(effect, 'brightness') ?? 0)),
    tell,
    evidence: (of) =>
      of.kind === 'facets'
        ? [
            {
              kind: 'shares',
              title: 'Normals of neighbouring pixels',
              bars: [{ label: 'pairs', parts: [{ label: 'the same', share: of.same }, { label: 'slightly turned', share: of.turned }, { label: 'further', share: Math.max(0, 1 - of.same - of.turned) }] }], // prettier-ignore
            },
          ]
        : [],
  }),
};

function tell(of: NormalsCase): Words {
  switch (of.kind) {
    case 'facets':
      return tellFacets(of);
    case 'turned':
      return tellTurned(of);
    case 'against':
      return tellAgainst(of);
  }
}

function tellAgainst({ name, isInsideOut, degrees, share }: AgainstCase): Words {
  return {
    sentence: `${capital(name)} is shaded ${degrees.toFixed(0)}° off on ${+(100 * share).toPrecision(2)} % of the picture: normals and faces point opposite ways.`,
    headline: isInsideOut ? `${capital(name)} is turned inside out; its normals are not` : `Normals of ${name} look away from their faces`,
    why: 'A smooth normal on the back of its face can’t be shaded: where all corners have one the facets show, and between corners that disagree light leaks from one side to the other. Samples don’t change that.',
  };
} // prettier-ignore

function tellTurned({ document, id, name, why, mixedEdges, share }: TurnedCase): Words {
  const side = document.objects[id].facing === 'front' ? 'fronts' : 'backs';
  const [headline, reason] = {
    'inside-out': [`${capital(name)} is turned inside out`, 'It is closed, and its faces point inwards: its far walls are seen from inside.'],
    mixed: [`Faces of ${name} point both ways`, `${mixedEdges.toLocaleString('en')} of its edges are between faces that point opposite ways: those that point away are holes.`],
    'one-sided': [`${capital(name)} is open, and seen from its culled side`, 'An open surface has two sides; light and reflections miss the culled one, as the camera does.'],
  }[why]; // prettier-ignore
  return {
    sentence: `${capital(name)} is missing from ${+(100 * share).toPrecision(2)} % of the picture: only the ${side} of its faces exist, and they point away.`,
    headline,
    why: reason,
  };
}

function tellFacets({ objects, flat, coarse, same }: FacetCase): Words {
  const why = [
    `${percent(same)} of neighbouring pixels share a normal and others differ slightly, as on no curved surface: each facet reflects on its own.`,
    flat.length ? 'The mesh has smooth normals, but they are not used.' : '',
    coarse.length ? `${listed(coarse)} ${coarse.length === 1 ? 'has' : 'have'} no smoother normals in the mesh: it has to be finer, or come with normals.` : '', // prettier-ignore
    'More samples would only make the edges cleaner.',
  ];
  return {
    sentence: `Reflections of ${listed(objects)} are faceted.`,
    headline: `Facets, not too few samples, break the edges that ${listed(objects)} ${objects.length === 1 ? 'mirrors' : 'mirror'}`,
    why: why.filter(Boolean).join(' '),
  };
}
