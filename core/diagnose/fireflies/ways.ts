/** Ways that light came to single pixels, in words, the commonest first. */
import { channel } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { guiltyPass } from '../../picture/fireflies.ts';
import { luminancePlane } from '../../picture/measured.ts';
import { tellBrightest } from '../../picture/tell-brightest.ts';
import { LIGHT_PASSES } from '../../render/film/passes.ts';
import type { RenderInput } from '../family.ts';
import { lightName } from '../../place/light-name.ts';

export interface Way {
  /** The way in words. */
  told: string;
  pass: string;
  pixels: number;
}

/** Passes that can be guilty. */
export const TRACED = LIGHT_PASSES.slice(1);
const BRIGHTEST = ['value', 'path', 'light', 'first', 'second'].map((part) => `brightest.${part}`);

/** @param at numbers of the pixels */
export function waysOf(input: RenderInput, at: number[]): Way[] {
  const { picture, document } = input;
  const objects = objectNames(document);
  const { width, height } = picture;
  const passes = new Map(TRACED.map((pass) => [pass as string, luminancePlane(picture, pass)]));
  const parts = BRIGHTEST.map((name) => channel(picture, name));
  const names = {
    object: (number: number) => objects[number - 1],
    light: (number: number) => lightName(input, number - 1),
  };
  const ways = new Map<string, Way>();
  for (const i of at) {
    const values = Object.fromEntries(BRIGHTEST.map((name, k) => [name, parts[k][i]]));
    const told = tellBrightest(values, names);
    const pass = guiltyPass({ x: i % width, y: Math.floor(i / width) }, passes, width, height) ?? 'emission';
    const way = told ?? 'a way that is not known';
    const one = ways.get(`${pass} ${way}`) ?? { told: way, pass, pixels: 0 };
    one.pixels += 1;
    ways.set(`${pass} ${way}`, one);
  }
  return [...ways.values()].sort((a, b) => b.pixels - a.pixels);
}
