/** Textures, maps, coats and materials of a shot document. */
import { Type, type Static } from '@sinclair/typebox';
import {
  choice,
  closed,
  File,
  flag,
  Id,
  MaybeId,
  Name,
  number,
  numberOrNone,
  pair,
  Stops,
  triple,
  whole,
} from './common.ts';

/** What a displacement map tells, in words. */
export const DISPLACEMENT_KINDS = {
  height: 'Heights along the normal',
  tangent: 'Vectors by U, V and normal',
  object: 'Vectors by the object’s axes',
} as const;
export type DisplacementKind = keyof typeof DISPLACEMENT_KINDS;

export const TextureRef = Type.Object(
  {
    file: File,
    colourSpace: Type.Union([Type.Literal('srgb'), Type.Literal('linear')]),
    tiles: Type.Optional(
      Type.Array(whole(1001, 1999, 'number of a UDIM tile'), {
        description: 'tiles that have a file, where the file’s name has <UDIM> in place of their number',
        maxItems: 999,
        uniqueItems: true,
      }),
    ),
  },
  closed,
);

/** Where a map stands on a surface. Order: scale, then rotation, then offset, as KHR_texture_transform has it. */
const placed = {
  name: Name,
  uvSet: whole(0, 1, 'which of the mesh’s UV sets'),
  offset: pair(-1e6, 1e6, 'UV units'),
  rotation: number(-36000, 36000, 'degrees, counter-clockwise in UV'),
  scale: pair(-1e6, 1e6, 'repeats over one UV unit'),
  channel: choice(['luminance', 'red', 'green', 'blue', 'alpha'], 'what a material takes where it needs one number'),
};

const ImageMap = Type.Object(
  {
    kind: Type.Literal('image'),
    ...placed,
    texture: Id,
    filter: choice(['nearest', 'bilinear', 'mip'], 'how texels are mixed'),
    wrap: choice(['repeat', 'clamp', 'mirror'], 'what is shown outside 0 to 1'),
  },
  closed,
);

const GradientMap = Type.Object(
  {
    kind: Type.Literal('gradient'),
    ...placed,
    axis: choice(['u', 'v', 'x', 'y', 'z', 'radial', 'box'], 'UV direction, axis of the object’s space in metres, or from the middle of UV space to its edge: as a circle, or as a square'), // prettier-ignore
    stops: Stops,
  },
  closed,
);

const CheckerMap = Type.Object(
  {
    kind: Type.Literal('checker'),
    ...placed,
    colours: Type.Array(triple(0, 1e9, 'linear Rec.709'), { minItems: 2, maxItems: 2 }),
  },
  closed,
);

const noisy = {
  size: number(1e-6, 1e6, 'size of the largest lumps: UV units, or metres'),
  octaves: whole(1, 12, 'layers, each half the size and half the strength of the one before'),
  seed: whole(0, 4294967295, 'another seed, a different pattern'),
  stops: Stops,
};
const Noise2Map = Type.Object({ kind: Type.Literal('noise-uv'), ...placed, ...noisy }, closed);
const Noise3Map = Type.Object({ kind: Type.Literal('noise-object'), ...placed, ...noisy }, closed);

const WavesMap = Type.Object(
  {
    kind: Type.Literal('waves'),
    ...placed,
    length: number(1e-6, 1e6, 'wavelength of the longest waves, in metres along the object’s X and Z'),
    directions: whole(1, 32, 'trains of waves that cross'),
    phase: number(-1e6, 1e6, 'turns; moves the water on'),
    seed: whole(0, 4294967295, 'another seed, a different sea'),
    stops: Stops,
  },
  closed,
);

/** A map that stands in another file, shared by several documents; what this document changes on it is an override. */
const SharedMap = Type.Object(
  {
    kind: Type.Literal('shared'),
    file: File,
    item: Id,
    override: Type.Record(Type.String(), Type.Unknown(), { description: 'settings of the map that differ here' }),
  },
  closed,
);

export const MapSchemas = [ImageMap, GradientMap, CheckerMap, Noise2Map, Noise3Map, WavesMap] as const;
export const MapSpecSchema = Type.Union([...MapSchemas, SharedMap]);

export const OwnCoat = Type.Object(
  {
    kind: Type.Literal('coat'),
    name: Name,
    strength: number(0, 1, 'share of the surface that is coated'),
    roughness: number(0, 1, 'perceptual, of the coat alone; its index of refraction is 1.5'),
  },
  closed,
);
export const CoatSchema = Type.Union([
  OwnCoat,
  Type.Object(
    { kind: Type.Literal('shared'), file: File, item: Id, override: Type.Record(Type.String(), Type.Unknown()) },
    closed,
  ),
]);

/** How far an emitter lights, and after how many bounces; it is seen all the same. */
export const Reach = Type.Object(
  {
    distance: numberOrNone(1e-6, 1e9, 'metres from the lit point; null: any'),
    bounces: Type.Union([Type.Integer({ minimum: 0, maximum: 64 }), Type.Null()], {
      description: 'diffuse and volume events the light may take part in; null: any',
    }),
  },
  closed,
);
export type ReachSpec = Static<typeof Reach>;

export const Material = Type.Object(
  {
    name: Name,
    baseColour: triple(0, 1, 'linear Rec.709; the filter of light that goes through each face, for glass'),
    baseColourMap: MaybeId,
    metallic: number(0, 1, 'metalness, 0 to 1'),
    metallicMap: MaybeId,
    roughness: number(0, 1, 'perceptual; GGX alpha is its square; below 0.03 mirrors are sharp'),
    roughnessMap: MaybeId,
    ior: number(1, 4, 'index of refraction of the inside'),
    specular: number(0, 1, 'strength of the reflection of non-metals'),
    transmission: number(0, 1, 'share of the light below the surface that is transmitted'),
    attenuationColour: triple(0, 1, 'colour of white light after the attenuation distance'),
    attenuationDistance: numberOrNone(1e-6, 1e9, 'metres; null: the inside absorbs nothing'),
    thickness: number(0, 1e3, 'metres of the inside that light passes where an object is a thin wall'),
    normalMap: MaybeId,
    normalStrength: number(-10, 10, 'factor on the slopes of the normal map'),
    bumpMap: MaybeId,
    bumpDepth: number(-1e3, 1e3, 'metres between black and white of the bump map'),
    displacementMap: MaybeId,
    displacementKind: choice(
      Object.keys(DISPLACEMENT_KINDS) as DisplacementKind[],
      'what the map tells: heights along the normal, or by its three channels a way along U, V and normal or along the object’s axes',
    ),
    displacementDetail: flag(
      'detail of the map that the mesh is too coarse for is shaded as a bump; for heights placed by UVs',
    ),
    displacementScale: number(-1e3, 1e3, 'metres between black and white of the displacement map, along the normal'),
    displacementRest: number(
      -1e3,
      1e3,
      'value of the displacement map that stays where it is: 0 for heights, 0.5 for maps that go both ways',
    ),
    displacementBound: numberOrNone(
      1e-6,
      1e3,
      'maximum distance a point is moved, metres; null: as far as the map says',
    ),
    coat: MaybeId,
    alpha: number(0, 1, 'coverage: 0 is invisible'),
    alphaMode: choice(['opaque', 'mask', 'blend'], 'alpha is ignored, cuts out, or lets through'),
    alphaCutoff: number(0, 1, 'mask: invisible below it'),
    alphaMap: MaybeId,
    emission: triple(0, 1e9, 'emitted radiance, W/(sr m²) per channel'),
    emissionStrength: number(0, 1e9, 'factor on the emitted radiance'),
    emissionMap: MaybeId,
    sampledAsLight: flag('emitting surfaces of this material are aimed at as lights are'),
    lightGroup: Type.String({ maxLength: 40, description: 'light group of what it emits; empty: none' }),
    reach: Reach,
  },
  closed,
);

export type TextureSpec = Static<typeof TextureRef>;
export type AnyMapSpec = Static<typeof MapSpecSchema>;
export type MapSpec = Exclude<AnyMapSpec, { kind: 'shared' }>;
export type SharedSpec = Static<typeof SharedMap>;
export type CoatSpec = Static<typeof OwnCoat>;
export type MaterialSpec = Static<typeof Material>;
