/** Images on a board that faces the camera. */
import type { Texture } from '../../../core/data/texture.ts';
import { multiply, rotationY, translation } from '../../../core/data/transform.ts';
import { defaultMap } from '../../../core/document/defaults.ts';
import type { MapSpec, MaterialSpec, TextureSpec } from '../../../core/document/schema.ts';
import { square } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import type { Fault } from './fault.ts';

type Rgba = [number, number, number, number];

export function image(size: number, at: (x: number, y: number) => Rgba | number): Texture {
  const texels = new Float32Array(3 * size * size);
  const alpha = new Float32Array(size * size).fill(1);
  for (let j = 0; j < size; j++)
    for (let i = 0; i < size; i++) {
      const value = at((i + 0.5) / size, (j + 0.5) / size);
      const [r, g, b, a] = typeof value === 'number' ? [value, value, value, 1] : value;
      texels.set([r, g, b], 3 * (j * size + i));
      alpha[j * size + i] = a;
    }
  return { width: size, height: size, texels, alpha: alpha.every((a) => a === 1) ? null : alpha };
}

export interface Worn {
  texture: Texture;
  material: Partial<MaterialSpec>;
  map?: Partial<Extract<MapSpec, { kind: 'image' }>>;
  spec?: Partial<TextureSpec>;
}

/** A square of 1.6 m in place of the things, with an image that maps of its material call `print`. */
export function print(draft: Draft, { texture, material, map, spec }: Worn): void {
  const { draw, document, textures, things } = draft;
  for (const thing of things.splice(0)) delete document.objects[thing];
  textures.set('print', texture);
  document.textures.print = { file: 'print.png', colourSpace: 'srgb', ...spec };
  document.maps.print = { ...defaultMap('image'), texture: 'print', ...map } as MapSpec;
  draft.put('board', { ...square(0.8, 0), uvs: Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1) }, { baseColour: [1, 1, 1], roughness: 1, specular: 0, ...material }, { transform: multiply(translation(draw.within(-0.2, 0.2), 0.85, 0.8), rotationY(draw.within(-20, 20))) });
} // prettier-ignore

/** Soft patches of grey, of so many across, by a seed. */
export function patches(draft: Draft, count: number): (x: number, y: number) => number {
  const cells = Float64Array.from({ length: (count + 2) ** 2 }, () => draft.draw.within(0.15, 0.75));
  const soft = (t: number) => t * t * (3 - 2 * t);
  return (x, y) => {
    const [i, j] = [Math.floor(x * count), Math.floor(y * count)];
    const [a, b] = [soft(x * count - i), soft(y * count - j)];
    const at = (p: number, q: number) => cells[q * (count + 2) + p];
    return (1 - b) * ((1 - a) * at(i, j) + a * at(i + 1, j)) + b * ((1 - a) * at(i, j + 1) + a * at(i + 1, j + 1));
  };
}

/** There within a circle with an edge of a few texels. */
const disc = (x: number, y: number): number =>
  Math.min(1, Math.max(0, (0.4 - Math.hypot(x - 0.5, y - 0.5)) * 40 + 0.5));

export const texturesFaults: Fault[] = [
  {
    cause: 'textures.filtered-when-meant-sharp',
    plant(draft) {
      const colours = Array.from({ length: 6 }, () => [...draft.draw.colour(0.05, 0.8), 1] as Rgba);
      const size = draft.draw.whole(12, 18);
      const cells = Array.from({ length: size * size }, () => draft.draw.one(colours));
      const texture = image(size, (x, y) => cells[Math.floor(y * size) * size + Math.floor(x * size)]);
      print(draft, { texture, material: { baseColourMap: 'print' }, map: { filter: draft.draw.one(['bilinear', 'mip'] as const) } }); // prettier-ignore
    },
  },
  {
    cause: 'textures.alpha-fringe',
    plant(draft) {
      const colour = draft.draw.colour(0.4, 0.8);
      const texture = image(96, (x, y) => [...(disc(x, y) > 0 ? colour : [0, 0, 0]), disc(x, y)] as Rgba);
      print(draft, { texture, material: { baseColourMap: 'print', alphaMap: 'cut', alphaMode: 'blend' } });
      draft.document.maps.cut = { ...draft.document.maps.print, channel: 'alpha' } as MapSpec;
    },
  },
  {
    cause: 'textures.premultiplied-twice',
    plant(draft) {
      const colour = draft.draw.colour(0.4, 0.8);
      const texture = image(96, (x, y) => [...colour.map((c) => c * disc(x, y)), disc(x, y)] as Rgba);
      print(draft, { texture, material: { baseColourMap: 'print', alphaMap: 'cut', alphaMode: 'blend' } });
      draft.document.maps.cut = { ...draft.document.maps.print, channel: 'alpha' } as MapSpec;
    },
  },
  {
    cause: 'textures.colour-read-as-data',
    plant(draft) {
      const at = patches(draft, 9);
      print(draft, { texture: { ...image(128, at), colourSpace: 'linear' }, material: { baseColourMap: 'print' }, spec: { colourSpace: 'linear' } }); // prettier-ignore
    },
  },
  {
    cause: 'textures.data-read-as-colour',
    plant(draft) {
      const at = patches(draft, 9);
      print(draft, { texture: { ...image(128, at), colourSpace: 'srgb' }, material: { baseColour: [0.3, 0.25, 0.2], specular: 0.5, roughnessMap: 'print' } }); // prettier-ignore
    },
  },
  {
    cause: 'textures.glow-left-on',
    plant(draft) {
      const at = patches(draft, 9);
      print(draft, { texture: image(128, at), material: { baseColourMap: 'print', emissionMap: 'print', emission: [1, 1, 1], emissionStrength: draft.draw.within(0.15, 0.5) } }); // prettier-ignore
    },
  },
  {
    cause: 'textures.bump-too-strong',
    plant(draft) {
      const waves = draft.draw.whole(6, 10);
      const texture = image(128, (x, y) => 0.5 + 0.25 * (Math.sin(2 * Math.PI * waves * x) + Math.sin(2 * Math.PI * waves * y))); // prettier-ignore
      print(draft, { texture, material: { baseColour: [0.5, 0.5, 0.5], bumpMap: 'print', bumpDepth: 1 }, spec: { colourSpace: 'linear' } }); // prettier-ignore
    },
  },
  {
    cause: 'textures.too-small',
    plant(draft) {
      const at = patches(draft, 11);
      print(draft, { texture: image(draft.draw.whole(9, 12), at), material: { baseColourMap: 'print' } });
    },
  },
  {
    cause: 'textures.too-large',
    plant(draft) {
      const at = patches(draft, 9);
      print(draft, { texture: image(1024, at), material: { baseColourMap: 'print' } });
    },
  },
  {
    cause: 'textures.alpha-lost',
    plant(draft) {
      const at = patches(draft, 7);
      const cut = image(96, (x, y) => [at(x, y), at(x, y), 0.5 * at(x, y), disc(x, y)] as Rgba);
      const plain = { ...cut, alpha: null };
      print(draft, { texture: plain, material: { baseColourMap: 'print' }, spec: { file: 'print.jpg' } });
      draft.textures.set('print_alpha', cut);
      draft.document.textures.print_alpha = { file: draft.draw.one(['print.png', 'print_alpha.png', 'print-rgba.tif']), colourSpace: 'srgb' }; // prettier-ignore
    },
  },
  {
    cause: 'textures.upside-down',
    plant(draft) {
      const at = patches(draft, 7);
      print(draft, { texture: image(128, (x, y) => (at(x, y) > 0.45 ? 0.6 : 0.2)), material: { baseColourMap: 'print', bumpMap: 'relief', bumpDepth: 0.002 } }); // prettier-ignore
      draft.textures.set(
        'relief',
        image(128, (x, y) => (at(x, 1 - y) > 0.45 ? 0.6 : 0.4)),
      );
      draft.document.textures.relief = { file: 'relief.png', colourSpace: 'linear' };
      draft.document.maps.relief = { ...defaultMap('image'), texture: 'relief' } as MapSpec;
    },
  },
];
