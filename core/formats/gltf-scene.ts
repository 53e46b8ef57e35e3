/**
 * A bare glTF file as a shot: its first camera, its meshes and materials, its punctual lights and its glowing
 * surfaces, on black. Candela and lux are taken as W/sr and W/m², as KHR_lights_punctual's formulas allow.
 *
 * @example
 * const { document, assets, warnings } = await readGltfScene(bytes, 'jar.glb', { width: 640, height: 360 });
 */
import {
  Document,
  WebIO,
  type Material,
  type Node,
  type Texture as GltfTexture,
  type TextureInfo,
} from '@gltf-transform/core';
import {
  ALL_EXTENSIONS,
  type Clearcoat,
  type EmissiveStrength,
  type IOR,
  type Light,
  type Specular,
  type Transform as TextureTransform,
  type Transmission,
  type Volume,
} from '@gltf-transform/extensions';
import type { Mesh } from '../data/mesh.ts';
import type { Texture } from '../data/texture.ts';
import {
  defaultCoat,
  defaultEnvironment,
  defaultLight,
  defaultMap,
  defaultMaterial,
  defaultObject,
  defaultSheet,
} from '../document/defaults.ts';
import type { LightSpec, MaterialSpec, ShotDocument } from '../document/schema.ts';
import { checkHeader, meshOf } from './gltf.ts';
import { readPngTexture } from './png.ts';

export interface GltfScene {
  document: ShotDocument;
  assets: { meshes: Map<string, Mesh>; textures: Map<string, Texture> };
  warnings: string[];
}

/** JSON of a .gltf file and the bytes of what it names, or a whole .glb. */
export type GltfSource = Uint8Array | { json: object; resources: Record<string, Uint8Array> };

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with it. */
export async function readGltfScene(
  source: GltfSource,
  where: string,
  size: { width?: number; height?: number } = {},
): Promise<GltfScene> {
  const gltf = await read(source, where);
  const root = gltf.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  if (!scene) throw new RangeError(`${where}: has no scene`);
  const nodes: Node[] = [];
  scene.traverse((node) => nodes.push(node));
  const cameraNode = nodes.find((node) => node.getCamera());
  const camera = cameraNode?.getCamera();
  if (!camera) throw new RangeError(`${where}: has no camera to look through`);
  if (camera.getType() !== 'perspective')
    throw new RangeError(`${where}: its first camera is ${camera.getType()}, not perspective`);

  const height = size.height ?? 540;
  const width = size.width ?? Math.max(1, Math.round(height * (camera.getAspectRatio() ?? 16 / 9)));
  const sheet = () => ({ ...defaultSheet(), width, height });
  const document: ShotDocument = {
    schema: 'dusting.shot/1',
    code: 'gltf',
    name: where.slice(-200),
    frame: 1,
    camera: 'camera',
    cameras: {
      camera: {
        name: cameraNode!.getName() || camera.getName(),
        transform: [...cameraNode!.getWorldMatrix()],
        fieldOfView: (camera.getYFov() * 180) / Math.PI,
      },
    },
    meshes: {},
    textures: {},
    maps: {},
    coats: {},
    materials: {},
    objects: {},
    lights: {},
    environment: defaultEnvironment(),
    background: null,
    fog: null,
    sheets: { preview: sheet(), final: sheet() },
  };
  const out: GltfScene = { document, assets: { meshes: new Map(), textures: new Map() }, warnings: [] };
  const surfaces = new Surfaces(out, where);
  const meshes = root.listMeshes();
  nodes.forEach((node, i) => {
    const mesh = node.getMesh();
    mesh?.listPrimitives().forEach((part, k) => {
      const number = meshes.indexOf(mesh);
      const id = `mesh${number}-${k}`;
      if (!out.assets.meshes.has(id)) {
        out.assets.meshes.set(id, meshOf(part, `${where} mesh ${number} part ${k}`));
        document.meshes[id] = { file: 'scene.glb', mesh: number, primitive: k };
      }
      const material = surfaces.add(part.getMaterial());
      document.objects[`object${i}-${k}`] = {
        ...defaultObject(),
        name: node.getName() || mesh.getName(),
        mesh: id,
        material,
        transform: [...node.getWorldMatrix()],
        thin: surfaces.thin.has(material),
      };
    });
    const light = node.getExtension<Light>('KHR_lights_punctual');
    if (light) document.lights[`light${i}`] = lightOf(light, node);
  });
  return out;
}

async function read(source: GltfSource, where: string): Promise<Document> {
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
  if (source instanceof Uint8Array) checkHeader(source, where);
  try {
    return source instanceof Uint8Array
      ? await io.readBinary(source as Uint8Array<ArrayBuffer>)
      : await io.readJSON(source as Parameters<WebIO['readJSON']>[0]);
  } catch (error) {
    throw new RangeError(`${where}: is not readable glTF (${(error as Error).message})`, { cause: error });
  }
}

function lightOf(light: Light, node: Node): LightSpec {
  const shared = {
    name: node.getName() || light.getName(),
    transform: [...node.getWorldMatrix()],
    colour: [...light.getColor()],
    intensity: light.getIntensity(),
  };
  switch (light.getType()) {
    case 'directional':
      return { ...defaultLight('distant'), ...shared, angle: 0 };
    case 'spot': {
      const outer = light.getOuterConeAngle();
      return {
        ...defaultLight('spot'),
        ...shared,
        cone: (outer * 360) / Math.PI,
        softness: outer > 0 ? 1 - light.getInnerConeAngle() / outer : 0,
      };
    }
    default:
      return { ...defaultLight('point'), ...shared };
  }
}

/** Materials and textures of the file, each taken over once. */
class Surfaces {
  /** Materials whose objects are thin walls: transmission without a thickness. */
  readonly thin = new Set<string>();
  private readonly materials = new Map<Material | null, string>();
  private readonly textures = new Map<string, string | null>();

  constructor(
    private readonly out: GltfScene,
    private readonly where: string,
  ) {}

  add(material: Material | null): string {
    const known = this.materials.get(material);
    if (known !== undefined) return known;
    const id = `material${this.materials.size}`;
    this.materials.set(material, id);
    this.out.document.materials[id] = material
      ? this.specOf(material, id)
      : { ...defaultMaterial(), baseColour: [1, 1, 1], metallic: 1, roughness: 1 };
    return id;
  }

  private specOf(m: Material, id: string): MaterialSpec {
    const transmission = m.getExtension<Transmission>('KHR_materials_transmission');
    const volume = m.getExtension<Volume>('KHR_materials_volume');
    const coat = m.getExtension<Clearcoat>('KHR_materials_clearcoat');
    const [r, g, b, alpha] = m.getBaseColorFactor();
    const base = this.map(m.getBaseColorTexture(), m.getBaseColorTextureInfo(), 'srgb');
    const metalRough = (channel: 'green' | 'blue') =>
      this.map(m.getMetallicRoughnessTexture(), m.getMetallicRoughnessTextureInfo(), 'linear', channel);
    if (transmission && !(volume && volume.getThicknessFactor() > 0)) this.thin.add(id);
    if (coat && coat.getClearcoatFactor() > 0)
      this.out.document.coats[id] = {
        ...defaultCoat(),
        strength: coat.getClearcoatFactor(),
        roughness: coat.getClearcoatRoughnessFactor(),
      };
    const distance = volume?.getAttenuationDistance() ?? Infinity;
    const isCut = m.getAlphaMode() !== 'OPAQUE';
    return {
      ...defaultMaterial(),
      name: m.getName(),
      baseColour: [r, g, b],
      baseColourMap: base,
      metallic: m.getMetallicFactor(),
      metallicMap: metalRough('blue'),
      roughness: m.getRoughnessFactor(),
      roughnessMap: metalRough('green'),
      ior: m.getExtension<IOR>('KHR_materials_ior')?.getIOR() ?? 1.5,
      specular: m.getExtension<Specular>('KHR_materials_specular')?.getSpecularFactor() ?? 1,
      transmission: transmission?.getTransmissionFactor() ?? 0,
      attenuationColour: [...(volume?.getAttenuationColor() ?? [1, 1, 1])],
      attenuationDistance: distance > 0 && distance < Infinity ? distance : null,
      thickness: volume?.getThicknessFactor() ?? 0,
      normalMap: this.map(m.getNormalTexture(), m.getNormalTextureInfo(), 'linear'),
      normalStrength: m.getNormalScale(),
      coat: coat && coat.getClearcoatFactor() > 0 ? id : null,
      alpha,
      alphaMode: isCut ? (m.getAlphaMode() === 'MASK' ? 'mask' : 'blend') : 'opaque',
      alphaCutoff: m.getAlphaCutoff(),
      alphaMap: isCut ? this.map(m.getBaseColorTexture(), m.getBaseColorTextureInfo(), 'srgb', 'alpha') : null,
      emission: [...m.getEmissiveFactor()],
      emissionStrength: m.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength() ?? 1,
      emissionMap: this.map(m.getEmissiveTexture(), m.getEmissiveTextureInfo(), 'srgb'),
    };
  }

  /** Id of a map for a texture slot; null without one, or with one that is not read. */
  private map(
    texture: GltfTexture | null,
    info: TextureInfo | null,
    colourSpace: 'srgb' | 'linear',
    channel: 'luminance' | 'green' | 'blue' | 'alpha' = 'luminance',
  ): string | null {
    if (!texture || !info) return null;
    const { document } = this.out;
    const id = this.texture(texture, colourSpace);
    if (id === null) return null;
    const own = info.getExtension<TextureTransform>('KHR_texture_transform');
    const rotation = own?.getRotation() ?? 0;
    const [sx, sy] = own?.getScale() ?? [1, 1];
    const [ox, oy] = own?.getOffset() ?? [0, 0];
    const wraps: Record<number, 'repeat' | 'clamp' | 'mirror'> = { 10497: 'repeat', 33071: 'clamp', 33648: 'mirror' };
    const map = `map${Object.keys(document.maps).length}`;
    document.maps[map] = {
      ...defaultMap('image'),
      texture: id,
      uvSet: (own?.getTexCoord() ?? info.getTexCoord()) === 1 ? 1 : 0,
      channel,
      rotation: (rotation * 180) / Math.PI,
      scale: [sx, sy],
      // glTF counts V from the top of the image; ours counts from the bottom.
      offset: [ox + Math.sin(rotation) * sy, 1 - Math.cos(rotation) * sy - oy],
      wrap: wraps[info.getWrapS()],
      filter: info.getMagFilter() === 9728 ? 'nearest' : 'mip',
    };
    return map;
  }

  private texture(texture: GltfTexture, colourSpace: 'srgb' | 'linear'): string | null {
    const { document, assets, warnings } = this.out;
    const name = texture.getName() || texture.getURI() || 'an image';
    const key = `${name} ${texture.getImage()?.byteLength} ${colourSpace}`;
    const known = this.textures.get(key);
    if (known !== undefined) return known;
    const bytes = texture.getImage();
    let id: string | null = null;
    if (bytes && texture.getMimeType() === 'image/png') {
      id = `texture${this.textures.size}`;
      assets.textures.set(id, readPngTexture(bytes, colourSpace, `${this.where} ${name}`));
      document.textures[id] = { file: `${id}.png`, colourSpace };
    } else
      warnings.push(
        `Image "${name}" is ${texture.getMimeType() || 'of no known kind'}, which is not read; its factor alone counts.`,
      );
    this.textures.set(key, id);
    return id;
  }
}
