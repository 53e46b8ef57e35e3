/** Materials of a scene, their maps and their images, as a shot has them. */
import { defaultMap } from '../document/defaults.ts';
import type { MaterialSpec, ShotDocument } from '../document/schema.ts';
import { readImageHeader } from '../formats/image-header.ts';
import { extensionOf, fileName } from '../formats/paths.ts';
import type { Remark, SourceScene, SourceTexture } from '../formats/source-scene.ts';
import { isSafePath } from '../document/safe-path.ts';
import { TILE, tileFile } from '../textures/tiles.ts';
import { FreeIds, safeId } from './ids.ts';

export class ShotSurfaces {
  private readonly textureIds = new Map<string, string | null>();

  /**
   * @param document what is made, added to
   * @param files bytes of images, added to
   * @param notUnderstood what has no place in a shot, added to
   */
  constructor(
    private readonly scene: SourceScene,
    private readonly document: ShotDocument,
    private readonly files: Map<string, Uint8Array>,
    private readonly notUnderstood: Remark[],
    private readonly ids: FreeIds,
  ) {}

  /** @returns id of the material of that number */
  material(number: number): string {
    const { document } = this;
    const { name, spec, coat, textures, where } = this.scene.materials[number];
    const id = this.ids.of(document.materials, name || 'material');
    const made: MaterialSpec = { ...spec, name: (name || id).slice(0, 200) };
    document.materials[id] = made;
    if (coat) {
      document.coats[id] = { kind: 'coat', name: '', ...coat };
      made.coat = id;
    }
    for (const texture of textures) {
      const slot = SLOT_KEYS[texture.slot];
      if (!slot) {
        this.notUnderstood.push({ where, what: `${texture.slot} map of material "${made.name}"` });
        continue;
      }
      const map = this.map(texture, number, where);
      if (map) made[slot] = map;
      // White of the map is one unit of the scene.
      if (map && slot === 'displacementMap') made.displacementScale = this.scene.metresPerUnit ?? 1;
    }
    return id;
  }

  private map(texture: SourceTexture, material: number, where: string): string | null {
    const { document } = this;
    const id = this.texture(texture);
    if (id === null) return null;
    const set = this.uvSet(texture, material);
    if (set > 1) {
      this.notUnderstood.push({ where, what: `a map on UV set ${set + 1}; objects have two` });
      return null;
    }
    const map = this.ids.of(document.maps, id);
    document.maps[map] = {
      ...defaultMap('image'),
      texture: id,
      uvSet: set,
      offset: texture.offset,
      rotation: texture.rotation,
      scale: texture.scale,
      channel: texture.channel,
      filter: texture.filter,
      wrap: texture.wrap,
    };
    return map;
  }

  /** By its name on the first mesh that wears the material, where the format names sets. */
  private uvSet({ uvName, uvSet }: SourceTexture, material: number): number {
    if (!uvName) return uvSet;
    const node = this.scene.nodes.find(
      ({ mesh, parts }) => mesh >= 0 && parts.some((part) => part.material === material),
    );
    const found = node ? this.scene.meshes[node.mesh].poly.uvs.findIndex(({ name }) => name === uvName) : 0;
    return Math.max(0, found);
  }

  /** @returns id of the texture; null when its image cannot be used, which is told */
  texture({ slot, image, colourSpace: said }: SourceTexture): string | null {
    const isColour = slot === 'baseColour' || slot === 'emission' || slot === 'alpha';
    const colourSpace = said === 'unstated' ? (isColour ? 'srgb' : 'linear') : said;
    const key = `${image} ${colourSpace}`;
    const known = this.textureIds.get(key);
    if (known !== undefined) return known;
    const { tiles } = this.scene.images[image];
    const add = (name: string, file: string) => {
      const own = this.ids.of(this.document.textures, name);
      this.document.textures[own] = {
        file,
        colourSpace,
        ...(tiles.length && { tiles: tiles.map(({ number }) => number) }),
      };
      return own;
    };
    const id = tiles.length ? this.tileFiles(image, add) : this.imageFile(image, add);
    this.textureIds.set(key, id);
    if (id !== null && slot === 'baseColour') this.sibling(image, add);
    return id;
  }

  /** The file that has the alpha which an image lost comes along, used by nothing yet. */
  private sibling(image: number, add: (name: string, file: string) => string): void {
    const { sibling } = this.scene.images[image];
    const kind = sibling && kindOf(sibling.bytes);
    if (!kind) return;
    const base = safeId(withoutEnding(fileName(sibling.path))) || `image${image}-alpha`;
    add(base, this.keep(base, kind, sibling.bytes));
  }

  /** @returns the path that the bytes get, not one that others have */
  private keep(base: string, kind: string, bytes: Uint8Array): string {
    let file = `textures/${base}.${kind}`;
    for (let i = 2; this.files.has(file) && this.files.get(file) !== bytes; i++) file = `textures/${base}-${i}.${kind}`;
    this.files.set(file, bytes);
    return file;
  }

  private tileFiles(image: number, add: (name: string, file: string) => string): string | null {
    const { path, where, tiles } = this.scene.images[image];
    const kind = kindOf(tiles[0].bytes);
    const odd = tiles.find(({ bytes }) => kindOf(bytes) !== kind);
    if (!kind || odd) {
      const what = kind ? `${odd!.path} is of another kind than the other tiles` : 'is of a kind that is not read here';
      this.notUnderstood.push({ where, what: `tiles "${path}": ${what}; the factor alone counts` });
      return null;
    }
    const base = safeId(withoutEnding(fileName(path.replaceAll('\\', '/'))).replaceAll(TILE, '')) || `image${image}`;
    const fileAs = (n: number) => `textures/${base}${n > 1 ? `-${n}` : ''}.${TILE}.${kind}`;
    const isTaken = (file: string) =>
      tiles.some(({ number, bytes }) => (this.files.get(tileFile(file, number)) ?? bytes) !== bytes);
    let n = 1;
    while (isTaken(fileAs(n))) n += 1;
    for (const { number, bytes } of tiles) this.files.set(tileFile(fileAs(n), number), bytes);
    return add(base, fileAs(n));
  }

  private imageFile(image: number, add: (name: string, file: string) => string): string | null {
    const { path, where, bytes } = this.scene.images[image];
    const name = fileName(path.replaceAll('\\', '/')) || `image${image}`;
    const base = safeId(withoutEnding(name)) || `image${image}`;
    if (!bytes && path) {
      // Under the path it was looked for, so that preflight stops at it and it is found when it comes.
      const kept = path.replaceAll('\\', '/').replace(/^(\.\/)+/, '');
      const file = isSafePath(kept) ? kept : `textures/${base}.${extensionOf(name) || 'png'}`;
      this.notUnderstood.push({ where, what: `image "${path}" is not there; the shot looks for it as ${file}` });
      return add(base, file);
    }
    const kind = bytes && kindOf(bytes);
    if (!kind) {
      const what = bytes ? `is of a kind that is not read here (.${extensionOf(name) || '?'})` : 'is not there';
      this.notUnderstood.push({ where, what: `image "${path || name}" ${what}; its factor alone counts` });
      return null;
    }
    return add(base, this.keep(base, kind, bytes));
  }
}

const SLOT_KEYS: Partial<
  Record<
    SourceTexture['slot'],
    | 'baseColourMap'
    | 'metallicMap'
    | 'roughnessMap'
    | 'normalMap'
    | 'bumpMap'
    | 'displacementMap'
    | 'alphaMap'
    | 'emissionMap'
  >
> = {
  baseColour: 'baseColourMap',
  metallic: 'metallicMap',
  roughness: 'roughnessMap',
  normal: 'normalMap',
  bump: 'bumpMap',
  displacement: 'displacementMap',
  alpha: 'alphaMap',
  emission: 'emissionMap',
};

const withoutEnding = (name: string): string => name.replace(/\.[^.]*$/, '');

/** The ending of an image that textures can be, by how its bytes begin. */
function kindOf(bytes: Uint8Array): string | null {
  const kind = readImageHeader(bytes)?.kind;
  return kind === undefined ? null : (ENDINGS[kind] ?? null);
}
const ENDINGS: Record<string, string> = {
  PNG: 'png',
  JPEG: 'jpg',
  PFM: 'pfm',
  'Radiance HDR': 'hdr',
  OpenEXR: 'exr',
  TIFF: 'tif',
};
