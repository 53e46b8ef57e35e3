import type { EmitterSpec } from '../../../document/schema.ts';
import { item, type Limit } from '../limit.ts';
import type { LightFeature } from '../target.ts';

const ALL = { mode: 'all', objects: [] };

/** Whether an emitter uses a feature, the values that are left without it, and what that looks like. */
const FEATURES: Record<
  LightFeature,
  { uses: (of: EmitterSpec) => boolean; left: Record<string, unknown>; looks: string }
> = {
  linking: { uses: ({ lights }) => lights.mode !== 'all', left: { lights: ALL }, looks: 'they light objects they were unlinked from' },
  'shadow linking': { uses: ({ shadowsOf }) => shadowsOf.mode !== 'all', left: { shadowsOf: ALL }, looks: 'everything casts its shadow' },
  reach: { uses: ({ reach }) => reach.distance !== null || reach.bounces !== null, left: { reach: { distance: null, bounces: null } }, looks: 'they light without a distance limit' },
  'shadow distance': { uses: ({ shadowDistance }) => shadowDistance !== null, left: { shadowDistance: null }, looks: 'distant objects cast shadows, too' },
  'shadow colour': { uses: ({ shadowColour }) => shadowColour.some((c) => c > 0), left: { shadowColour: [0, 0, 0] }, looks: 'shadows are black' },
  groups: { uses: ({ group }) => group !== '', left: { group: '' }, looks: 'their light has no pass of its own' },
  'no shadows': { uses: ({ castsShadows }) => !castsShadows, left: { castsShadows: true }, looks: 'they cast shadows that were switched off' },
}; // prettier-ignore

export const lightFeatures: Limit = {
  id: 'light-features',
  title: 'Light features',
  run({ document, target }) {
    const values: Record<string, unknown> = {};
    const looks = new Set<string>();
    const emitters = [
      ...Object.entries(document.lights).map(([id, light]) => ({ at: `/lights/${id}`, name: light.name || id, light })),
      { at: '/environment', name: 'environment', light: document.environment },
    ];
    const items = emitters.flatMap(({ at, name, light }) =>
      target.lights.features
        .filter((feature) => FEATURES[feature].uses(light))
        .map((feature) => {
          looks.add(FEATURES[feature].looks);
          for (const [key, value] of Object.entries(FEATURES[feature].left)) values[`${at}/${key}`] = value;
          return item(name, `loses its ${feature}`);
        }),
    );
    const told = [...looks].join('; ');
    return items.length ? { fate: 'dropped', items, looks: `${told[0].toUpperCase()}${told.slice(1)}.`, values } : null;
  },
};
