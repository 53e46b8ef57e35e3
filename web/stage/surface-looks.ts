/** Ways in which the stage shows surfaces: one material of the graphics library each. */
import {
  ClampToEdgeWrapping,
  DataTexture,
  DoubleSide,
  LinearFilter,
  LinearMipmapLinearFilter,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshNormalMaterial,
  MirroredRepeatWrapping,
  RepeatWrapping,
  SRGBColorSpace,
  type Material,
  type Wrapping,
} from 'three';
import type { MapImage } from './map-image.ts';

/** `map` shows an image unlit; `uvs` shows U as red and V as green, with squares a sixteenth of a tile wide. */
export type SurfaceLook = 'shaded' | 'wire' | 'normals' | 'uvs' | 'map';

const WRAPS: Record<MapImage['wrap'], Wrapping> = { repeat: RepeatWrapping, clamp: ClampToEdgeWrapping, mirror: MirroredRepeatWrapping }; // prettier-ignore

/** @returns a material that is to be disposed of with `disposeLook` */
export function lookMaterial(look: SurfaceLook, image: MapImage | null): Material {
  const side = DoubleSide;
  switch (look) {
    case 'shaded':
      return new MeshLambertMaterial({ side });
    case 'wire':
      return new MeshBasicMaterial({ side, wireframe: true });
    case 'normals':
      return new MeshNormalMaterial({ side });
    case 'uvs':
      return new MeshBasicMaterial({ side, map: textureOf(uvColours(), true) });
    case 'map':
      return image ? new MeshBasicMaterial({ side, map: textureOf(image, false) }) : new MeshLambertMaterial({ side });
  }
}

export function disposeLook(material: Material): void {
  if (material instanceof MeshBasicMaterial) material.map?.dispose();
  material.dispose();
}

function textureOf({ width, height, rgba, wrap }: Pick<MapImage, 'width' | 'height' | 'rgba' | 'wrap'>, isSharp: boolean): DataTexture {
  const texture = new DataTexture(rgba, width, height);
  texture.wrapS = texture.wrapT = WRAPS[wrap];
  texture.colorSpace = SRGBColorSpace;
  texture.magFilter = LinearFilter;
  texture.minFilter = isSharp ? LinearFilter : LinearMipmapLinearFilter;
  texture.generateMipmaps = !isSharp;
  texture.needsUpdate = true;
  return texture;
} // prettier-ignore

const [SIZE, SQUARES] = [256, 16];

function uvColours(): Pick<MapImage, 'width' | 'height' | 'rgba' | 'wrap'> {
  const rgba = new Uint8Array(4 * SIZE * SIZE);
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const isDark = (Math.floor((x * SQUARES) / SIZE) + Math.floor((y * SQUARES) / SIZE)) % 2 === 1;
      rgba.set([x, y, 64].map((value) => (isDark ? value * 0.6 : value)), 4 * (y * SIZE + x)); // prettier-ignore
      rgba[4 * (y * SIZE + x) + 3] = 255;
    }
  return { width: SIZE, height: SIZE, rgba, wrap: 'repeat' };
}
