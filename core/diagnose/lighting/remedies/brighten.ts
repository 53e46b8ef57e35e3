/** The environment as bright as the only light of a scene has to be. */
import type { Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const brighten: Propose<LightingCase> = (of) => {
  if (of.kind !== 'dim') return null;
  const { intensity } = of.document.environment;
  const value = +(intensity * of.factor).toPrecision(2);
  return {
    id: 'brighten',
    title: `The environment at an intensity of ${value}`,
    change: { kind: 'values', values: { '/environment/intensity': value } },
    note: 'What is seen of it gets brighter by as much; a separate background stays.',
  };
};
