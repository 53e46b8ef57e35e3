import { type Check } from '../check.ts';
import { plural } from '../tell.ts';

export const lightsWithShadows: Check = {
  id: 'lights-with-shadows',
  group: 'weight',
  title: 'Shadow-casting lights',
  why: 'Each is sampled at every hit; many of them make every sample expensive.',
  threshold: { caution: 64, stop: 1_000 },
  run({ source }) {
    const kinds = new Map<string, number>();
    for (const { spec } of source.lights) if (spec.castsShadows) kinds.set(spec.kind, (kinds.get(spec.kind) ?? 0) + 1);
    const amount = [...kinds.values()].reduce((a, b) => a + b, 0);
    return {
      expected: 'few enough for the frame time',
      found: amount ? [...kinds].map(([kind, n]) => `${n} ${kind}`).join(', ') : 'none',
      amount,
      offenders: [...kinds].map(([kind, n]) => ({ object: `${kind} lights`, detail: plural(n, 'light'), count: n })),
    };
  },
};
