/** Lights that light nothing, and light that blows out. */
import { lookAt, multiply, rotationX, translation } from '../../../core/data/transform.ts';
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { box } from '../../../demo/shapes.ts';
import { square } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import { type Fault } from './fault.ts';

/** A sky of 64 × 32 texels as a display picture, with a bright place that is white or stays below it. */
function skyPicture(draft: Draft, { isWhite, at: [column, row] }: { isWhite: boolean; at: [number, number] }): void {
  const [width, height] = [64, 32];
  const texels = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const isBright = Math.hypot(x - column, y - row) < 2.5;
      const level = isBright ? (isWhite ? 1 : 0.8) : 0.2 + 0.4 * (1 - y / height);
      texels.set([level, level, isBright ? level : 1.1 * level], (y * width + x) * 3);
    }
  draft.textures.set('sky', { width, height, texels, alpha: null, colourSpace: 'srgb' });
  draft.document.textures.sky = { file: 'sky.jpg', colourSpace: 'srgb' };
  Object.assign(draft.document.environment, { kind: 'image', texture: 'sky', colour: [1, 1, 1] });
}

export const lightingFaults: Fault[] = [
  {
    cause: 'lighting.light-turned-away',
    isUpstream: true,
    plant({ document }) {
      const { key } = document.lights;
      const [x, y, z] = key.transform.slice(12, 15);
      key.transform = lookAt([x, y, z], [2 * x, 2 * y - 0.3, 2 * z]);
    },
  },
  {
    cause: 'lighting.light-out-of-reach',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.reach = { distance: draw.within(0.3, 0.8), bounces: null };
    },
  },
  {
    cause: 'lighting.light-inside-object',
    isUpstream: true,
    plant(draft) {
      const { document } = draft;
      const [x, y, z] = document.lights.key.transform.slice(12, 15);
      draft.put('housing', box([x - 0.8, y - 0.8, z - 0.8], [x + 0.8, y + 0.8, z + 0.8]), { baseColour: [0.3, 0.3, 0.3] }, { visibility: { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true } }); // prettier-ignore
    },
  },
  {
    cause: 'lighting.linked-away',
    isUpstream: true,
    plant({ document }) {
      document.lights.key.lights = { mode: 'only', objects: [] };
    },
  },
  {
    cause: 'lighting.background-tied',
    plant({ document, draw }) {
      // No walls: the sky is seen.
      for (const id of ['back', 'left', 'right']) delete document.objects[id];
      document.environment = evenEnvironment(draw.colour(1.1, 1.3));
      for (const { baseColour } of Object.values(document.materials))
        baseColour.forEach((c, a) => (baseColour[a] = c / 2));
    },
  },
  {
    cause: 'lighting.overexposed',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.intensity *= draw.within(15, 40);
    },
  },
  {
    cause: 'lighting.environment-too-dark',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights = {};
      document.environment = evenEnvironment(draw.colour(0.004, 0.01));
    },
  },
  {
    cause: 'lighting.display-picture-as-light',
    isUpstream: true,
    plant(draft) {
      const { draw } = draft;
      skyPicture(draft, { isWhite: true, at: [draw.whole(4, 56), draw.whole(5, 11)] });
    },
  },
  {
    cause: 'lighting.display-curve-missing',
    isUpstream: true,
    plant(draft) {
      skyPicture(draft, { isWhite: false, at: [draft.draw.whole(4, 56), 8] });
      draft.document.textures.sky.colourSpace = 'linear';
    },
  },
  {
    cause: 'lighting.flat-sides',
    plant({ document, draw }) {
      // Walls shape any light.
      for (const id of ['back', 'left', 'right']) delete document.objects[id];
      document.lights = {};
      document.environment = evenEnvironment(draw.colour(0.45, 0.6));
    },
  },
  {
    cause: 'lighting.environment-seam',
    plant(draft) {
      const { document, draw } = draft;
      // No walls: the sky is seen.
      for (const id of ['back', 'left', 'right']) delete document.objects[id];
      skyPicture(draft, { isWhite: false, at: [draw.whole(10, 50), 8] });
      const { texels, width } = draft.textures.get('sky')!;
      // Brighter towards the right, as a picture that was never made to meet itself.
      for (let i = 0; i < texels.length; i++) texels[i] *= 0.6 + (0.6 * (Math.floor(i / 3) % width)) / width;
      document.environment.rotation = draw.within(-6, 6);
    },
  },
];

export const poleFaults: Fault[] = [
  {
    // The edge of an image that is one point at its pole.
    cause: 'lighting.environment-seam',
    plant(draft) {
      const { document, draw } = draft;
      for (const id of ['back', 'left', 'right']) delete document.objects[id];
      skyPicture(draft, { isWhite: false, at: [draw.whole(10, 50), 14] });
      const { texels, width } = draft.textures.get('sky')!;
      const clamped = draw.whole(2, 5);
      // Brighter on one side, and with the rows about the pole filled with the one beside them.
      for (let i = 0; i < texels.length; i++) texels[i] *= 0.8 + 0.4 * Math.cos((2 * Math.PI * (Math.floor(i / 3) % width)) / width); // prettier-ignore
      for (let k = 0; k < clamped; k++) texels.copyWithin(3 * width * k, 3 * width * clamped, 3 * width * (clamped + 1)); // prettier-ignore
      // A mirror that leans back by half a right angle shows what is straight above.
      const leaning = multiply(translation(draw.within(-0.5, 0.5), 0.7, 0.9), rotationX(-draw.within(42, 50)));
      draft.put('mirror', square(0.8, 0), { metallic: 1, roughness: 0, baseColour: [0.9, 0.9, 0.9] }, { transform: leaning }); // prettier-ignore
    },
  },
  {
    cause: 'lighting.display-curve-twice',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      skyPicture(draft, { isWhite: false, at: [draw.whole(10, 50), draw.whole(6, 12)] });
      const { texels, width } = draft.textures.get('sky')!;
      // Many levels, as a photograph has, in 8 bits; then written as floats.
      texels.forEach(
        (v, i) =>
          (texels[i] =
            Math.round(
              255 * Math.min(1, v * (1 + 0.2 * Math.sin((6 * Math.PI * (Math.floor(i / 3) % width)) / width))),
            ) / 255),
      );
      document.textures.sky = { file: 'sky.exr', colourSpace: 'linear' };
      draft.textures.get('sky')!.colourSpace = undefined;
    },
  },
];
