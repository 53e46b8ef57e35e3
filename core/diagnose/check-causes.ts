/** Checks of preflight that see a cause of the catalogue, by their ids. */
import type { CauseId } from './catalogue.ts';

export const CAUSE_OF_CHECK: Partial<Record<string, CauseId>> = {
  'motion-static': 'motion.static-flag',
  'camera-clip': 'scale.camera-near',
  'lights-missing': 'lighting.nothing-lights',
  'environment-missing': 'lighting.environment-missing',
  'tiny-bright-emitter': 'fireflies.small-emitter',
  'scene-units': 'scale.units-wrong',
  'scene-scale': 'scale.units-wrong',
  'offset-in-vertices': 'scale.offset-in-vertices',
  'pivot-far': 'scale.pivot-far',
  'far-from-origin': 'scale.single-precision',
  'reversed-normals': 'normals.reversed',
  'mixed-winding': 'normals.mixed-winding',
  'bad-normals': 'normals.invalid',
  'one-sided-texture': 'normals.one-sided',
  'texture-colour-space': 'textures.data-read-as-colour',
  'uv-missing': 'textures.uv-missing',
  'uv-set-without-data': 'textures.uv-set-empty',
  'uv-out-of-tile': 'textures.wrapped',
  'tile-missing': 'seams.tile-missing',
  'uv-overlap': 'textures.uv-overlap',
  'texture-bit-depth': 'textures.banding',
  'limit-overridden': 'limits.overall-hides-other',
};

/** Other causes that a check sees as well: told by a render, they are what it saw. */
export const ALSO_OF_CHECK: Partial<Record<string, readonly CauseId[]>> = {
  'texture-colour-space': ['textures.colour-read-as-data'],
  'reversed-normals': ['normals.against-faces'],
};

/** What a render shows is another thing once these are dealt with. */
export const UPSTREAM_CHECKS: ReadonlySet<string> = new Set([
  'lights-missing',
  'file-missing',
  'texture-missing',
  'material-missing',
]);
