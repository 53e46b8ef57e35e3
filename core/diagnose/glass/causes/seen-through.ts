/** What is seen through glass as it should not be, or not at all: tints placed wrong, a line of the environment, shadows without light. */
import type { CauseId } from '../../catalogue.ts';
import type { Cause } from '../../family.ts';
import type { GlassCase } from '../definition.ts';

const when = (id: CauseId, isUpstream: boolean, is: (of: GlassCase) => boolean): Cause<GlassCase> => ({ id, isUpstream, share: (of) => (is(of) ? 1 : null) }); // prettier-ignore

export const tintUpsideDown = when('glass.tint-upside-down', true, (of) => of.kind === 'tint-map' && of.fault === 'upside-down'); // prettier-ignore
export const tintMappingCopied = when('glass.tint-mapping-copied', true, (of) => of.kind === 'tint-map' && of.fault === 'copied'); // prettier-ignore
export const environmentLine = when('glass.environment-line', true, ({ kind }) => kind === 'sky-line');
export const cameraInside = when('glass.camera-inside', true, ({ kind }) => kind === 'eye');
export const blocksShadowRays = when('glass.blocks-shadow-rays', false, ({ kind }) => kind === 'black-shadow');
