/**
 * Limits: a depth limit, or the overall limit behind it, ends paths that still carry light. Black glass (transmission), black
 * reflections (specular) and rooms that stay dark (diffuse) are its cases.
 */
import { ofRenders, type Family, type Words } from '../family.ts';
import { percent, plural } from '../words.ts';
import { casesOf, KINDS, type Kind, type LimitCase } from './case.ts';
import { alpha } from './causes/alpha.ts';
import { directOnly } from './causes/direct-only.ts';
import { diffuse } from './causes/diffuse.ts';
import { overallHidesOther } from './causes/overall-hides-other.ts';
import { specular } from './causes/specular.ts';
import { transmission } from './causes/transmission.ts';
import { volume } from './causes/volume.ts';
import { curveOf } from './evidence.ts';
import { enough } from './remedies/enough.ts';
import { knee } from './remedies/knee.ts';

const PLACE: Record<Kind, string> = {
  transmission: 'Glass is dark inside',
  specular: 'Reflections are black',
  diffuse: 'Indirect light stops early',
  volume: 'Fog is dark',
  alpha: 'What stands behind see-through surfaces is black',
};
/** What a limit of each kind counts. */
const COUNTED: Record<Kind, string> = {
  transmission: 'transmission event',
  specular: 'specular event',
  diffuse: 'diffuse event',
  volume: 'fog event',
  alpha: 'see-through surface',
};

export const limits: Family = {
  id: 'limits',
  title: 'Light that ends at a limit',
  healthy: 'No limit takes light that anybody would miss.',
  isEarly: true,
  render: ofRenders<LimitCase>({
    needs: () => ['beauty', 'error.beauty', 'crossings', ...[...KINDS, 'any'].map((cut) => `cut.${cut}`)],
    cases: casesOf,
    causes: [transmission, specular, diffuse, directOnly, volume, alpha, overallHidesOther],
    remedies: [enough, knee],
    figure: 'brightness',
    tell,
    dials: ({ kind, now, enough: need, isHidden }) => [
      { pointer: `/limits/${kind}`, needs: need[kind], note: null },
      { pointer: '/limits/overall', needs: need.overall, note: isHidden ? `decides at ${now.overall}` : null },
    ],
    evidence: (of) => [curveOf(of)],
  }),
};

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
