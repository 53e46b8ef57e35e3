/** What a new item of a document starts with; stored documents have these written out (see `complete.ts`). */
import { identity } from '../data/transform.ts';
import { USUAL_BOUNDARY, USUAL_UV_RULE } from '../data/subdivision-rules.ts';
import type {
  BackgroundSpec,
  CameraSpec,
  CoatSpec,
  EmitterSpec,
  EnvironmentSpec,
  FogSpec,
  LightSpec,
  LinkSpec,
  MapSpec,
  MaterialSpec,
  ObjectSpec,
  PreviewShadowsSpec,
  Sheet,
  StopsSpec,
} from './schema.ts';

const everything = (): LinkSpec => ({ mode: 'all', objects: [] });
const blackToWhite = (): StopsSpec => [
  { at: 0, colour: [0, 0, 0] },
  { at: 1, colour: [1, 1, 1] },
];

export const defaultMaterial = (): MaterialSpec => ({
  name: '',
  baseColour: [0.8, 0.8, 0.8],
  baseColourMap: null,
  metallic: 0,
  metallicMap: null,
  roughness: 0.5,
  roughnessMap: null,
  ior: 1.5,
  specular: 1,
  transmission: 0,
  attenuationColour: [1, 1, 1],
  attenuationDistance: null,
  thickness: 0.003,
  normalMap: null,
  normalStrength: 1,
  bumpMap: null,
  bumpDepth: 0.001,
  displacementMap: null,
  displacementKind: 'height',
  displacementDetail: false,
  displacementScale: 0.01,
  displacementRest: 0,
  displacementBound: null,
  coat: null,
  alpha: 1,
  alphaMode: 'opaque',
  alphaCutoff: 0.5,
  alphaMap: null,
  emission: [0, 0, 0],
  emissionStrength: 1,
  emissionMap: null,
  sampledAsLight: true,
  lightGroup: '',
  reach: { distance: null, bounces: null },
});

/** All but where it stands and what it sees. */
export const defaultCamera = (): Omit<CameraSpec, 'transform' | 'fieldOfView'> => ({
  name: '',
  sensorHeight: 24,
  pixelAspect: 1,
  near: 0,
  far: null,
  fStop: null,
  focusDistance: 5,
});

export const defaultCoat = (): CoatSpec => ({ kind: 'coat', name: '', strength: 1, roughness: 0.05 });

const placedMap = () => ({
  name: '',
  uvSet: 0,
  offset: [0, 0],
  rotation: 0,
  scale: [1, 1],
  channel: 'luminance' as const,
});

type MapKind = MapSpec['kind'];
type MapOf<K extends MapKind> = Extract<MapSpec, { kind: K }>;

const mapDefaults: { [K in MapKind]: () => MapOf<K> } = {
  image: () => ({ kind: 'image', ...placedMap(), texture: '', filter: 'mip', wrap: 'repeat' }),
  gradient: () => ({ kind: 'gradient', ...placedMap(), axis: 'v', stops: blackToWhite() }),
  checker: () => ({
    kind: 'checker',
    ...placedMap(),
    colours: [
      [0.1, 0.1, 0.1],
      [0.8, 0.8, 0.8],
    ],
  }),
  'noise-uv': () => ({ kind: 'noise-uv', ...placedMap(), size: 0.1, octaves: 4, seed: 1, stops: blackToWhite() }),
  'noise-object': () => ({
    kind: 'noise-object',
    ...placedMap(),
    size: 0.1,
    octaves: 4,
    seed: 1,
    stops: blackToWhite(),
  }),
  waves: () => ({
    kind: 'waves',
    ...placedMap(),
    length: 0.5,
    directions: 6,
    phase: 0,
    seed: 1,
    stops: blackToWhite(),
  }),
};

export const defaultMap = <K extends MapKind>(kind: K): MapOf<K> => mapDefaults[kind]();
export const MAP_KINDS = Object.keys(mapDefaults) as MapKind[];

export const defaultObject = (): Omit<ObjectSpec, 'material'> => ({
  name: '',
  shape: 'mesh',
  mesh: null,
  transform: identity(),
  hidden: false,
  role: 'surface',
  visibility: { camera: true, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true },
  receivesShadows: true,
  seeThroughShadows: false,
  thin: false,
  priority: 0,
  normals: 'smooth',
  facing: 'both',
  subdivision: { level: 0, edgePixels: null, boundary: USUAL_BOUNDARY, uvs: USUAL_UV_RULE },
  motion: 'static',
  keys: [],
});

const defaultEmitter = (): EmitterSpec => ({
  colour: [1, 1, 1],
  samples: 1,
  castsShadows: true,
  shadowColour: [0, 0, 0],
  shadowDistance: null,
  lights: everything(),
  shadowsOf: everything(),
  visibility: { camera: true, diffuse: true, specular: true, transmission: true },
  group: '',
  reach: { distance: null, bounces: null },
});

type LightKind = LightSpec['kind'];
type LightOf<K extends LightKind> = Extract<LightSpec, { kind: K }>;

const placedLight = () => ({ name: '', transform: identity(), hidden: false, ...defaultEmitter(), intensity: 1 });

const lightDefaults: { [K in LightKind]: () => LightOf<K> } = {
  point: () => ({ kind: 'point', ...placedLight(), radius: 0 }),
  spot: () => ({ kind: 'spot', ...placedLight(), radius: 0, cone: 45, softness: 0.1 }),
  distant: () => ({ kind: 'distant', ...placedLight(), angle: 0.53 }),
  rectangle: () => ({ kind: 'rectangle', ...placedLight(), width: 1, height: 1 }),
  disc: () => ({ kind: 'disc', ...placedLight(), radius: 0.5 }),
  mesh: () => ({ kind: 'mesh', ...placedLight(), object: '' }),
};

export const defaultLight = <K extends LightKind>(kind: K): LightOf<K> => lightDefaults[kind]();
export const LIGHT_KINDS = Object.keys(lightDefaults) as LightKind[];

const defaultSky = () => ({
  kind: 'constant' as const,
  intensity: 1,
  stops: blackToWhite(),
  texture: null,
  rotation: 0,
  daylight: { elevation: 35, azimuth: 120, turbidity: 3, groundAlbedo: 0.2, sun: true },
});

export const defaultEnvironment = (): EnvironmentSpec => ({ ...defaultSky(), ...defaultEmitter(), intensity: 0 });
/** The same radiance from everywhere. */
export const evenEnvironment = (colour: number[]): EnvironmentSpec => ({
  ...defaultEnvironment(),
  colour,
  intensity: 1,
});
export const defaultBackground = (): BackgroundSpec => ({ ...defaultSky(), colour: [1, 1, 1], camera: true });
export const defaultFog = (): FogSpec => ({ density: 0.1, albedo: [0.9, 0.9, 0.9], anisotropy: 0, box: null });

/** A plain map as a start: what fits the shot's camera is worked out, see `shadow-map/fit.ts`. */
export const defaultPreviewShadows = (): PreviewShadowsSpec => ({
  filter: 'percentage-closer',
  resolution: 1024,
  depthBits: 24,
  mapDistance: 60,
  lightDistance: 60,
  near: 0.05,
  cascades: 1,
  splitBlend: 0.5,
  bias: 0.005,
  slopeBias: 1,
  softness: 1,
  exponent: 60,
  leakCut: 0.1,
  contact: 0,
});

/**
 * Limits are the least with which 99 % of the light that a display shows is there in every demo shot but the shelf of twenty glass
 * faces: 5 diffuse events (HA-040), 4 specular ones, 6 transmissions (HA-020). Transmission is half as much again, for a vessel in front of
 * another; the overall limit lets transmission and specular reach theirs together. Alpha and volume cost nothing where there is none.
 */
export const defaultSheet = (): Sheet => ({
  width: 480,
  height: 270,
  samples: 32,
  adaptive: { on: false, target: 2, least: 16 },
  extraSamples: { light: 1, diffuse: 1, specular: 1, transmission: 1, volume: 1, occlusion: 1 },
  limits: { diffuse: 5, specular: 4, transmission: 9, volume: 3, alpha: 20, overall: 13 },
  rayDistance: null,
  roulette: true,
  clamps: { direct: null, indirect: null, bounced: null },
  roughnessFloor: 0,
  filter: { kind: 'gaussian', width: 2 },
  motion: { samples: 2, shutter: 0.5 },
  precision: 'double',
  occlusion: {
    distance: null,
    falloff: 'none',
    cone: 90,
    direction: 'outward',
    seeThrough: false,
    strength: 0,
    contrast: 1,
    colour: [0, 0, 0],
  },
  lines: {
    over: false,
    width: 1.5,
    colour: [0, 0, 0],
    objects: true,
    materials: true,
    normal: 30,
    depth: 0.01,
    overshoot: 0,
  },
  mostSubdivision: null,
  neutral: 'off',
  passes: { occlusion: false, shadows: false, lines: false, groups: false },
  seed: 1,
  grainTarget: 2,
});
