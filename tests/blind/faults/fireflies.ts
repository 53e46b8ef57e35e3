/** Light that chance finds. */
import { translation } from '../../../core/data/transform.ts';
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { sphere } from '../../unit/helpers.ts';
import { clearGlass, type Fault } from './fault.ts';

export const firefliesFaults: Fault[] = [
  {
    cause: 'fireflies.small-emitter',
    plant(draft) {
      const { draw } = draft;
      draft.document.environment = evenEnvironment([0.15, 0.15, 0.15]);
      draft.put('ember', sphere(draw.within(0.005, 0.012), 16), { emission: [1, 0.7, 0.4], emissionStrength: draw.within(2, 5) * 1e4, baseColour: [0, 0, 0], sampledAsLight: false }, { transform: translation(draw.within(-0.6, 0.6), draw.within(1, 1.4), draw.within(0.3, 0.8)) }); // prettier-ignore
    },
  },
  {
    cause: 'fireflies.emitter-in-shell',
    plant(draft) {
      const { draw } = draft;
      const at = translation(draw.within(-0.6, 0.6), 1.15, draw.within(0.3, 0.8));
      draft.document.environment = evenEnvironment([0.15, 0.15, 0.15]);
      draft.put('flame', sphere(draw.within(0.008, 0.015), 16), { emission: [1, 0.7, 0.4], emissionStrength: draw.within(1, 3) * 1e4, baseColour: [0, 0, 0] }, { transform: at }); // prettier-ignore
      draft.put('globe', sphere(0.09, 48), clearGlass, { transform: at });
      draft.put('hollow', sphere(0.085, 48), { ...clearGlass, ior: 1 }, { transform: at, priority: 1 });
    },
  },
  {
    cause: 'fireflies.glass-caustic',
    // Glass mirrors light as well as it bends it.
    also: ['fireflies.mirror-caustic'],
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.1, 0.1, 0.1]);
      for (const id of draft.things) Object.assign(document.materials[id], { ...clearGlass, metallic: 0 });
      draft.light('lamp', { kind: 'point', transform: translation(draw.within(-1.5, 1.5), 2.6, -1.2), radius: draw.within(0.015, 0.03), intensity: draw.within(16, 30) }); // prettier-ignore
    },
  },
  {
    cause: 'fireflies.mirror-caustic',
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.1, 0.1, 0.1]);
      for (const id of draft.things) Object.assign(document.materials[id], { metallic: 1, roughness: 0, baseColour: [0.95, 0.95, 0.95] }); // prettier-ignore
      draft.light('lamp', { kind: 'point', transform: translation(draw.within(-1.5, 1.5), 2.4, 1.2), radius: draw.within(0.02, 0.04), intensity: draw.within(16, 30) }); // prettier-ignore
    },
  },
];
