/** Lights, the environment, the view background and fog of a shot document. */
import { Type, type Static } from '@sinclair/typebox';
import {
  choice,
  closed,
  flag,
  Id,
  Link,
  Matrix,
  MaybeId,
  Name,
  number,
  numberOrNone,
  Stops,
  triple,
  whole,
} from './common.ts';
import { Reach } from './surface.ts';

export const LightVisibility = Type.Object(
  {
    camera: flag('seen by camera rays'),
    diffuse: flag('lights diffuse surfaces and fog'),
    specular: flag('lights and is seen in reflections'),
    transmission: flag('lights and is seen through glass'),
  },
  closed,
);

/** What every emitter has, the environment too. */
const emitter = {
  colour: triple(0, 1e6, 'linear Rec.709, times the intensity'),
  samples: whole(1, 256, 'samples at the first hit, times those of direct light; 1 adds none'),
  castsShadows: flag('what stands in between casts shadows'),
  shadowColour: triple(0, 1, 'share of its light that is left in its shadow; 0 is a black shadow'),
  shadowDistance: numberOrNone(1e-6, 1e9, 'metres; occluders farther from the lit point cast no shadow; null: any'),
  lights: Link,
  shadowsOf: Link,
  visibility: LightVisibility,
  group: Type.String({ maxLength: 40, description: 'light group; empty: none' }),
  reach: Reach,
};

const placed = { name: Name, transform: Matrix, hidden: flag('switched off') };
const radiance = number(0, 1e9, 'radiance, W/(sr m²)');
const radiant = number(0, 1e12, 'radiant intensity, W/sr');

const PointLight = Type.Object(
  {
    kind: Type.Literal('point'),
    ...placed,
    intensity: radiant,
    radius: number(0, 1e6, 'metres; 0 is a point'),
    ...emitter,
  },
  closed,
);
const SpotLight = Type.Object(
  {
    kind: Type.Literal('spot'),
    ...placed,
    intensity: radiant,
    radius: number(0, 1e6, 'metres; 0 is a point'),
    cone: number(0.1, 180, 'full angle of the cone, degrees; it shines along −Z'),
    softness: number(0, 1, 'share of the cone, from its edge inwards, over which it fades'),
    ...emitter,
  },
  closed,
);
const DistantLight = Type.Object(
  {
    kind: Type.Literal('distant'),
    ...placed,
    intensity: number(0, 1e9, 'irradiance at normal incidence, W/m²'),
    angle: number(0, 180, 'angular size, degrees; the sun has 0.53'),
    ...emitter,
  },
  closed,
);
const RectangleLight = Type.Object(
  {
    kind: Type.Literal('rectangle'),
    ...placed,
    intensity: radiance,
    width: number(0, 1e6, 'metres, along local X'),
    height: number(0, 1e6, 'metres, along local Y'),
    ...emitter,
  },
  closed,
);
const DiscLight = Type.Object(
  { kind: Type.Literal('disc'), ...placed, intensity: radiance, radius: number(0, 1e6, 'metres'), ...emitter },
  closed,
);
const MeshLight = Type.Object(
  { kind: Type.Literal('mesh'), ...placed, intensity: radiance, object: Id, ...emitter },
  closed,
);
export const Light = Type.Union([PointLight, SpotLight, DistantLight, RectangleLight, DiscLight, MeshLight]);

/** A clear sky by day with its sun, see `lights/daylight.ts`. */
const DaylightSky = Type.Object(
  {
    elevation: number(-90, 90, 'degrees of the sun above the horizon; below it the sky is black'),
    azimuth: number(0, 360, 'degrees of the sun from north (−Z) towards east (+X)'),
    turbidity: number(1.8, 10, 'haze: 2 very clear, 3 clear, 6 light haze'),
    groundAlbedo: number(0, 1, 'share of the light that the ground below the horizon reflects'),
    sun: flag('the sun itself shines, half a degree wide; false: its sky alone'),
  },
  closed,
);

const sky = {
  kind: choice(
    ['constant', 'gradient', 'image', 'daylight'],
    'one colour, a gradient from nadir to zenith, a lat-long image, or a clear daylight sky',
  ),
  intensity: number(0, 1e9, 'factor on its colours; radiance, W/(sr m²)'),
  stops: Stops,
  texture: MaybeId,
  rotation: number(-36000, 36000, 'degrees about +Y, counter-clockwise seen from above'),
  daylight: DaylightSky,
};

export const Environment = Type.Object({ ...sky, ...emitter }, closed);

/** What the camera sees behind everything, where it differs from what lights the scene. */
export const Background = Type.Object(
  {
    ...sky,
    colour: triple(0, 1e6, 'linear Rec.709, times the intensity'),
    camera: flag('seen by the camera directly; false: only through what is clear'),
  },
  closed,
);

export const Fog = Type.Object(
  {
    density: number(0, 1e6, 'extinction, 1/m'),
    albedo: triple(0, 1, 'share of the extinguished light that is scattered'),
    anisotropy: number(-0.99, 0.99, 'mean cosine of scattering: above 0 forward, below 0 backward'),
    box: Type.Union(
      [Type.Object({ min: triple(-1e9, 1e9, 'metres'), max: triple(-1e9, 1e9, 'metres') }, closed), Type.Null()],
      { description: 'where it is; null: everywhere outside glass' },
    ),
  },
  closed,
);

export type LightSpec = Static<typeof Light>;
export type EnvironmentSpec = Static<typeof Environment>;
export type BackgroundSpec = Static<typeof Background>;
/** What a background and an environment have in common. */
export type SkySpec = Omit<BackgroundSpec, 'camera'>;
export type FogSpec = Static<typeof Fog>;
export type EmitterSpec = Pick<EnvironmentSpec, keyof typeof emitter>;
