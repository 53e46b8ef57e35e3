/** Glass for a colour that is wished for behind a stack of it: by the base colour of its faces, or by how far light gets in it. */
import { luminance } from '../data/colour.ts';
import { throughStack, type Glass, type Rgb, type Stack } from './stack.ts';

export interface Wish<T> {
  /** Null where no glass of the kind lets so much through. */
  value: T | null;
  /** What gets through with it, or the most that could. */
  through: Rgb;
}

const STEPS = 60;

/** Bisects for the greatest value of which no more gets through than is wished. @param of rises with the value */
function solve(of: (value: number) => number, wish: number, low: number, high: number): number {
  let [from, to] = [low, high];
  for (let k = 0; k < STEPS; k++) {
    const middle = (from + to) / 2;
    if (of(middle) < wish) from = middle;
    else to = middle;
  }
  return (from + to) / 2;
}

/** The base colour with which a stack lets a colour through; what lies between the channels' reach stays clear. @param wish linear, 0–1 */
export function baseColourFor(glass: Glass, stack: Stack, wish: Rgb): Wish<Rgb> {
  const with_ = (filter: Rgb) => throughStack({ ...glass, filter }, stack);
  const most = with_([1, 1, 1]);
  if (stack.bodies === 0 || wish.some((c, k) => c > most[k] * (1 + 1e-9))) return { value: null, through: most };
  const value = [0, 1, 2].map((c) => solve((v) => with_([v, v, v])[c], wish[c], 0, 1)) as Rgb;
  return { value, through: with_(value) };
}

/** Metres in which its absorption must bring light to the attenuation colour, for a stack to be as bright as a colour. @param colour linear: the attenuation colour, not white */
export function attenuationFor(glass: Glass, stack: Stack, colour: Rgb, wish: Rgb): Wish<number> {
  const at = (distance: number) => throughStack({ ...glass, absorption: colour.map((c) => -Math.log(Math.max(c, 1e-4)) / distance) as Rgb }, stack); // prettier-ignore
  const bright = (rgb: Rgb) => luminance(...rgb);
  const [near, far] = [-7, 7];
  const goal = bright(wish);
  const most = at(10 ** far);
  if (stack.bodies === 0 || colour.every((c) => c >= 1) || goal > bright(most) || goal < bright(at(10 ** near)))
    return { value: null, through: most };
  const value = 10 ** solve((power) => bright(at(10 ** power)), goal, near, far);
  return { value, through: at(value) };
}
