/** New textures beside the old ones: padded, with tiles that were missing, or with both sides of seams made to match. */
import type { SeamMend } from '../../../contracts/intake.ts';
import type { CauseId } from '../../catalogue.ts';
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import { CLOSED, type SeamCase } from '../case.ts';
import { imagesOf, mended } from '../way.ts';
import { paddingNeeded } from '../ways/no-padding.ts';
import { lackingOf } from '../ways/tile-missing.ts';

const LEAST = 0.05;
/** Share of the gaps that a new texture must close before it is offered. */
const HALF = 0.5;

export const newTextures: Propose<SeamCase> = (of) => {
  const isWorth = (cause: CauseId) => (of.shares.get(cause) ?? 0) >= LEAST;
  const own = imagesOf(of.input).filter(({ texture }) => Object.hasOwn(of.input.state.document.textures, texture));
  const lacking = own.flatMap(({ texture }) => lackingOf(of.input, texture));
  const padding = Math.max(0, ...own.map(({ texture }) => paddingNeeded(of.input, texture)));
  const names = listed(own.map(({ texture }) => texture));
  const isWhole = of.closed.some(({ causes, share }) => share >= CLOSED && !causes.includes('seams.sides-differ'));
  const mends = of.closed.some(({ causes: [cause], share }) => cause === 'seams.sides-differ' && share >= HALF);
  return [
    ...(isWorth('seams.tile-missing') ? [made(of, 'fill tiles', own, `Make tile ${listed(lacking.map(String))} of ${names} from its neighbours`, 'A placeholder that closes the surface: the right tile still has to be exported.')] : []),
    ...(isWorth('seams.no-padding') || isWorth('seams.filter-across') ? [made(of, 'pad', own, `Pad the islands of ${names} by ${padding} texels`, 'Padding continues what is across the seam.')] : []),
    ...(mends && (isWorth('seams.sides-differ') || !isWhole) ? [made(of, 'match', own, `Make both sides of the seams of ${names} match`, 'Both sides meet halfway, blended over eight texels.')] : []),
  ].flat(); // prettier-ignore
};

function made(of: SeamCase, how: SeamMend, images: ReturnType<typeof imagesOf>, title: string, note: string): Proposal[] {
  const { input } = of;
  const own = images.filter(({ texture }) => how !== 'fill tiles' || lackingOf(input, texture).length > 0);
  if (own.length === 0) return [];
  const textures = Object.fromEntries(own.map(({ texture }) => [texture, paddingNeeded(input, texture)]));
  const change = { kind: 'files' as const, patch: [], work: { kind: 'mend seams' as const, how, textures } };
  return [{ id: how.replace(' ', '-'), title, change, files: mended(how, input, textures).assets, note }];
} // prettier-ignore
