/** Linear values as they are: what a display without a curve would be sent. */
import type { ViewTransform } from './transform.ts';

export const definition: ViewTransform = {
  name: 'None',
  source: 'linear values as they are',
  display: (linear) => linear,
};
