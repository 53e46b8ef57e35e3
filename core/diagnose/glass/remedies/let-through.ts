/** The tint the right way up, the environment out of the glass, shadow rays through it. */
import { listed } from '../../words.ts';
import type { Propose } from '../../family.ts';
import type { GlassCase } from '../definition.ts';

export const letThrough: Propose<GlassCase> = (of) => {
  switch (of.kind) {
    case 'tint-map':
      if (!of.values) return null;
      return {
        id: of.fault === 'copied' ? 'place-tint' : 'turn-tint',
        title: of.fault === 'copied' ? `Place ${of.map} over all of ${of.name}` : `Turn ${of.map} over on ${of.name}`,
        change: { kind: 'values', values: of.values },
        note: Object.keys(of.values).some((key) => key.endsWith('/material')) ? 'Other objects share the map: this one gets its own.' : undefined, // prettier-ignore
      };
    case 'sky-line':
      return {
        id: 'hide-behind-glass',
        title: 'Hide the environment behind glass',
        change: { kind: 'values', values: { '/environment/visibility/transmission': false } },
        note: 'It lights the scene as before; behind glass there is black, or the background, where nothing else is.',
      };
    case 'black-shadow':
      return {
        id: 'see-through-shadows',
        title: `See-through shadows of ${listed(of.names)}`,
        change: { kind: 'values', values: Object.fromEntries(of.ids.map((id) => [`/objects/${id}/seeThroughShadows`, true])) }, // prettier-ignore
        note: 'Light goes straight through, tinted: no caustics.',
      };
    case 'eye':
      return {
        id: 'hide-from-camera',
        title: `Hide ${listed(of.names)} from the camera`,
        change: { kind: 'values', values: Object.fromEntries(of.ids.map((id) => [`/objects/${id}/visibility/camera`, false])) }, // prettier-ignore
        note: 'It still lights and is reflected. Moving the camera out of it keeps it in the picture.',
      };
    default:
      return null;
  }
};
