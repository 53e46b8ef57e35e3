import { coloursOf } from '../../../formats/layers.ts';
import { maskWhere, type HealthCheck } from '../check.ts';

/** Largest finite half. Source: IEEE 754-2008. */
export const LARGEST_HALF = 65504;
/** Whole numbers that are full in more of the pixels than this have lost their highlights. */
const SHARE = 0.005;

/** Values at the end of their number format: what was above is lost. */
export const definition: HealthCheck = {
  id: 'clipped',
  find({ of, types, layers, width, height }) {
    const lit = layers
      .filter(({ role }) => role === 'beauty' || role === 'light')
      .flatMap((layer) => coloursOf(layer) ?? []);
    const full = lit.filter(
      (name) => of.get(name)!.clipped > (types.get(name) === 'uint' ? SHARE * width * height : 0),
    );
    if (!full.length) return [];
    const worst = full.map((name) => of.get(name)!).sort((a, b) => b.clipped - a.clipped)[0];
    const end = types.get(worst.name) === 'uint' ? 'white' : `${LARGEST_HALF}, the largest half`;
    const sentence = `${worst.name} stands at ${end} in ${worst.clipped} pixels${full.length > 1 ? `, ${full.length - 1} further channels in some` : ''}: what was brighter is lost.`;
    return [{ severity: 'caution', sentence, channels: full }];
  },
  mask: (picture, { channels }) =>
    maskWhere(picture, channels, (v) => v >= (picture.types.get(channels[0]) === 'uint' ? 1 : LARGEST_HALF)),
};
