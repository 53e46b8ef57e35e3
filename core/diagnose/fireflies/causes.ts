/** Ways that light came to single pixels, in words, the commonest first. */
import type { ShotDocument } from '../../document/schema.ts';
import { channel } from '../../data/picture.ts';
import { guiltyPass } from '../../picture/fireflies.ts';
import { luminancePlane } from '../../picture/measured.ts';
import { tellBrightest } from '../../picture/tell-brightest.ts';
import { LIGHT_PASSES } from '../../render/passes.ts';
import type { CompiledScene } from '../../render/scene.ts';
import type { DiagnosisInput } from '../diagnosis.ts';

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
export function causesOf({ picture, document, scene }: DiagnosisInput, at: number[]): Cause[] {
  const { width, height } = picture;
  const passes = new Map(TRACED.map((pass) => [pass as string, luminancePlane(picture, pass)]));
  const parts = BRIGHTEST.map((name) => channel(picture, name));
  const names = {
    object: (number: number) => objectName(document, scene.objectIds[number - 1]),
    light: (number: number) => lightName(document, scene, number - 1),
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

export const objectName = (document: ShotDocument, id: string): string => document.objects[id]?.name || id;

/** A light of the document, the environment, or the object that glows, by the row of the table of lights. */
function lightName(document: ShotDocument, scene: CompiledScene, row: number): string {
  const id = scene.lightIds[row];
  if (Object.hasOwn(document.lights, id)) return document.lights[id].name || id;
  if (id === 'environment') return 'the environment';
  const instance = scene.instanceLight.indexOf(row);
  return instance < 0 ? 'a glowing surface' : objectName(document, scene.objectIds[scene.instanceObject[instance]]);
}
