/** Surfaces that glow by their own colour image: emission that was left on, as files bring it that fake an ambient light with it. */
import { luminancePlane } from '../../../picture/measured.ts';
import { capital, percent } from '../../words.ts';
import type { TextureFault } from '../fault.ts';

/** Share of a surface’s light that it gives off itself: less is no matter, more is a lamp. */
const [FAINT, LAMP] = [0.05, 0.9];

export const glow: TextureFault = {
  cause: 'textures.glow-left-on',
  find(uses, { document, picture }) {
    const both = uses.filter(({ spec, worn }) => worn.some(({ material, slot }) => slot === 'emissionMap' && isSame(material, spec.texture)));
    const [beauty, emission] = ['beauty', 'emission'].map((pass) => luminancePlane(picture, pass));
    return both.flatMap(({ worn, objects, pixels, spec }) => {
      const [all, own] = [beauty, emission].map((plane) => pixels.reduce((sum, i) => sum + plane[i], 0));
      const share = all > 0 ? own / all : 0;
      const materials = [...new Set(worn.filter(({ slot }) => slot === 'emissionMap').map(({ material }) => material))];
      const isOn = materials.some((id) => document.materials[id].emissionStrength > 0);
      if (!isOn || share < FAINT || share > LAMP) return [];
      return [
        {
          about: spec.texture,
          objects,
          pixels,
          passes: ['emission'],
          words: {
            sentence: `${capital(objects[0])} glows: ${percent(share)} of its light is emission.`,
            headline: 'Emission was left on, with the base colour image',
            why: 'The same image drives base colour and emission: it glows in shadow, as no print does.',
          },
          proposals: [{ id: 'no-glow', title: `Switch the emission of ${materials.map((id) => document.materials[id].name || id).join(', ')} off`, change: { kind: 'values', values: Object.fromEntries(materials.map((id) => [`/materials/${id}/emissionStrength`, 0])) } }],
          measured: { share },
        },
      ];
    });

    function isSame(material: string, texture: string): boolean {
      const { baseColourMap } = document.materials[material];
      const map = baseColourMap === null ? null : document.maps[baseColourMap];
      return map?.kind === 'image' && map.texture === texture;
    }
  },
}; // prettier-ignore
