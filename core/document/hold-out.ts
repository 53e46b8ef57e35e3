/**
 * One picture as two renders: chosen objects held out of the first, and all but them held out of the second, each being there for
 * every ray but the camera's. Each sample of the camera finds something in one of them alone, so that the two added are the picture
 * that one render gives, and each may have settings of its own.
 *
 * Source: Porter & Duff, "Compositing Digital Images", SIGGRAPH 1984: A held out by B *plus* B held out by A.
 *
 * @example
 * const { rest, alone } = holdOutPair(document, ['lamp']);
 * const layers = [rest, { ...alone, '/clamps/indirect': 2 }].map((values) => withValues(document, ['preview'], values));
 */
import type { ControlValues } from './set-values.ts';
import type { ShotDocument } from './schema.ts';

export interface HoldOutPair {
  /** Values of the render without the chosen objects. */
  rest: ControlValues;
  /** Of the one with nothing else: neither what is behind everything nor lights that the camera sees. */
  alone: ControlValues;
}

/** @throws RangeError where the two would not add up to the picture, with why */
export function holdOutPair(document: ShotDocument, chosen: readonly string[]): HoldOutPair {
  const strange = chosen.find((id) => !Object.hasOwn(document.objects, id));
  if (strange !== undefined) throw new RangeError(`there is no object "${strange}"`);
  const surfaces = Object.keys(document.objects).filter((id) => document.objects[id].role === 'surface');
  const own = surfaces.filter((id) => chosen.includes(id));
  if (own.length < chosen.length || chosen.length === 0)
    throw new RangeError('objects to be held out must be ordinary surfaces, one at least');
  // Fog before them would be in both.
  if (document.fog) throw new RangeError('the shot has fog, which both renders would have');
  const held = (ids: string[]) => Object.fromEntries(ids.map((id) => [`/objects/${id}/role`, 'hold-out']));
  const lights = Object.keys(document.lights).map((id) => `/lights/${id}`);
  const unseen = Object.fromEntries([...lights, '/environment'].map((at) => [`${at}/visibility/camera`, false]));
  return {
    rest: held(own),
    alone: {
      ...held(surfaces.filter((id) => !chosen.includes(id))),
      ...unseen,
      ...(document.background ? { '/background/camera': false } : {}),
    },
  };
}
