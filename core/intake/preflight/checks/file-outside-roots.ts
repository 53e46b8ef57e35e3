import { STOP, type Check } from '../check.ts';
import { outsideRoots } from '../roots.ts';
import { count } from '../tell.ts';

export const fileOutsideRoots: Check = {
  id: 'file-outside-roots',
  group: 'travel',
  title: 'Textures outside the roots',
  why: 'The farm sees the root folders and nothing else; anything elsewhere is missing there.',
  threshold: STOP,
  run({ source, profile }) {
    const offenders = outsideRoots(source.references, profile.roots, (kind) => kind === 'image');
    return { expected: 'below the scene’s folder or the show’s roots', found: count(offenders, 'file'), offenders };
  },
};
