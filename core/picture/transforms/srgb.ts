/** Source: IEC 61966-2-1. */
import { srgbFromLinear } from '../../data/colour.ts';
import type { ViewTransform } from './transform.ts';

export const definition: ViewTransform = { name: 'sRGB', source: 'IEC 61966-2-1', display: srgbFromLinear };
