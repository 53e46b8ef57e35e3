/** What lets a light shine on what is seen. */
import { aimed } from '../../../data/aim.ts';
import type { Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const revive: Propose<LightingCase> = (of) => {
  if (of.kind !== 'dead') return null;
  const { light, name, why, document, inside, middle } = of;
  const at = `/lights/${light}`;
  const spec = document.lights[light];
  switch (why) {
    case 'turned-away':
      if (spec.kind === 'mesh') return null;
      return { id: 'aim', title: `Aim ${name} at the middle of what is seen`, change: { kind: 'values', values: { [`${at}/transform`]: aimed(spec.transform, middle) } } }; // prettier-ignore
    case 'out-of-reach':
      return { id: 'reach', title: `Let ${name} reach any distance`, change: { kind: 'values', values: { [`${at}/reach/distance`]: null } } }; // prettier-ignore
    case 'linked-away':
      return { id: 'link', title: `Let ${name} light everything`, change: { kind: 'values', values: { [`${at}/lights`]: { mode: 'all', objects: [] } } } }; // prettier-ignore
    case 'inside-object': {
      const { name: body } = document.objects[inside!];
      const { mode, objects } = spec.shadowsOf;
      const others = mode === 'only' ? { mode, objects: objects.filter((id) => id !== inside) } : { mode: 'except' as const, objects: [...(mode === 'except' ? objects : []), inside!] }; // prettier-ignore
      return {
        id: 'out-of-object',
        title: `Let the light of ${name} out of ${body || inside}`,
        change: { kind: 'values', values: { [`${at}/shadowsOf`]: others } },
        note: `Or move it out: it stands inside. ${body || inside} throws no shadow of this light any more.`,
      };
    }
  }
};
