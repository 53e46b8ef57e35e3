/**
 * A scene as its files tell it, whatever their format: the one shape that readers make, that becomes a shot
 * document, and that is examined before anything is rendered. World places are in metres, +Y up; paths are as written.
 */
import type { PolyMesh } from '../data/poly-mesh.ts';
import { defaultMaterial } from '../document/defaults.ts';
import { identity, type Transform } from '../data/transform.ts';
import type { LightSpec, MaterialSpec, Sheet } from '../document/schema.ts';

/** Something about a place in a file. */
export interface Remark {
  /** File, and line or path within it. */
  where: string;
  what: string;
}

export interface SourcePart {
  /** Number of the material, or −1. */
  material: number;
  /** Faces of the mesh; null: all. */
  faces: Uint32Array | null;
}

export interface SourceNode {
  /** Unique in the scene, parents first: `/yard/hive`. */
  path: string;
  name: string;
  /** Number of the parent, or −1. */
  parent: number;
  where: string;
  local: Transform;
  world: Transform;
  visible: boolean;
  /** Its visibility is animated. */
  visibilityChanges: boolean;
  /** Its place is animated. */
  moves: boolean;
  /** Number of the mesh, or −1. */
  mesh: number;
  parts: SourcePart[];
  /** Operations that were not baked into the mesh: a skin, blend shapes, subdivision. */
  live: string[];
  /** Which side the file says is there; other formats mean it for display, so a shot made of one has both. */
  facing: 'both' | 'front' | 'back';
}

export interface SourceMesh {
  name: string;
  where: string;
  poly: PolyMesh;
}

export type TextureSlot =
  | 'baseColour'
  | 'metallic'
  | 'roughness'
  | 'normal'
  | 'bump'
  | 'alpha'
  | 'emission'
  | 'displacement'
  | 'occlusion'
  | 'other';

export interface SourceTexture {
  slot: TextureSlot;
  /** Number of the image. */
  image: number;
  /** Number of the set of UVs it reads; −1: one the mesh must have by this name. */
  uvSet: number;
  uvName: string;
  offset: [number, number];
  /** Degrees. */
  rotation: number;
  scale: [number, number];
  wrap: 'repeat' | 'clamp' | 'mirror';
  filter: 'nearest' | 'bilinear' | 'mip';
  channel: 'luminance' | 'red' | 'green' | 'blue' | 'alpha';
  /** What the file says; `unstated` leaves it to the image. */
  colourSpace: 'srgb' | 'linear' | 'unstated';
}

export interface SourceMaterial {
  name: string;
  where: string;
  /** Named, but told by no file that is there. */
  missing: boolean;
  /** Without maps: those are the textures. */
  spec: MaterialSpec;
  /** Clear coat, where there is one. */
  coat: { strength: number; roughness: number } | null;
  /** Objects of it are thin walls of glass. */
  thin: boolean;
  textures: SourceTexture[];
}

export interface SourceImage {
  /** As written; empty for one inside the file. */
  path: string;
  where: string;
  /** Below the folder of the scene, forward slashes; null when the path leads elsewhere. */
  resolved: string | null;
  /** Of the first tile, where there are several; null when it is not there. */
  bytes: Uint8Array | null;
  /** Where the path stands for several. */
  tiles: { number: number; path: string; bytes: Uint8Array }[];
  /** A file of its name with alpha, where it has none and colours something. */
  sibling?: { path: string; bytes: Uint8Array };
}

export interface SourceCamera {
  name: string;
  node: number;
  /** Vertical, degrees; 0 for a parallel projection. */
  fieldOfView: number;
  /** Width by height of what it sees; null when the file does not say. */
  aspect: number | null;
  /** Metres. */
  near: number | null;
  far: number | null;
  /** Null when the file does not say. */
  lens: SourceLens | null;
}

export interface SourceLens {
  /** Millimetres. */
  sensorHeight: number;
  /** Null: a pinhole. */
  fStop: number | null;
  /** Metres; null when the file does not say. */
  focusDistance: number | null;
}

export interface SourceLight {
  node: number;
  /** Its place is the node's. */
  spec: LightSpec;
  /** Paths of nodes, where links name objects. */
  links: { lights: SourceLink; shadowsOf: SourceLink };
}

export interface SourceLink {
  mode: 'all' | 'only' | 'except';
  paths: string[];
}

/** Another file that the scene or one of its files names. */
export interface SourceReference {
  kind: 'buffer' | 'material library' | 'sublayer' | 'reference' | 'payload' | 'image' | 'geometry' | 'fragments';
  /** As written. */
  path: string;
  /** The file and place that names it. */
  neededBy: string;
  resolved: string | null;
  bytes: number;
  state: 'ok' | 'missing' | 'outside' | 'absolute' | 'case' | 'unreadable';
  /** Whether anything from it is in the scene. */
  used: boolean;
}

/** What the file says about the picture; null where it says nothing. */
export interface SourceSettings {
  width: number | null;
  height: number | null;
  pixelAspect: number | null;
  frameRate: number | null;
  firstFrame: number | null;
  lastFrame: number | null;
  output: string | null;
  viewTransform: string | null;
  /** The renderer that the scene was made for. */
  renderer: string | null;
  /** Name of the camera that is rendered. */
  camera: string | null;
}

export interface SourceScene {
  format: 'glTF' | 'OBJ' | 'USD' | 'shot';
  file: string;
  bytes: number;
  /** Length of the file's unit; null when the file does not say. */
  metresPerUnit: number | null;
  nodes: SourceNode[];
  meshes: SourceMesh[];
  materials: SourceMaterial[];
  images: SourceImage[];
  cameras: SourceCamera[];
  lights: SourceLight[];
  /** Lat-long image or colour around the scene. */
  environment: { image: number | null; colour: [number, number, number]; intensity: number; rotation: number } | null;
  settings: SourceSettings;
  /** Extensions of the format that the file uses. */
  extensions: string[];
  references: SourceReference[];
  /** Sheets, where the scene is a shot of ours. */
  sheets: { preview: Sheet; final: Sheet } | null;
  notUnderstood: Remark[];
  /** What was put right in reading. */
  repaired: Remark[];
}

/** A texture that stands on the first UVs as they are. */
export const plainTexture = (slot: TextureSlot, image: number): SourceTexture => ({
  slot,
  image,
  uvSet: 0,
  uvName: '',
  offset: [0, 0],
  rotation: 0,
  scale: [1, 1],
  wrap: 'repeat',
  filter: 'mip',
  channel: 'luminance',
  colourSpace: 'unstated',
});

/** A material of which nothing but the name is told. */
export const namedMaterial = (name: string, where: string): SourceMaterial => ({
  name,
  where,
  missing: false,
  spec: { ...defaultMaterial(), name: name.slice(0, 200) },
  coat: null,
  thin: false,
  textures: [],
});

export const plainNode = (path: string, where: string): SourceNode => ({
  path,
  name: path.slice(path.lastIndexOf('/') + 1),
  parent: -1,
  where,
  local: identity(),
  world: identity(),
  visible: true,
  visibilityChanges: false,
  moves: false,
  mesh: -1,
  parts: [],
  live: [],
  facing: 'both',
});

export const emptySettings = (): SourceSettings => ({
  width: null,
  height: null,
  pixelAspect: null,
  frameRate: null,
  firstFrame: null,
  lastFrame: null,
  output: null,
  viewTransform: null,
  renderer: null,
  camera: null,
});

export function emptyScene(format: SourceScene['format'], file: string, bytes: number): SourceScene {
  return {
    format,
    file,
    bytes,
    metresPerUnit: null,
    nodes: [],
    meshes: [],
    materials: [],
    images: [],
    cameras: [],
    lights: [],
    environment: null,
    settings: emptySettings(),
    extensions: [],
    references: [],
    sheets: null,
    notUnderstood: [],
    repaired: [],
  };
}
