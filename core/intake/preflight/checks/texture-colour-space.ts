import { CAUTION, type Check } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import type { Offender } from '../check.ts';
import type { Scene } from '../scene.ts';
import { count } from '../tell.ts';

export const textureColourSpace: Check = {
  id: 'texture-colour-space',
  group: 'surface',
  title: 'Colour spaces',
  why: 'Colour read as data is too bright; roughness or normals read as colour are distorted.',
  threshold: CAUTION,
  run(scene) {
    const offenders: Offender[] = [];
    const values: Record<string, unknown> = {};
    for (const { texture, material } of scene.worn) {
      const { slot, image, colourSpace } = texture;
      if (colourSpace === 'unstated' || slot === 'other') continue;
      const isColour = slot === 'baseColour' || slot === 'emission';
      const isFloat =
        (scene.header(image)?.bits ?? 8) > 16 ||
        ['OpenEXR', 'Radiance HDR', 'PFM'].includes(scene.header(image)?.kind ?? '');
      const wanted = isColour && !isFloat ? 'srgb' : 'linear';
      // The alpha channel of a colour image has no curve.
      if (colourSpace === wanted || (slot === 'alpha' && texture.channel === 'alpha')) continue;
      offenders.push({
        object: scene.imageName(image),
        detail: `${slot} of "${material}" is read as ${colourSpace}, not ${wanted}`,
        count: 1,
      });
      const id = scene.documentTextureOf(image, colourSpace);
      // One that is worn as colour and as data at once needs a texture for each first.
      if (id !== null && !isBoth(scene, image)) values[`/textures/${id}/colourSpace`] = wanted;
    }
    const { document } = scene;
    return {
      expected: 'sRGB for colours, linear for data',
      found: count(offenders, 'texture'),
      offenders,
      repair: setValues('Read them in the right colour space', document, values),
    };
  },
};

const isBoth = (scene: Scene, image: number): boolean => {
  const slots = scene.worn.filter(({ texture }) => texture.image === image).map(({ texture }) => texture.slot);
  const colours = slots.filter((slot) => slot === 'baseColour' || slot === 'emission').length;
  return colours > 0 && colours < slots.length;
};
