/** Shadows that a setting keeps away. */
import { lookAt } from '../../../core/data/transform.ts';
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { type Fault } from './fault.ts';

export const shadowsFaults: Fault[] = [
  {
    cause: 'shadows.light-casts-none',
    isUpstream: true,
    plant({ document }) {
      document.lights.key.castsShadows = false;
    },
  },
  {
    cause: 'shadows.object-casts-none',
    isUpstream: true,
    plant({ document, things, draw }) {
      document.objects[draw.one(things)].visibility.shadow = false;
    },
  },
  {
    cause: 'shadows.receiver-takes-none',
    isUpstream: true,
    plant({ document }) {
      document.objects.floor.receivesShadows = false;
    },
  },
  {
    cause: 'shadows.not-linked',
    isUpstream: true,
    plant({ document, things, draw }) {
      document.lights.key.shadowsOf = { mode: 'except', objects: [draw.one(things)] };
    },
  },
  {
    cause: 'shadows.distance-too-short',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.shadowDistance = draw.within(0.02, 0.12);
    },
  },
  {
    cause: 'shadows.colour-too-light',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.shadowColour = draw.colour(0.6, 0.9);
    },
  },
  {
    cause: 'shadows.drowned-by-fill',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      document.lights = {};
      draft.light('sun', { kind: 'distant', transform: lookAt([draw.one([-1, 1]) * draw.within(1.5, 3), draw.within(1, 2), draw.within(-0.5, 1)], [0, 0, 0]), angle: 0.53, intensity: draw.within(0.3, 0.6) }); // prettier-ignore
      document.environment = evenEnvironment(draw.colour(0.9, 1.4));
    },
  },
];
