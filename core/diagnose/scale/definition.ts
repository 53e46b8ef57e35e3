/** Scale and distance: rays that end too soon, and positions that are too coarse so far out. */
import { changeOf } from '../../figures/effect.ts';
import { metres } from '../../intake/preflight/tell.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import { percent } from '../words.ts';
import { scaleCases, type CoarseCase, type ScaleCase, type ShortRaysCase } from './case.ts';
import { rayDistance } from './causes/ray-distance.ts';
import { singlePrecision } from './causes/single-precision.ts';
import { farther } from './remedies/farther.ts';
import { finer } from './remedies/finer.ts';

export const scale: Family = {
  id: 'scale',
  title: 'Scale and distance',
  healthy: 'Rays reach what is in view, and positions are finer than pixels.',
  isEarly: true,
  render: ofRenders<ScaleCase>({
    needs: () => ['beauty', 'error.beauty', 'cut.distance'],
    cases: scaleCases,
    causes: [rayDistance, singlePrecision],
    remedies: [farther, finer],
    figure: 'brightness',
    goesWith: (effect) => Math.min(1, Math.abs(changeOf(effect, 'brightness') ?? 0)),
    tell: (of) => (of.kind === 'rays' ? tellRays(of) : tellCoarse(of)),
    dials: (of) => [of.kind === 'rays' ? { pointer: '/rayDistance', needs: null, note: null } : { pointer: '/precision', needs: null, note: null }], // prettier-ignore
    evidence: (of) =>
      of.kind === 'rays'
        ? [{ kind: 'map', title: 'Light that ends by distance', pass: 'cut.distance', legend: [] }]
        : [{ kind: 'table', title: 'Positions against pixels', columns: ['', 'mm'], rows: [['between neighbouring positions', +(1000 * of.step).toPrecision(3)], ['a pixel', +(1000 * of.pixel).toPrecision(3)]] }], // prettier-ignore
  }),
};

function tellRays({ reach, farthest, share }: ShortRaysCase): Words {
  return {
    sentence: `Rays end after ${metres(reach)}: what is further is missing from ${+(100 * share).toPrecision(2)} % of the picture.`,
    headline: `What is in view reaches ${farthest === null ? 'the horizon' : metres(+farthest.toPrecision(3))}; rays reach ${metres(reach)}`,
    why: 'Surfaces beyond are not met: the background stands in their place, and they throw no shadow. A cause of missing shadows and of missing objects alike.',
  };
}

function tellCoarse({ away, step, pixel, share }: CoarseCase): Words {
  const [mm, part] = [+(1000 * step).toPrecision(2), +(step / pixel).toPrecision(2)];
  return {
    sentence: `The shot stands ${metres(+away.toPrecision(3))} from the origin, where positions are ${mm} mm apart: ${part} of a pixel.`,
    headline: `Steps of ${mm} mm at ${metres(+away.toPrecision(3))}, pixels of ${+(1000 * pixel).toPrecision(2)} mm`,
    why: `Single precision has 24 bits for a coordinate, which far out leaves few for detail: edges shake from frame to frame, bumps and thin gaps are lost. It is so on ${percent(share)} of what is seen.`,
  };
}
