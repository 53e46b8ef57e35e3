/**
 * Limits: a depth limit, or the overall limit behind it, ends paths that still carry light. Black glass (transmission), black
 * reflections (specular) and rooms that stay dark (diffuse) are its cases.
 */
import { ofRenders, type Family, type Words } from '../family.ts';
import { percent } from '../words.ts';
import { casesOf, type Kind, type LimitCase } from './case.ts';
import { diffuse } from './causes/diffuse.ts';
import { overallHidesOther } from './causes/overall-hides-other.ts';
import { specular } from './causes/specular.ts';
import { transmission } from './causes/transmission.ts';
import { curveOf } from './evidence.ts';
import { enough } from './remedies/enough.ts';
import { knee } from './remedies/knee.ts';

const PLACE: Record<Kind, string> = {
  transmission: 'Glass is dark inside',
  specular: 'Reflections are black',
  diffuse: 'Indirect light stops early',
};

export const limits: Family = {
  id: 'limits',
  title: 'Light that ends at a limit',
  healthy: 'No limit takes light that anybody would miss.',
  render: ofRenders<LimitCase>({
    needs: () => ['beauty', 'error.beauty', 'crossings', ...['diffuse', 'specular', 'transmission', 'any'].map((cut) => `cut.${cut}`)], // prettier-ignore
    cases: casesOf,
    causes: [transmission, specular, diffuse, overallHidesOther],
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

function tell({ kind, now, enough: need, through, isHidden, faces }: LimitCase): Words {
  const overall = isHidden ? ` and the overall (${now.overall})` : '';
  const told = faces ? `${faces.told}; 95 % of straight paths here cross at most ${faces.usual}. ` : '';
  const light = isHidden
    ? `Behind ${kind} ${now[kind]} stands the overall limit ${now.overall}: raising the first alone lets ${percent(through.alone)} through, both let ${percent(through.enough)}.`
    : `Now ${percent(through.now)} gets through; ${need[kind]} let ${percent(through.enough)}.`;
  return {
    sentence: `${PLACE[kind]}: ${percent(1 - through.now)} of the light ends at the ${kind} limit (${now[kind]})${overall}.`,
    headline: faces
      ? `A straight path crosses ${faces.most} faces; paths end at ${now.transmission}`
      : `Paths end after ${now[kind]} ${kind} ${now[kind] === 1 ? 'event' : 'events'}; the light needs ${need[kind]}`,
    why: told + light,
  };
}
