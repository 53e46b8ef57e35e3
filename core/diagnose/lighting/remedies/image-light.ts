/** The curve undone; or a light where the image is white, for what was brighter is not in the file. */
import { placedAt } from '../../../data/aim.ts';
import { defaultLight } from '../../../document/defaults.ts';
import { freeId } from '../../../document/new-items.ts';
import { withoutCurve } from '../../../textures/read-as.ts';
import type { Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

/** The sun's width in degrees, and times the light of the sky that level ground gets from it: shadows of 1.5 stops. */
const SUN = 0.53;
const TIMES = 2 ** 1.5 - 1;

export const imageLight: Propose<LightingCase> = (of) => {
  if (of.kind !== 'image') return null;
  if (of.fault === 'linear')
    return {
      id: 'undo-curve',
      title: `Read ${of.file} as sRGB`,
      change: { kind: 'values', values: { [`/textures/${of.texture}/colourSpace`]: 'srgb' } },
      note: 'Maps that use the same texture change with it.',
    };
  if (of.fault === 'baked') {
    const { texture, file, assets } = of;
    const image = assets.textures.get(texture)!;
    return {
      id: 'undo-curve',
      title: `Undo the display curve of ${file}`,
      change: { kind: 'files', patch: [], work: { kind: 'undo curve', textures: [texture] } },
      files: { ...assets, textures: new Map(assets.textures).set(texture, withoutCurve(image)) },
      note: 'In a new file next to the old one. What was brighter than white is lost: only an image with its full range has it.',
    };
  }
  const { brightest, level, document } = of;
  if (!brightest || brightest.elevation < 1) return null;
  const intensity = +((TIMES * level) / Math.sin((brightest.elevation * Math.PI) / 180)).toPrecision(2);
  const angle = Math.max(SUN, Math.min(20, +brightest.degrees.toPrecision(2)));
  const light = { ...defaultLight('distant'), name: 'sun of the image', transform: placedAt(brightest.from, [0, 0, 0]), angle, intensity }; // prettier-ignore
  return {
    id: 'sun',
    title: 'Put a sun where the image is white',
    change: { kind: 'values', values: { [`/lights/${freeId(document.lights, 'sun')}`]: light } },
    note: 'How bright it was is not in the file: it gets shadows of 1.5 stops. Only an image with its full range (HDR, EXR) has it.',
  };
};
