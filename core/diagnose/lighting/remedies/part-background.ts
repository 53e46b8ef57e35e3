/** A background of its own for the camera, below white: what lights the scene stays. */
import type { Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const partBackground: Propose<LightingCase> = (of) => {
  if (of.kind !== 'tied') return null;
  const darker = Math.log2(of.document.environment.intensity / of.background.intensity);
  return {
    id: 'own-background',
    title: `Give the camera a background of its own, ${darker.toFixed(1)} stops darker`,
    change: { kind: 'values', values: { '/background': of.background } },
    note: 'The environment still lights the scene and is reflected as before.',
  };
};
