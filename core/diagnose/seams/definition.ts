/**
 * Seams that stand open: the two sides of a border of UV islands, of split normals, or of objects that meet, moved apart by a
 * displacement map. Reasons are told by elimination: each is left out, and what it closes is measured.
 */
import type { Evidence } from '../../contracts/finding.ts';
import { tellAmount } from '../../figures/effect.ts';
import { SEEN } from '../../seams/gaps.ts';
import type { CauseId } from '../catalogue.ts';
import { ofRenders, type Explained, type Family } from '../family.ts';
import { capital, listed, percent, plural } from '../words.ts';
import { seamCases, type SeamCase } from './case.ts';
import { causes } from './causes.ts';
import { linesOnTexture, widest } from './evidence.ts';
import { joinNormals } from './remedies/join-normals.ts';
import { newTextures } from './remedies/new-textures.ts';
import { setValues } from './remedies/set-values.ts';
import { imagesOf } from './way.ts';
import { paddingNeeded } from './ways/no-padding.ts';
import { lackingOf } from './ways/tile-missing.ts';

export const seams: Family = {
  id: 'seams',
  title: 'Seams',
  healthy: 'Displaced surfaces are closed along their seams.',
  isEarly: true,
  render: ofRenders<SeamCase>({
    needs: () => ['beauty', 'error.beauty', 'object'],
    cases: seamCases,
    causes,
    remedies: [setValues, newTextures, joinNormals],
    figure: 'gap-pixels',
    tell: (of, explained) => ({
      sentence: `${capital(listed(of.objects))}: seams are open by up to ${tellAmount('metres', of.gaps.greatest)}, ${tellAmount('pixels', of.gaps.greatestPixels)}${inLargest(of)}.`,
      headline: HEADLINES[explained[0].id](of),
      why: why(of, explained),
    }),
    evidence: (of): Evidence[] => [
      { kind: 'table', title: 'What closes the gaps', columns: ['removed', 'closed', 'widest remaining'], rows: of.closed.map(({ causes: of, share, left }) => [of.map((id) => LEFT_OUT[id]).join(', and '), percent(share), tellAmount('pixels', left)]) },
      ...linesOnTexture(of),
      widest(of),
    ],
    measured: ({ gaps }) => ({ greatest: gaps.greatest, greatestPixels: gaps.greatestPixels, area: gaps.area, length: gaps.length, open: gaps.length > 0 ? gaps.open / gaps.length : 0 }),
  }),
}; // prettier-ignore

/** Each reason in words, of a table. */
const LEFT_OUT: Record<string, string> = {
  'seams.uv-rule': 'smoothing of island borders',
  'seams.no-padding': 'background beyond islands',
  'seams.tile-missing': 'the missing tile',
  'seams.tile-edge': 'wrapping at the edge',
  'seams.sides-differ': 'differences between the sides',
  'seams.filter-across': 'filtering over several texels',
  'seams.split-normals': 'split normals',
  'seams.scale-differs': 'different scales',
};

const HEADLINES: Record<string, (of: SeamCase) => string> = {
  'seams.uv-rule': () => 'UVs at island borders are smoothed away from where the map was baked',
  'seams.no-padding': (of) => `Islands have no padding: ${plural(paddingOf(of), 'texel')} around them ${paddingOf(of) === 1 ? 'is' : 'are'} read`,
  'seams.tile-missing': (of) => `Tile ${listed(tilesOf(of).map(String))} is missing`,
  'seams.tile-edge': () => 'An island reaches the edge of its image, where the filter wraps to the opposite edge',
  'seams.sides-differ': () => 'The map has different values on the two sides of its seams',
  'seams.filter-across': () => 'The map is filtered across island borders',
  'seams.split-normals': () => 'Normals are split at edges, so each side is displaced in its own direction',
  'seams.scale-differs': (of) => `${capital(listed(of.objects))} are displaced by different amounts where they meet`,
}; // prettier-ignore

const paddingOf = (of: SeamCase): number => Math.max(...imagesOf(of.input).map(({ texture }) => paddingNeeded(of.input, texture))); // prettier-ignore
const tilesOf = (of: SeamCase): number[] => imagesOf(of.input).flatMap(({ texture }) => lackingOf(of.input, texture));

/** A preview shows less of a crack than the final. */
const inLargest = ({ gaps, seen }: SeamCase): string => seen < SEEN ? `, ${tellAmount('pixels', (gaps.greatestPixels * SEEN) / seen)} in the largest sheet` : ''; // prettier-ignore

function why({ gaps, closed, seen }: SeamCase, [{ id }]: Explained): string {
  const { length, open } = gaps;
  const own = closed.find(({ causes: of }) => of.length === 1 && of[0] === id);
  const pair = closed.find(({ causes: of, share }) => of.length === 2 && share > (own?.share ?? 0) + 0.05);
  const left = (of: readonly CauseId[]) => of.map((one) => LEFT_OUT[one]).join(' and ');
  return [
    `Of ${tellAmount('metres', length)} of seam ${percent(length > 0 ? open / length : 0)} are open by more than half a pixel${seen < SEEN ? ' of the largest sheet' : ''}.`,
    own ? `Without ${left([id as CauseId])} ${percent(own.share)} of the gaps close.` : '',
    pair ? `Without ${left(pair.causes)} it is ${percent(pair.share)}.` : '',
  ].filter(Boolean).join(' ');
} // prettier-ignore
