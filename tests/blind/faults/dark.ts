/** Frames that get no light at all. */
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { type Fault } from './fault.ts';

export const darkFaults: Fault[] = [
  {
    cause: 'lighting.nothing-lights',
    isUpstream: true,
    plant({ document }) {
      document.lights = {};
      document.environment = evenEnvironment([0, 0, 0]);
    },
  },
  {
    cause: 'lighting.light-at-zero',
    isUpstream: true,
    plant({ document }) {
      document.environment = evenEnvironment([0, 0, 0]);
      for (const light of Object.values(document.lights)) light.intensity = 0;
    },
  },
  {
    cause: 'lighting.light-hidden',
    isUpstream: true,
    plant({ document }) {
      document.environment = evenEnvironment([0, 0, 0]);
      for (const light of Object.values(document.lights)) light.hidden = true;
    },
  },
  {
    cause: 'lighting.linked-away',
    isUpstream: true,
    plant({ document }) {
      document.environment = evenEnvironment([0, 0, 0]);
      for (const light of Object.values(document.lights)) light.lights = { mode: 'only', objects: [] };
    },
  },
];
