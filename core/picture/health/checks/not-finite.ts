import { maskWhere, type HealthCheck } from '../check.ts';

/** One pixel that is no number is spread by every filter and denoiser over its neighbours. */
export const definition: HealthCheck = {
  id: 'not-finite',
  find({ of }) {
    const bad = [...of.values()].filter(({ nan, infinite }) => nan + infinite > 0);
    if (!bad.length) return [];
    const [{ name, nan, infinite, places }] = bad;
    const rest = bad.length > 1 ? `; ${bad.length - 1} further channels have such, too` : '';
    const sentence = `${name} has ${nan} values that are NaN and ${infinite} that are infinite, the first at ${places[0].x}, ${places[0].y}${rest}.`;
    return [{ severity: 'stop', sentence, channels: bad.map((channel) => channel.name) }];
  },
  mask: (picture, { channels }) => maskWhere(picture, channels, (v) => v - v !== 0),
};
