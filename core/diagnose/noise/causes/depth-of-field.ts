/**
 * A lens of some width meets what is out of focus in another place with each sample. It is proved by a pinhole, which is no remedy.
 * Source: Cook, Porter & Carpenter, "Distributed Ray Tracing", SIGGRAPH 1984.
 */
import type { Cause } from '../../family.ts';
import type { NoiseCase } from '../case.ts';

export const depthOfField: Cause<NoiseCase> = {
  id: 'noise.depth-of-field',
  without(of) {
    if (of.kind !== 'over') return null;
    const { camera, cameras } = of.input.document;
    return cameras[camera].fStop === null ? null : { [`/cameras/${camera}/fStop`]: null };
  },
};
