/** Ambient occlusion: passes that are black, blank or blotchy, and what stands behind glass in them. */
import type { Evidence } from '../../contracts/finding.ts';
import { changeOf } from '../../figures/effect.ts';
import { metres } from '../../intake/preflight/tell.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import { listed, percent } from '../words.ts';
import { occlusionCases, type OcclusionCase } from './case.ts';
import { byFault } from './causes/by-fault.ts';
import { setRight } from './remedies/set-right.ts';

export const occlusion: Family = {
  id: 'occlusion',
  title: 'Ambient occlusion',
  healthy: 'Occlusion separates near from far: neither black nor blank, and as clean as it needs to be.',
  isEarly: true,
  render: ofRenders<OcclusionCase>({
    needs: () => ['beauty', 'coverage', 'diffuse.direct', 'diffuse.indirect'],
    cases: occlusionCases,
    causes: byFault,
    remedies: [setRight],
    figure: 'openness',
    goesWith: (effect) => Math.min(1, Math.abs(changeOf(effect, 'openness') ?? 0)),
    tell,
    dials: ({ kind, curve, enough, cone }) => {
      if (kind === 'faceted') return [{ pointer: '/occlusion/cone', needs: cone, note: null }];
      if (kind === 'few') return [{ pointer: '/extraSamples/occlusion', needs: enough, note: null }];
      return kind === 'closed' || kind === 'long' || kind === 'short'
        ? [{ pointer: '/occlusion/distance', needs: curve.best!.metres, note: null }]
        : [];
    },
    evidence: (of) => [curveOf(of)],
  }),
};

const far = (value: number | null): string => (value === null || value === Infinity ? 'any distance' : metres(+value.toPrecision(2))); // prettier-ignore

function tell(of: OcclusionCase): Words {
  const { kind, now, curve, occlusion: set, from, to, share, rays, error, enough, objects } = of;
  const bits = (value: number) => value.toFixed(1);
  const most = Math.max(0, ...curve.points.map(({ information }) => information));
  const best = curve.best;
  const left = error * Math.sqrt(of.samples / Math.max(1, enough));
  const why = best
    ? `The pass tells ${bits(now.information)} bits per point, and up to ${bits(most)} at ${far(best.from)} to ${far(best.to)}: ${percent(now.open)} of the points are open, ${percent(now.shut)} occluded.`
    : '';
  switch (kind) {
    case 'closed':
      return { sentence: `Occlusion in a closed room is black: at ${far(set.distance)}, ${percent(now.shut)} of the view is occluded.`, headline: 'Every ray hits a wall in the end', why };
    case 'long':
      return { sentence: `The occlusion distance is too long: ${far(set.distance)} where ${far(best!.metres)} tells most.`, headline: 'Distant objects darken open areas', why };
    case 'short':
      return { sentence: `The occlusion distance is too short: ${far(set.distance)} where ${far(best!.metres)} tells most.`, headline: `A line drawing: ${percent(now.open)} of the view is fully open`, why };
    case 'inward':
      return { sentence: 'Occlusion is measured into the bodies, and tells nothing about what is in front of them.', headline: `${percent(now.shut)} is occluded, ${percent(now.open)} is open`, why: `Inward occlusion measures how thick things are. ${why}` };
    case 'opaque':
      return { sentence: `Occlusion treats glass as a wall: on ${percent(share)} of the picture it is not that of what you see.`, headline: `${percent(from)} open, where what is behind is ${percent(to)} open`, why: 'Without see-through occlusion the pass shows the glass itself, and what is behind or beside it is as dark as behind a wall.' };
    case 'faceted':
      return { sentence: `Occlusion is stepped along the faces of ${listed(objects!)}, by ${error.toFixed(0)} of 255.`, headline: 'Smooth normals tilt over coarse faces', why: 'Around a tilted smooth normal, some rays start below the face itself and count as occluded. It looks like too few samples but isn’t: more rays only make the steps clearer.' };
    case 'few':
      return { sentence: `The occlusion pass is noisy: ${rays} rays per pixel leave ${error.toFixed(0)} of 255.`, headline: `${enough} occlusion samples leave ${left.toFixed(0)}`, why: 'A ray is either open or occluded: the standard error is binomial (Wilson 1927), largest in the mid greys. Stepped geometry looks similar, and more rays don’t change that.' };
    case 'twice':
      return { sentence: 'Occlusion dims light that is already traced: enclosed areas are darkened twice.', headline: `${percent(share)} of the view is dimmed once more, to ${percent(from)} of its light (${Math.log2(Math.max(1e-3, from)).toFixed(1).replace('-', '−')} stops)`, why: 'Bounced and ambient light already fall off in corners. Occlusion stands in for that where neither is traced.' };
    case 'itself':
      return { sentence: `${objects![0]} occludes itself right at its surface.`, headline: 'Two shells, one inside the other', why: `On ${percent(share)} of the picture nearly every ray hits the same object right where it starts.` };
  }
} // prettier-ignore

function curveOf({ curve, occlusion: { distance } }: OcclusionCase): Evidence {
  const { points, best } = curve;
  const series = (label: string, of: 'open' | 'shut' | 'between') => ({ label, points: points.map((one) => [one.metres, 100 * one[of]] as [number, number]) }); // prettier-ignore
  return {
    kind: 'curve',
    title: 'Open, occluded and in between at each distance',
    x: { label: 'distance', unit: 'm', scale: 'logarithmic' },
    y: { label: 'of the points', unit: '%', max: 100 },
    series: [series('open', 'open'), series('in between', 'between'), series('occluded', 'shut')],
    marks: [
      ...(distance === null ? [] : [{ x: distance, label: `now ${distance} m`, kind: 'now' as const }]),
      ...(best ? [{ x: best.metres, label: `${best.metres} m`, kind: 'enough' as const }] : []),
    ],
  };
}
