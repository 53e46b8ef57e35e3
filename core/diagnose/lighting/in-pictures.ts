/** Pictures by themselves that hold display values where light should be: shown, they go through the display's curve twice. */
import { coloursOf } from '../../formats/layers.ts';
import { displayGrid } from '../../textures/display-grid.ts';
import type { Case, Reading } from '../family.ts';
import type { PictureInput } from '../picture-input.ts';

export const curveInPictures: Reading<PictureInput, Case> = {
  cases(picture) {
    const { width, height, beauty, planes } = picture;
    const grids = coloursOf(beauty)!.map((name) => displayGrid(planes.get(name)!));
    if (!grids.every((grid) => grid === 'display')) return [];
    return [
      {
        key: 'lighting.display-curve-twice',
        severity: 'caution',
        region: { x: 0, y: 0, width, height },
        mask: null,
        passes: beauty.channels,
      },
    ];
  },
  causes: [{ id: 'lighting.display-curve-twice', isUpstream: true, share: () => 1 }],
  remedies: [
    () => ({
      id: 'write-linear',
      title: 'Write it before the display curve, or read its values as sRGB',
      change: null,
      note: 'Until then, look at it with the view transform “None”. Figures of noise and exposure are those of the washed-out picture.',
    }),
  ],
  tell: () => ({
    sentence: 'Its values are display-referred, and go through the display curve twice: dark areas are washed out.',
    headline: 'Floats that are whole 255ths and end at white',
    why: 'Linear light from a renderer is never on such a grid; an 8-bit display picture is. Read as linear, mid grey is 0.46 instead of 0.18.',
  }),
  evidence: () => [],
};
