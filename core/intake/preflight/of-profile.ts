/** Settings that the show's profile names, for a final sheet that lost its own. */
import type { PreflightRepair } from '../../contracts/intake.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { Profile } from './profile.ts';
import { setValues } from '../repairs/offer.ts';

/** @param only one dial; all by default */
export function ofProfile(
  document: ShotDocument | null,
  { name, settings }: Profile,
  only?: string,
): PreflightRepair | null {
  const values = Object.entries(settings)
    .filter(([pointer]) => only === undefined || pointer === only)
    .map(([pointer, value]) => [`/sheets/final${pointer}`, value]);
  return setValues(
    `Take ${only ? 'that' : 'the settings'} of “${name}”`,
    document,
    Object.fromEntries(values) as Record<string, unknown>,
  );
}
