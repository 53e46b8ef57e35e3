/** Surfaces that are there from one side only, and normals that look away from their faces. */
import { lookAt, multiply, rotationY, scaling, translation } from '../../../core/data/transform.ts';
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { sphere, square } from '../../unit/helpers.ts';
import type { Fault } from './fault.ts';

export const oneSidedFaults: Fault[] = [
  {
    cause: 'shadows.seen-through',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      // A board half turned to a sun at the side: what lies beyond it sees its back, and the camera its front.
      const side = draw.one([-1, 1]);
      const turned = multiply(translation(side * draw.within(0.3, 0.8), 0.5, draw.within(0.5, 0.8)), rotationY(side * draw.within(25, 45))); // prettier-ignore
      draft.put('board', square(0.5, 0), { baseColour: draw.colour(0.3, 0.7), roughness: 1, specular: 0 }, { transform: turned, facing: 'front' }); // prettier-ignore
      document.lights = {};
      draft.light('sun', { kind: 'distant', transform: lookAt([side * draw.within(2.5, 4), draw.within(1.6, 2.4), draw.within(0.5, 1.5)], [0, 0, 0]), angle: draw.within(0.5, 3), intensity: draw.within(2, 3), samples: 4 }); // prettier-ignore
      document.environment = evenEnvironment(draw.colour(0.15, 0.3));
      // Walls at the sides would keep the sun out.
      for (const wall of ['left', 'right']) delete document.objects[wall];
    },
  },
  {
    cause: 'normals.against-faces',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      const [id, ...others] = draft.things;
      for (const other of others) delete document.objects[other];
      // All of them look inwards, or those of one half.
      const ball = sphere(1, draw.whole(10, 16) * 2);
      const half = draw.one([-2, 0]);
      const normals = ball.normals!.map((v, i) => (ball.positions[i - (i % 3)] > half ? -v : v));
      draft.meshes.set(id, { ...ball, normals });
      document.objects[id].transform = multiply(translation(0, 0.9, 0), scaling(0.9, 0.9, 0.9));
    },
  },
];
