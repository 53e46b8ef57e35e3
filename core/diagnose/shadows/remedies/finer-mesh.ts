/** Faces divided until steps and corners vanish; or a light wide enough to blur them. */
import { MOST_LEVELS } from '../../../document/schema/things.ts';
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { ShadowCase } from '../case.ts';
import type { JaggedCase } from '../jagged.ts';
import type { OutlineCase } from '../outline.ts';

/** Degrees between a face and its smooth normal, and pixels off a curve, that nobody sees. */
const FINE = { degrees: 1, pixels: 0.5 };
/** Levels that are proposed at most: each has four times the faces. */
const MOST = Math.min(4, MOST_LEVELS);

export const finerMesh: Propose<ShadowCase> = (of) =>
  of.kind === 'jagged'
    ? // Each level halves the angle between faces.
      [...wider(of, 2 * of.degrees), subdivided(of, Math.log2(of.degrees / FINE.degrees))]
    : of.kind === 'outline'
      ? // … and the length of edges too, so that a quarter is left of what they are off.
        subdivided(of, Math.log2(of.off / FINE.pixels) / 2)
      : null;

function subdivided({ document, ids, objects }: JaggedCase | OutlineCase, levels: number): Proposal {
  const more = Math.min(MOST, Math.max(1, Math.ceil(levels)));
  const values = Object.fromEntries(ids.map((id) => [`/objects/${id}/subdivision/level`, Math.min(MOST_LEVELS, document.objects[id].subdivision.level + more)])); // prettier-ignore
  return {
    id: 'mesh',
    title: `Subdivide ${listed(objects!)} ${more === 1 ? 'once' : `${more} times`}${ids.some((id) => document.objects[id].subdivision.level > 0) ? ' more' : ''}`,
    change: { kind: 'values', values },
    note: 'Catmull–Clark shrinks a coarse shape slightly; a finer mesh from the modeller doesn’t.',
  };
}

function wider({ document, light: id }: JaggedCase, degrees: number): Proposal[] {
  const light = document.lights[id];
  if (light.kind !== 'distant') return [];
  const angle = +Math.min(20, degrees).toPrecision(2);
  return [
    {
      id: 'wider',
      title: `${light.name || id} at ${angle}°, wide enough to blur the steps`,
      change: { kind: 'values', values: { [`/lights/${id}/angle`]: angle } },
      note: 'Its shadows get softer by as much.',
    },
  ];
}
