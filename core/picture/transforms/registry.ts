/** The view transforms, in the order they are offered. Another one is a file and a line here. */
import { definition as filmic } from './filmic.ts';
import { definition as none } from './none.ts';
import { definition as rec709 } from './rec709.ts';
import { definition as srgb } from './srgb.ts';
import type { ViewTransform } from './transform.ts';

export const TRANSFORMS = { srgb, rec709, filmic, none } satisfies Record<string, ViewTransform>;
export type TransformId = keyof typeof TRANSFORMS;
