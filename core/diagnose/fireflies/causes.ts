/** Ways that light came to single pixels, in words, the commonest first. */
import { channel } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { guiltyPass } from '../../picture/fireflies.ts';
import { luminancePlane } from '../../picture/measured.ts';
import { tellBrightest } from '../../picture/tell-brightest.ts';
import { LIGHT_PASSES } from '../../render/film/passes.ts';
import type { DiagnosisInput } from '../diagnosis.ts';
import { lightName } from '../light-name.ts';

export interface Cause {
  /** The way in words. */
  told: string;
  pass: string;
  pixels: number;
}

/** Passes that can be guilty. */
export const TRACED = LIGHT_PASSES.slice(1);
const BRIGHTEST = ['value', 'path', 'light', 'first', 'second'].map((part) => `brightest.${part}`);

/** @param at numbers of the pixels */
export function causesOf(input: DiagnosisInput, at: number[]): Cause[] {
  const { picture, document } = input;
  const objects = objectNames(document);
  const { width, height } = picture;
  const passes = new Map(TRACED.map((pass) => [pass as string, luminancePlane(picture, pass)]));
  const parts = BRIGHTEST.map((name) => channel(picture, name));
  const names = {
    object: (number: number) => objects[number - 1],
    light: (number: number) => lightName(input, number - 1),
  };
  const causes = new Map<string, Cause>();
  for (const i of at) {
    const values = Object.fromEntries(BRIGHTEST.map((name, k) => [name, parts[k][i]]));
    const told = tellBrightest(values, names);
    const pass = guiltyPass({ x: i % width, y: Math.floor(i / width) }, passes, width, height) ?? 'emission';
    const way = told ?? 'a way that is not known';
    const cause = causes.get(`${pass} ${way}`) ?? { told: way, pass, pixels: 0 };
    cause.pixels += 1;
    causes.set(`${pass} ${way}`, cause);
  }
  return [...causes.values()].sort((a, b) => b.pixels - a.pixels);
}
