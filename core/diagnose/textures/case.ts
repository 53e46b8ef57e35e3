/** What is wrong with images as they are worn in the picture. */
import type { CauseId } from '../catalogue.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';
import type { TextureFault, Told } from './fault.ts';
import { alphaFringe, premultipliedTwice } from './faults/alpha-edges.ts';
import { alphaLost } from './faults/alpha-lost.ts';
import { bump } from './faults/bump.ts';
import { colourReadAsData, dataReadAsColour } from './faults/colour-space.ts';
import { glow } from './faults/glow.ts';
import { meantSharp } from './faults/meant-sharp.ts';
import { tooLarge, tooSmall } from './faults/size.ts';
import { upsideDown } from './faults/upside-down.ts';
import { mapUses } from './uses.ts';

export const FAULTS: readonly TextureFault[] = [premultipliedTwice, alphaFringe, colourReadAsData, dataReadAsColour, alphaLost, upsideDown, glow, bump, meantSharp, tooSmall, tooLarge]; // prettier-ignore

export interface TextureCase extends Case {
  cause: CauseId;
  told: Told;
}

export function textureCases(input: RenderInput): TextureCase[] {
  const uses = mapUses(input);
  if (uses.length === 0) return [];
  return FAULTS.flatMap(({ cause, find }) =>
    find(uses, input).map((told): TextureCase => {
      const mask = maskOf(input.picture, told.pixels);
      return {
        key: `${cause} ${told.about}`,
        severity: told.severity ?? 'caution',
        region: regionOf(input.picture, mask),
        mask,
        passes: told.passes ?? ['beauty'],
        objects: told.objects,
        cause,
        told,
      };
    }),
  );
}
