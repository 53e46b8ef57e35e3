/**
 * Limits: a depth limit, or the overall limit behind it, ends paths that still carry light. Black glass (transmission), black
 * reflections (specular) and rooms that stay dark (diffuse) are its cases.
 */
import type { Limits } from '../../predict/limit-pilot.ts';
import { ofRenders, type Cause, type Family, type Propose, type Words } from '../family.ts';
import { capital, listed, percent, plural } from '../words.ts';
import { casesOf, KINDS, type Kind, type LimitCase } from './case.ts';
import { alpha } from './causes/alpha.ts';
import { directOnly } from './causes/direct-only.ts';
import { diffuse } from './causes/diffuse.ts';
import { overallHidesOther } from './causes/overall-hides-other.ts';
import { specular } from './causes/specular.ts';
import { transmission } from './causes/transmission.ts';
import { volume } from './causes/volume.ts';
import { wastedDepth } from './causes/wasted-depth.ts';
import { crossingsOf, curveOf, needsOf } from './evidence.ts';
import { enough } from './remedies/enough.ts';
import { knee } from './remedies/knee.ts';
import { lean } from './remedies/lean.ts';
import { wasteCases, type WasteCase } from './waste.ts';

const PLACE: Record<Kind, string> = {
  transmission: 'Glass is dark inside',
  specular: 'Reflections are black',
  diffuse: 'Indirect light stops early',
  volume: 'Volumes are dark',
  alpha: 'What is behind transparent surfaces is black',
};
/** What a limit of each kind counts. */
const COUNTED: Record<Kind, string> = {
  transmission: 'transmission event',
  specular: 'specular event',
  diffuse: 'diffuse event',
  volume: 'volume event',
  alpha: 'transparent surface',
};

export type AnyLimitCase = LimitCase | WasteCase;

/** What is about light that ends at a limit says nothing of limits that are never reached. */
const ofCut = (cause: Cause<LimitCase>): Cause<AnyLimitCase> => ({ ...cause, share: (of) => (of.kind === 'waste' ? null : (cause.share?.(of) ?? null)) }); // prettier-ignore
const forCut = (propose: Propose<LimitCase>): Propose<AnyLimitCase> => (of) => (of.kind === 'waste' ? null : propose(of)); // prettier-ignore

export const limits: Family = {
  id: 'limits',
  title: 'Light that ends at a limit',
  healthy: 'No limit removes light that would be missed, and none is far above what the light uses.',
  isEarly: true,
  render: ofRenders<AnyLimitCase>({
    needs: () => ['beauty', 'error.beauty', 'crossings', ...[...KINDS, 'any'].map((cut) => `cut.${cut}`)],
    cases: (input) => [...casesOf(input), ...wasteCases(input)],
    causes: [...[transmission, specular, diffuse, directOnly, volume, alpha, overallHidesOther].map(ofCut), wastedDepth], // prettier-ignore
    remedies: [forCut(enough), forCut(knee), lean],
    figure: 'brightness',
    tell: (of) => (of.kind === 'waste' ? tellWaste(of) : tell(of)),
    dials: (of) =>
      of.kind === 'waste'
        ? changedOf(of).map((kind) => ({ pointer: `/limits/${kind}`, needs: of.lean[kind], note: null }))
        : [
            { pointer: `/limits/${of.kind}`, needs: of.enough[of.kind], note: null },
            { pointer: '/limits/overall', needs: of.enough.overall, note: of.isHidden ? `decides at ${of.now.overall}` : null }, // prettier-ignore
          ],
    evidence: (of) => (of.kind === 'waste' ? [] : [curveOf(of), needsOf(of), ...crossingsOf(of)]),
  }),
};

const changedOf = ({ now, lean: need }: WasteCase) => (Object.keys(now) as (keyof Limits)[]).filter((kind) => now[kind] !== need[kind]); // prettier-ignore

function tellWaste(of: WasteCase): Words {
  const { now, lean: need, saved, kept } = of;
  const most = changedOf(of).map((kind) => `${kind} ${now[kind]} where ${need[kind]} ${need[kind] === 1 ? 'is' : 'are'} used`); // prettier-ignore
  return {
    sentence: `Limits are far above what the light uses: ${percent(saved)} of the rays contribute a thousandth of it or less.`,
    headline: capital(listed(most)),
    why: `Traced without limits, ${(100 * kept).toFixed(1)} % of the light is there within the lower limits. Another frame, or more glass, may need more.`,
  };
}

function tell(of: LimitCase): Words {
  const { kind, now, enough: need, through, isHidden, faces } = of;
  const overall = isHidden ? ` and the overall (${now.overall})` : '';
  const told = faces ? `${faces.told}; 95 % of straight paths here cross at most ${faces.usual}. ` : '';
  const light = isHidden
    ? `Behind ${kind} ${now[kind]} stands the overall limit ${now.overall}: raising the first alone lets ${percent(through.alone)} through, both let ${percent(through.enough)}.`
    : `Now ${percent(through.now)} gets through; ${need[kind]} let ${percent(through.enough)}.`;
  return {
    sentence: `${PLACE[kind]}: ${percent(1 - through.now)} of the light ends at the ${kind} limit (${now[kind]})${overall}.`,
    headline: headlineOf(of),
    why: told + light,
  };
}

/** By the limit that decides: the overall one where it comes before the kind's own. */
function headlineOf({ kind, now, enough: need, isHidden, faces }: LimitCase): string {
  const isOverall = isHidden && now.overall < now[kind];
  const last = isOverall ? now.overall : now[kind];
  const limit = isOverall ? `the overall limit, ${last}` : `${last}`;
  if (faces && faces.most > last) return `A straight path crosses ${plural(faces.most, 'face')}; paths end at ${limit}`;
  const counted = isOverall ? plural(last, 'event') : plural(last, COUNTED[kind]);
  return `Paths end after ${counted}${isOverall ? ', whatever their kind' : ''}; the light needs ${isOverall ? need.overall : need[kind]}`;
}
