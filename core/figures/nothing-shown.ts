/** Where a dial shows, for a change that nothing measured shows. */
import type { Effect } from '../contracts/figures.ts';
import { isSeen } from './effect.ts';

/** By the beginning of the pointer: what the dial touches, and where that is seen. */
const SHOWS: [pattern: RegExp, where: string][] = [
  [/^\/occlusion\//, 'in the occlusion pass: switch it on among the sheet’s passes'],
  [/^\/extraSamples\/occlusion/, 'in the occlusion pass, or under the neutral material with occlusion'],
  [/^\/extraSamples\/volume|^\/limits\/volume|^\/fog/, 'where there is fog'],
  [/^\/limits\/(transmission|alpha)|^\/extraSamples\/transmission/, 'in glass and cut-outs, where several overlap'],
  [/^\/limits\/specular|^\/extraSamples\/specular|^\/roughnessFloor/, 'in reflections of reflections'],
  [/^\/limits\/diffuse|^\/extraSamples\/diffuse/, 'in corners that only bounced light reaches'],
  [/^\/limits\/overall/, 'where paths are longest: glass behind glass'],
  [/^\/clamps\//, 'where single samples are brighter than the clamp'],
  [/^\/motion\//, 'at objects that move'],
  [/^\/filter\//, 'at edges'],
  [/^\/rayDistance/, 'beyond that distance'],
  [/^\/lights\/[^/]+\/shadow/, 'in the light’s shadow: in the shadow pass of the light, if other light drowns it'],
  [/^\/lights\//, 'where the light reaches: in its light group'],
  [/^\/(objects|materials|maps|coats|textures)\//, 'at objects that have it: choose a region with one in it'],
  [/^\/(environment|background)\//, 'where the sky is visible, and in mirrors'],
]; // prettier-ignore

/**
 * @param pointers of the controls that were changed
 * @returns a sentence where no figure of the effect changes, with where the dials show; empty where some does
 */
export function tellNothing(effect: Effect, pointers: string[]): string {
  if (effect.figures.some((value) => value.id !== 'time' && isSeen(value))) return '';
  const where = [
    ...new Set(pointers.flatMap((pointer) => SHOWS.find(([pattern]) => pattern.test(pointer))?.[1] ?? [])),
  ];
  const told = where.length ? `; it shows ${where.join(', and ')}` : '';
  return `No measured figure shows this change${told}.`;
}
