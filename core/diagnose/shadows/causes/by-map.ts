/** What about a preview's depth maps makes its shadows wrong; told by the maps alone, whatever lights the shot has. */
import type { Cause } from '../../family.ts';
import type { ShadowCase } from '../case.ts';
import { MAP_CAUSES, shareOfCause, type MapCause } from '../preview.ts';

const CAUSES = [...Object.keys(MAP_CAUSES), 'shadows.distance-too-coarse'] as MapCause[];

export const byMap: readonly Cause<ShadowCase>[] = CAUSES.map((id) => ({
  id,
  isIndependent: true,
  share: (of) => (of.kind === 'preview' && shareOfCause(of, id) > 0 ? shareOfCause(of, id) : null),
}));
