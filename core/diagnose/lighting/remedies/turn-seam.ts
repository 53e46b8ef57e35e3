/** The environment turned until its seam is out of sight; or its edges mended where the image is made. */
import type { Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const turnSeam: Propose<LightingCase> = (of) => {
  if (of.kind !== 'seam') return null;
  const { document, turn, file } = of;
  const mend = { id: 'mend', title: `Blend the left and right edges of ${file} where it is made`, change: null };
  if (turn === null) return mend;
  const rotation = document.environment.rotation + turn;
  return [
    {
      id: 'turn',
      title: `Turn the environment by ${turn}°, to ${+rotation.toFixed(1)}°`,
      change: { kind: 'values', values: { '/environment/rotation': rotation } },
      note: 'Its light then comes from another direction: check highlights and shadows.',
    },
    mend,
  ];
};
