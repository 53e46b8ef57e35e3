/** Source: ITU-R BT.709-6, item 1.2. */
import type { ViewTransform } from './transform.ts';

export const definition: ViewTransform = {
  name: 'Rec.709',
  source: 'ITU-R BT.709-6, item 1.2',
  display: (linear) => (linear < 0.018 ? 4.5 * linear : 1.099 * linear ** 0.45 - 0.099),
};
