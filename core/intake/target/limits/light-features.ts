import type { EmitterSpec } from '../../../document/schema.ts';
import { item, type Limit } from '../limit.ts';
import type { LightFeature } from '../target.ts';

const ALL = { mode: 'all', objects: [] };

/** Whether an emitter uses a feature, and the values that are left without it. */
const FEATURES: Record<LightFeature, { uses: (of: EmitterSpec) => boolean; left: Record<string, unknown> }> = {
  linking: { uses: ({ lights }) => lights.mode !== 'all', left: { lights: ALL } },
  'shadow linking': { uses: ({ shadowsOf }) => shadowsOf.mode !== 'all', left: { shadowsOf: ALL } },
  reach: { uses: ({ reach }) => reach.distance !== null || reach.bounces !== null, left: { reach: { distance: null, bounces: null } } }, // prettier-ignore
  'shadow distance': { uses: ({ shadowDistance }) => shadowDistance !== null, left: { shadowDistance: null } },
  'shadow colour': { uses: ({ shadowColour }) => shadowColour.some((c) => c > 0), left: { shadowColour: [0, 0, 0] } },
  groups: { uses: ({ group }) => group !== '', left: { group: '' } },
  'no shadows': { uses: ({ castsShadows }) => !castsShadows, left: { castsShadows: true } },
};

export const lightFeatures: Limit = {
  id: 'light-features',
  title: 'What lights can do',
  run({ document, target }) {
    const values: Record<string, unknown> = {};
    const emitters = [
      ...Object.entries(document.lights).map(([id, light]) => ({ at: `/lights/${id}`, name: light.name || id, light })),
      { at: '/environment', name: 'environment', light: document.environment },
    ];
    const items = emitters.flatMap(({ at, name, light }) =>
      target.lights.features
        .filter((feature) => FEATURES[feature].uses(light))
        .map((feature) => {
          for (const [key, value] of Object.entries(FEATURES[feature].left)) values[`${at}/${key}`] = value;
          return item(name, `loses its ${feature}`);
        }),
    );
    return items.length
      ? { fate: 'dropped', items, looks: 'They light more than they should, or with shadows nobody asked for.', values }
      : null;
  },
};
