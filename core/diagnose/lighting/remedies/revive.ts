/** What lets a light shine on what is seen. */
import { aimed } from '../../../data/aim.ts';
import type { Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const revive: Propose<LightingCase> = (of) => {
  if (of.kind !== 'dead') return null;
  const { light, name, why, document, by, middle } = of;
  const at = `/lights/${light}`;
  const spec = document.lights[light];
  switch (why) {
    case 'turned-away':
      if (spec.kind === 'mesh') return null;
      return { id: 'aim', title: `Aim ${name} at the middle of the view`, change: { kind: 'values', values: { [`${at}/transform`]: aimed(spec.transform, middle) } } }; // prettier-ignore
    case 'out-of-reach':
      return { id: 'reach', title: `Let ${name} reach any distance`, change: { kind: 'values', values: { [`${at}/reach/distance`]: null } } }; // prettier-ignore
    case 'linked-away':
      return { id: 'link', title: `Let ${name} light everything`, change: { kind: 'values', values: { [`${at}/lights`]: { mode: 'all', objects: [] } } } }; // prettier-ignore
    case 'inside-object':
    case 'blocked': {
      const body = document.objects[by!].name || by!;
      const { mode, objects } = spec.shadowsOf;
      const others = mode === 'only' ? { mode, objects: objects.filter((id) => id !== by) } : { mode: 'except' as const, objects: [...(mode === 'except' ? objects : []), by!] }; // prettier-ignore
      return {
        id: 'out-of-object',
        title: `Let the light of ${name} ${why === 'blocked' ? 'through' : 'out of'} ${body}`,
        change: { kind: 'values', values: { [`${at}/shadowsOf`]: others } },
        note: `Or move it${why === 'blocked' ? '' : ' out'}: it stands ${why === 'blocked' ? 'behind' : 'inside'}. ${body} throws no shadow of this light any more.`,
      };
    }
  }
};
