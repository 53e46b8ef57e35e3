/** Things that move by their keys, and not in the picture, or not on their way. */
import { multiply, rotationZ, translation } from '../../../core/data/transform.ts';
import { box } from '../../../demo/shapes.ts';
import type { Draft } from '../shots.ts';
import type { Fault } from './fault.ts';

/** The first of the things runs across the picture, `reach` metres a frame. */
function running({ document, things }: Draft, reach: number): string {
  const [id] = things;
  const object = document.objects[id];
  object.keys = [0, 1, 2].map((frame) => ({ frame, transform: multiply(translation((frame - 1) * reach, 0, 0), object.transform), mesh: null })); // prettier-ignore
  return id;
}

export const motionFaults: Fault[] = [
  {
    cause: 'motion.static-flag',
    plant(draft) {
      running(draft, draft.draw.within(0.1, 0.5));
    },
  },
  {
    cause: 'motion.no-blur',
    plant(draft) {
      const { draw, document, sheet } = draft;
      document.objects[running(draft, draw.within(0.2, 0.5))].motion = 'transform';
      sheet.motion = draw.one([{ samples: 2, shutter: 0 }, { samples: 1, shutter: 0.5 }]); // prettier-ignore
    },
  },
  {
    cause: 'motion.too-few-samples',
    plant(draft) {
      const { draw, document } = draft;
      const place = translation(draw.within(-0.5, 0.5), 1.3, 0.6);
      const turn = draw.within(100, 160);
      draft.put('blade', box([-0.9, -0.06, -0.02], [0.9, 0.06, 0.02]), { baseColour: [0.6, 0.6, 0.6], roughness: 0.8 }, { transform: place, motion: 'transform' }); // prettier-ignore
      document.objects.blade.keys = [0, 1, 2, 3, 4].map((k) => ({ frame: 1 + k / 2, transform: multiply(place, rotationZ(turn * k)), mesh: null })); // prettier-ignore
      draft.sheet.motion = { samples: 2, shutter: 0.5 };
    },
  },
  {
    cause: 'motion.samples-without-motion',
    plant({ sheet, draw }) {
      sheet.motion = { samples: draw.whole(4, 12), shutter: 0.5 };
    },
  },
];
