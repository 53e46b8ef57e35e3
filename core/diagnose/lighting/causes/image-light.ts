/** A display picture lights the scene: as if white were the brightest there is, or with its curve left on. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const displayPictureAsLight: Cause<LightingCase> = {
  id: 'lighting.display-picture-as-light',
  isUpstream: true,
  share: (of) => (of.kind === 'image' && of.fault === 'white' ? 1 : null),
};

/** Of files of floats the curve is in the file: a picture is shown through it once more. */
export const displayCurveTwice: Cause<LightingCase> = {
  id: 'lighting.display-curve-twice',
  isUpstream: true,
  share: (of) => (of.kind === 'image' && of.fault === 'baked' ? 1 : null),
};

export const displayCurveMissing: Cause<LightingCase> = {
  id: 'lighting.display-curve-missing',
  isUpstream: true,
  share: (of) => (of.kind === 'image' && of.fault === 'linear' ? 1 : null),
};
