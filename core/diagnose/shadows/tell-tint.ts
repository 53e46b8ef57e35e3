/** The colour of a shadow in words, for the page and the shell. */
import type { ToldLight } from '../../contracts/place.ts';

const stops = (value: number): string => (value > -0.05 ? '0' : `−${Math.abs(value).toFixed(1)}`);

/** "tinted orange, hue 34°: red 0, green −0.9, blue −2.1 stops" */
export const tellTint = ({ name, hue, channels: [r, g, b] }: NonNullable<ToldLight['tint']>): string =>
  `tinted ${name}, hue ${hue.toFixed(0)}°: red ${stops(r)}, green ${stops(g)}, blue ${stops(b)} stops`;
