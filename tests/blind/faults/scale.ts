/** Distances and places. */
import { multiply, translation } from '../../../core/data/transform.ts';
import { type Fault } from './fault.ts';

export const scaleFaults: Fault[] = [
  {
    cause: 'scale.camera-near',
    isUpstream: true,
    plant({ document, draw }) {
      document.cameras.main.near = draw.within(3.8, 4.6);
    },
  },
  {
    cause: 'scale.camera-far',
    isUpstream: true,
    plant({ document, draw }) {
      document.cameras.main.far = draw.within(4.6, 5.4);
    },
  },
  {
    cause: 'scale.ray-distance',
    isUpstream: true,
    plant({ sheet, draw }) {
      sheet.rayDistance = draw.within(4.5, 5.5);
    },
  },
  {
    cause: 'scale.single-precision',
    plant({ document, sheet, draw }) {
      const [x, z] = [draw.whole(60_000, 90_000), draw.whole(-50_000, 50_000)];
      sheet.precision = 'single';
      for (const item of [
        ...Object.values(document.objects),
        ...Object.values(document.lights),
        ...Object.values(document.cameras),
      ])
        item.transform = multiply(translation(x, 0, z), item.transform);
    },
  },
];
