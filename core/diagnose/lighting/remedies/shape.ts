/** Light with a direction: a key from the side of the camera, or a sky that is brighter above, as bright on the whole. */
import { placedAt } from '../../../data/aim.ts';
import type { Triple } from '../../../data/placement.ts';
import { defaultLight } from '../../../document/defaults.ts';
import { freeId } from '../../../document/new-items.ts';
import type { Proposal, Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

/** Times the fill that the key brings where it falls: sides differ by 1.5 stops. */
const TIMES = 2 ** 1.5 - 1;
/** What a surface gets of the key's irradiance, on the average of those that it falls on and those that it does not. */
const AVERAGE = 0.4;
/** Of the sky's colour: at the nadir, the horizon and the zenith. */
const RUN = [0.3, 0.9, 1.8];

export const shape: Propose<LightingCase> = (of) => {
  if (of.kind !== 'flat') return null;
  const { document } = of;
  const level = Math.max(...of.ways.map(({ irradiance }) => irradiance));
  const { environment } = document;
  const less = 1 / (1 + AVERAGE * TIMES);
  const key = { ...defaultLight('distant'), name: 'key', transform: placedAt(sideways(of.towardsEye), [0, 0, 0]), angle: 3, intensity: +(TIMES * less * level).toPrecision(2) }; // prettier-ignore
  const proposals: Proposal[] = [
    {
      id: 'key',
      title: 'Add a key light beside the camera, and take the environment down',
      change: { kind: 'values', values: { [`/lights/${freeId(document.lights, 'key')}`]: key, '/environment/intensity': +(environment.intensity * less).toPrecision(3) } }, // prettier-ignore
      note: 'The key is 1.8 times the fill where it falls, for 1.5 stops between sides.',
    },
  ];
  if (environment.kind === 'constant')
    proposals.push({
      id: 'gradient',
      title: 'An environment that is brighter above than below',
      change: { kind: 'values', values: { '/environment/kind': 'gradient', '/environment/stops': RUN.map((factor, k) => ({ at: k / 2, colour: [factor, factor, factor] })) } }, // prettier-ignore
    });
  return proposals;
};

/** 45 degrees to the left of the eye and 45 above it. */
function sideways([x, , z]: Triple): Triple {
  const [c, s] = [Math.SQRT1_2, Math.SQRT1_2];
  const length = Math.hypot(x, z) || 1;
  const [ex, ez] = [x / length, z / length];
  return [c * (c * ex - s * ez), s, c * (s * ex + c * ez)];
}
