/** What kind of noise it is: which dial would lower most of it, and where it stands. */
import { channel } from '../../data/picture.ts';
import { cropPlane } from '../../picture/measured.ts';
import type { SampleModel } from '../../predict/sample-plan.ts';
import { lightName } from '../light-name.ts';
import { shares } from './attribution.ts';
import type { Guilty } from './suspects/registry.ts';
import type { Plans } from './plans.ts';

type Part = keyof SampleModel['parts'];

const TOLD: Record<Part, (pass: string) => string> = {
  light: () => 'too few light samples',
  diffuse: () => 'too few diffuse samples',
  specular: (pass) => (pass.startsWith('specular') ? 'blurred reflections' : 'too few reflection samples'),
  transmission: () => 'what is seen through glass',
  volume: () => 'fog',
  camera: () => 'too few samples per pixel',
};
const WHY: Record<Part, string> = {
  light: 'More samples of each light would lower most of it: soft shadows are made of them.',
  diffuse: 'More diffuse samples would lower most of it.',
  specular: 'More reflection samples would lower most of it.',
  transmission: 'More transmission samples would lower most of it.',
  volume: 'More fog samples would lower most of it.',
  camera: 'Samples of one kind would not help: it stands between camera samples, so that only more of those do.',
};
/** A pixel is at an edge where another object has this share of it. */
const EDGE = 0.02;
/** Share of the noise from which on edges, or one light, are told. */
const MOST = 0.6;
/** Share that makes what was proved the headline. */
const PROVED = 0.5;

/**
 * @param pass with most of it
 * @param guilty what was proved to be guilty of it, the most guilty first
 */
export function kindOf(
  { input, region, model, weights, pilot }: Plans,
  pass: string,
  guilty: Guilty[],
): { told: string; why: string } {
  const [[part]] = Object.entries(model.parts).sort((a, b) => b[1] - a[1]) as [Part, number][];
  const { picture } = input;
  const coverage = cropPlane(picture, channel(picture, 'object.coverage'), region);
  const sigma = cropPlane(picture, channel(picture, 'error.beauty'), region);
  let [all, edges] = [0, 0];
  sigma.forEach((s, i) => {
    const own = weights[i] * s * s;
    all += own;
    if (coverage[i] > 0 && coverage[i] < 1 - EDGE) edges += own;
  });
  const isEdges = part === 'camera' && edges > MOST * all;
  const [light] = shares([...pilot.byLight].map((share, row) => ({ label: lightName(input, row), share })));
  const byLight = light && light.share >= MOST ? ` ${Math.round(100 * light.share)} % of it is light of ${light.label}.` : ''; // prettier-ignore
  const proved = guilty
    .map(({ suspect, share }) => ` ${Math.round(100 * share)} % goes with ${suspect.told}.`)
    .join('');
  const isProved = guilty.length > 0 && guilty[0].share >= PROVED;
  // What is mirrored or seen through glass has edges of its own, where the object before it has none.
  const isInside = part === 'camera' && !isEdges && /^(specular|transmission)/.test(pass);
  const seen = isInside ? 'edges and fine detail in what is mirrored or seen through' : TOLD[part](pass);
  return {
    told: isProved ? guilty[0].suspect.told : isEdges ? 'edges and fine detail' : seen,
    why: `${WHY[part]}${proved}${byLight}${isEdges ? ' Most of it is at edges: a wider pixel filter softens them too.' : ''}`,
  };
}
