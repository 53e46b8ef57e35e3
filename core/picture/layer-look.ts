/** How a layer of any picture is to be shown, by its role and the names of its channels. */
import { coloursOf, type Layer } from '../formats/layers.ts';
import type { PassLook } from '../render/film/pass-list.ts';

const endings = ({ channels }: Layer) => channels.map((name) => name.slice(name.lastIndexOf('.') + 1).toLowerCase()).join(''); // prettier-ignore

/** @returns the look, and the channels that are shown in it */
export function layerLook(layer: Layer): { look: PassLook; channels: string[] } {
  const colours = coloursOf(layer);
  const ends = endings(layer);
  const [first] = layer.channels;
  if (layer.role === 'matte' || /(^|[._ ])(id|object|material)$/i.test(layer.name))
    return { look: 'id', channels: [first] };
  if (colours && !(layer.role === 'data' && /^(n|normals?|p|position)$/i.test(layer.name)))
    return { look: 'light', channels: colours };
  const three = colours ?? layer.channels.slice(0, 3);
  if (/^n|normal/i.test(layer.name) && three.length === 3) return { look: 'direction', channels: three };
  if (/motion|velocity|vector/i.test(layer.name) && layer.channels.length >= 2)
    return { look: 'flow', channels: layer.channels.slice(0, 2) };
  if (three.length >= 2 && /^(xy|uv)/.test(ends)) return { look: 'place', channels: three };
  if (/^a(lpha)?$|coverage|openness|occlusion|shadow/i.test(`${layer.name}${ends.length === 1 ? ends : ''}`))
    return { look: 'share', channels: [first] };
  return { look: 'amount', channels: [first] };
}
