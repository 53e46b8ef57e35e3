/** Displacement: maps that move a surface too far, not at all, all to one side, or over a mesh that cannot carry them. */
import type { Evidence } from '../../contracts/finding.ts';
import { tellAmount } from '../../figures/effect.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import { capital, percent } from '../words.ts';
import { reliefCases, type ReliefCase } from './case.ts';
import { causes } from './causes.ts';
import { newMap } from './remedies/new-map.ts';
import { raiseBump } from './remedies/raise-bump.ts';
import { setBound } from './remedies/set-bound.ts';
import { setLevel } from './remedies/set-level.ts';
import { setRelief } from './remedies/set-relief.ts';
import { shadeRest } from './remedies/shade-rest.ts';

export const displacement: Family = {
  id: 'displacement',
  title: 'Displacement',
  healthy: 'Displacement maps rest where they are flat, and the meshes are fine enough for them.',
  isEarly: true,
  render: ofRenders<ReliefCase>({
    needs: () => ['beauty', 'error.beauty', 'object'],
    cases: reliefCases,
    causes,
    remedies: [setRelief, setBound, setLevel, shadeRest, raiseBump, newMap],
    tell: (of) => TELL[of.cause](of),
    dials: ({ cause, most, proposed }) =>
      cause === 'displacement.too-little-geometry' && most !== null && most < proposed ? [{ pointer: '/mostSubdivision', needs: null, note: null }] : [],
    evidence: (of) => [histogram(of), ...levels(of)],
    measured: ({ study: { amplitude, size, stretch, level, map }, proposed }) => ({ amplitude, size, stretch, level, flat: map.flat?.value ?? null, proposed }),
  }),
}; // prettier-ignore

const TELL: Record<string, (of: ReliefCase) => Words> = {
  'displacement.scale-too-large': ({ name, study }) => ({
    sentence: `${capital(name)} is blown up by its displacement: ${tellAmount('metres', study.amplitude)} on an object of ${tellAmount('metres', study.size)}.`,
    headline: 'The scale of the displacement is far too large for the object',
    why: [`Its surface has ${study.stretch.toFixed(1)} times the area that it had.`, study.through.share > 0 ? `${percent(study.through.share)} of the points that move most go through the object.` : '', 'Usually a scale in units other than metres, or a scale of 1 from another object.'].filter(Boolean).join(' '),
  }),
  'displacement.scale-too-small': ({ name, study }) => ({
    sentence: `Displacement of ${name} does nothing: ${tellAmount('metres', study.amplitude)}, ${(study.amplitude / study.pixel).toFixed(2)} px.`,
    headline: 'The scale of the displacement is too small to be seen',
    why: `From lowest to highest it moves the surface by ${tellAmount('metres', study.amplitude)}; a pixel covers ${tellAmount('metres', study.pixel)} there.`,
  }),
  'displacement.rest-level': ({ name, study }) => {
    const { rest, scale } = study.shape.relief;
    const by = (study.map.flat!.value - rest) * scale;
    return {
      sentence: `All of ${name} is ${by > 0 ? 'raised' : 'sunk'} by ${tellAmount('metres', Math.abs(by))}: the map is flat at ${+study.map.flat!.value.toPrecision(3)}, and rests at ${rest}.`,
      headline: `The rest level is not where the map is flat`,
      why: `${percent(study.map.flat!.share)} of what is worn of the map is ${+study.map.flat!.value.toPrecision(3)}; ${KINDS[study.map.kind]}`,
    };
  },
  'displacement.bounds-too-small': ({ name, study: { beyond, shape } }) => ({
    sentence: `The relief of ${name} is cut flat: ${percent(beyond.share)} of it would move further than ${tellAmount('metres', shape.relief.bound)}.`,
    headline: 'The bound of the displacement is smaller than what the map asks for',
    why: `The map moves the surface by up to ${tellAmount('metres', beyond.farthest)}; what is beyond the bound stays at it.`,
  }),
  'displacement.self-intersecting': ({ name, study: { through } }) => ({
    sentence: `${capital(name)} is moved through itself in places.`,
    headline: 'The displacement goes further than the object is thick, or than its hollows are wide',
    why: `Of what moves most ${percent(through.share)} meets the other side of the object; the first does after ${percent(Math.min(1, through.least))} of its way.`,
  }),
  'displacement.clipped-range': ({ name, study }) => ({
    sentence: `${study.cut!.end === 'high' ? 'Peaks' : 'Hollows'} of the relief on ${name} are cut off: ${percent(study.cut!.share)} of it is ${study.cut!.end === 'high' ? 'white' : 'black'}.`,
    headline: 'The map has lost what lies beyond the range of its file',
    why: 'The relief runs into its plateaus at full slope, so they were clipped, not modelled.',
  }),
  'displacement.too-little-geometry': ({ name, study, proposed, most }) => ({
    sentence: `${capital(name)} has too little geometry for its displacement: ${percent(study.levels[study.level].carried!)} of the relief is there.`,
    headline: `Edges of ${study.levels[study.level].texels!.toFixed(0)} texels carry ${percent(study.levels[study.level].carried!)} of the map; level ${proposed} carries ${percent(study.levels[proposed].carried!)}`,
    why: [`An edge is ${tellAmount('metres', study.levels[study.level].metres)} long, ${study.levels[study.level].pixels.toFixed(1)} px; it takes at least two edges to show one wave.`, most !== null && most <= study.level ? `The sheet limits objects to ${most} levels.` : ''].filter(Boolean).join(' '),
  }),
  'displacement.too-much-geometry': ({ name, study, proposed }) => ({
    sentence: `${capital(name)} has more geometry than its displacement needs: ${study.levels[study.level].triangles.toLocaleString('en')} triangles.`,
    headline: `Level ${proposed} carries ${percent(study.levels[proposed].carried!)} of the map with ${study.levels[proposed].triangles.toLocaleString('en')} triangles`,
    why: `Edges are ${study.levels[study.level].pixels.toFixed(2)} px long.`,
  }),
  'displacement.bump-in-its-place': ({ name, study }) => ({
    sentence: `${capital(name)} wants displacement: its bump map is ${tellAmount('metres', study.amplitude)} deep, ${(study.amplitude / study.pixel).toFixed(1)} px.`,
    headline: 'Relief this deep shows in silhouettes and shadows, where a bump map has no effect',
    why: 'Bump maps tilt normals and move nothing.',
  }),
}; // prettier-ignore

const KINDS = {
  'both ways': 'it goes both ways from there.',
  raised: 'everything else is higher.',
  pressed: 'everything else is lower.',
  open: 'the rest lies on both sides.',
};

function histogram({ study: { map, shape } }: ReliefCase): Evidence {
  return {
    kind: 'histogram',
    title: 'Values of the map, where it is worn',
    x: { label: 'value' },
    counts: 'texels',
    bins: map.bins,
    marks: [
      { x: shape.relief.rest, label: `rest ${shape.relief.rest}`, kind: 'now' },
      ...(map.flat && Math.abs(map.flat.value - shape.relief.rest) > 0.005 ? [{ x: map.flat.value, label: `flat ${+map.flat.value.toPrecision(3)}`, kind: 'enough' as const }] : []),
    ],
  };
} // prettier-ignore

function levels({ study }: ReliefCase): Evidence[] {
  if (study.levels[0].carried === null) return [];
  return [
    {
      kind: 'table',
      title: 'Levels of subdivision',
      columns: ['level', 'edge, mm', 'pixels', 'texels', 'relief carried', 'triangles', 'MB'],
      rows: study.levels.map(({ level, metres, pixels, texels, carried, triangles, bytes }) => [
        level === study.level ? `${level}, now` : level,
        +(1000 * metres).toPrecision(3),
        +pixels.toPrecision(3),
        texels === null ? null : +texels.toPrecision(3),
        carried === null ? null : percent(carried),
        triangles,
        Math.ceil(bytes / 1e6),
      ]),
    },
  ];
}
