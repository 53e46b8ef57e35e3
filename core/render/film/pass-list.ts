/** The passes a film can be asked for, by name, in the groups a person looks for them in. */
import { BRIGHTEST_PARTS, CUTS, groupWidth, LIGHT_PASSES, NO_EXTRAS, type FilmLayout } from './passes.ts';

/** How a pass is to be shown: light through the view transform, or data in its own way. */
export type PassLook = 'light' | 'amount' | 'count' | 'id' | 'direction' | 'place' | 'share' | 'flow';

export interface PassInfo {
  name: string;
  group: 'Light' | 'Light groups' | 'Data' | 'Noise and cost' | 'Cut' | 'Brightest sample' | 'Shadow';
  channels: string[];
  look: PassLook;
}

const one = (name: string, group: PassInfo['group'], look: PassLook): PassInfo => ({
  name,
  group,
  channels: [name],
  look,
});
const many = (name: string, group: PassInfo['group'], look: PassLook, parts: string): PassInfo => ({
  name,
  group,
  channels: [...parts].map((p) => `${name}.${p}`),
  look,
});

export function passList(layout: FilmLayout = NO_EXTRAS): PassInfo[] {
  return [
    ...LIGHT_PASSES.map((name) => many(name, 'Light', 'light', 'RGB')),
    ...layout.groups.flatMap((group) =>
      LIGHT_PASSES.slice(0, groupWidth(layout)).map((pass) =>
        many(pass === 'beauty' ? `group.${group}` : `group.${group}.${pass}`, 'Light groups', 'light', 'RGB'),
      ),
    ),
    ...layout.shadows.map((light) => one(`shadow.${light}`, 'Shadow', 'share')),
    ...(layout.occlusion ? [one('occlusion', 'Shadow', 'share')] : []),
    ...(layout.lines ? [one('lines', 'Data', 'share')] : []),
    one('coverage', 'Data', 'share'),
    one('depth', 'Data', 'amount'),
    many('position', 'Data', 'place', 'XYZ'),
    many('normal', 'Data', 'direction', 'XYZ'),
    many('uv', 'Data', 'place', 'UV'),
    many('albedo', 'Data', 'light', 'RGB'),
    many('motion', 'Data', 'flow', 'XY'),
    one('object', 'Data', 'id'),
    one('object.coverage', 'Data', 'share'),
    one('material', 'Data', 'id'),
    one('material.coverage', 'Data', 'share'),
    one('crossings', 'Data', 'count'),
    one('samples', 'Noise and cost', 'count'),
    one('cost', 'Noise and cost', 'amount'),
    one('time', 'Noise and cost', 'amount'),
    ...LIGHT_PASSES.map((pass) => one(`error.${pass}`, 'Noise and cost', 'amount')),
    one('clamped', 'Cut', 'amount'),
    ...CUTS.map((cut) => one(`cut.${cut}`, 'Cut', 'share')),
    ...BRIGHTEST_PARTS.map((part) => one(`brightest.${part}`, 'Brightest sample', part === 'value' ? 'amount' : 'id')),
  ];
}

/** How a pass is to be shown, by its name alone: those of groups and shadows have names of one form. */
export function lookOf(name: string): PassLook {
  if (name.startsWith('group.')) return 'light';
  if (name.startsWith('shadow.') || name === 'occlusion' || name === 'lines') return 'share';
  return BASE_PASSES.find((pass) => pass.name === name)?.look ?? 'amount';
}

const BASE_PASSES = passList();
export const ALL_PASSES: string[] = BASE_PASSES.map((pass) => pass.name);

/** Channel names of a pass of a film. A RangeError names one that is not there. */
export function passChannels(name: string, layout: FilmLayout = NO_EXTRAS): string[] {
  const info = passList(layout).find((pass) => pass.name === name);
  if (!info) throw new RangeError(`there is no pass "${name}"`);
  return info.channels;
}
