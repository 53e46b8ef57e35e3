/** Peak memory of a render: its compiled scene, and the film of the whole frame. Bytes. */
import type { Figure } from './figure.ts';

export const memory: Figure = {
  id: 'memory',
  label: 'Memory of scene and film',
  short: 'memory',
  unit: 'bytes',
  better: 'less',
  change: 'ratio',
  seen: 0.03,
  needs: () => null,
  measure: ({ ofScene }) => ofScene.memory ?? null,
};
