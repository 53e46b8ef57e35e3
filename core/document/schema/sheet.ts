/** A sheet: the full set of render settings. */
import { Type, type Static } from '@sinclair/typebox';
import { FALLOFFS } from '../../data/falloff.ts';
import { choice, closed, flag, number, numberOrNone, triple, whole, wholeOrNone } from './common.ts';
import { MOST_LEVELS } from './things.ts';

export const Limits = Type.Object(
  {
    diffuse: whole(0, 64, 'scattering events; 1 is direct light only, 0 emission only'),
    specular: whole(0, 64, 'reflections, internal ones too'),
    transmission: whole(0, 64, 'glass faces passed'),
    volume: whole(0, 64, 'scattering events in fog'),
    alpha: whole(0, 256, 'see-through surfaces passed'),
    overall: whole(0, 200, 'events of all kinds together, but for see-through surfaces'),
  },
  closed,
);

export const ExtraSamples = Type.Object(
  {
    light: whole(1, 256, 'samples of every light at the first hit; 1 means none extra'),
    diffuse: whole(1, 256, 'diffuse directions at the first hit'),
    specular: whole(1, 256, 'reflections at the first hit'),
    transmission: whole(1, 256, 'transmissions at the first hit'),
    volume: whole(1, 256, 'places in fog on the way to the first hit'),
    occlusion: whole(1, 256, 'occlusion rays at the first hit'),
  },
  closed,
);

export const FILTER_KINDS = ['box', 'triangle', 'gaussian', 'mitchell', 'blackman-harris', 'lanczos'] as const;

export const Sheet = Type.Object(
  {
    width: whole(1, 16384, 'pixels'),
    height: whole(1, 16384, 'pixels'),
    samples: Type.Integer({
      minimum: 4,
      maximum: 65536,
      multipleOf: 4,
      description: 'per pixel, in fours; the most, if adaptive',
    }),
    adaptive: Type.Object(
      {
        on: flag('samples go where noise is'),
        target: number(0.1, 50, 'noise at which a pixel is done, of 255 with shadows boosted'),
        least: Type.Integer({ minimum: 16, maximum: 65536, multipleOf: 4, description: 'samples per pixel, in fours' }),
      },
      closed,
    ),
    extraSamples: ExtraSamples,
    limits: Limits,
    rayDistance: numberOrNone(1e-6, 1e9, 'metres; what is further is not met; null: any'),
    roulette: flag('weak paths may end early, at no bias'),
    clamps: Type.Object(
      {
        direct: numberOrNone(0, 1e9, 'most luminance of one contribution of direct light; null: off'),
        indirect: numberOrNone(0, 1e9, 'most luminance of one contribution of indirect light; null: off'),
        bounced: numberOrNone(
          0,
          1e9,
          'most luminance of one that came by way of an earlier event that spreads; null: off',
        ),
      },
      closed,
    ),
    roughnessFloor: number(0, 1, 'least roughness of reflections after a diffuse or fog event; 0: each its own'),
    filter: Type.Object(
      {
        kind: choice(FILTER_KINDS, 'how samples around a pixel count for it'),
        width: number(0.1, 8, 'full width, pixels'),
      },
      closed,
    ),
    motion: Type.Object(
      {
        samples: whole(1, 16, 'places of a moving object within the shutter; 1 does not blur'),
        shutter: number(0, 1, 'part of a frame that the shutter is open, from the frame on'),
      },
      closed,
    ),
    precision: choice(['double', 'single'], 'of world positions'),
    occlusion: Type.Object(
      {
        distance: numberOrNone(1e-6, 1e9, 'metres; what is further does not occlude; null: any'),
        falloff: choice(FALLOFFS, 'how occlusion fades with how far its occluder is, up to the distance'),
        cone: number(1, 90, 'half angle of the cone of rays, degrees'),
        direction: choice(['outward', 'inward'], 'measured on the side that is seen, or into the body'),
        seeThrough: flag('see-through surfaces and glass occlude by what they hold back'),
        strength: number(
          0,
          1,
          'how much of the light at the first hit it takes where all is shut; 0: it is a pass alone',
        ),
        contrast: number(0.1, 10, 'power of the openness that dims light'),
        colour: triple(0, 1, 'what is left of the light where all is shut, at a strength of 1; linear Rec.709'),
      },
      closed,
    ),
    lines: Type.Object(
      {
        over: flag('drawn over the beauty; false: they are a pass alone, if that is asked for'),
        width: number(0.5, 64, 'pixels'),
        colour: triple(0, 1, 'of the ink; linear Rec.709'),
        objects: flag('where one object ends and another, or nothing, begins'),
        materials: flag('where one material ends and another begins'),
        normal: numberOrNone(1, 180, 'degrees that the surface turns by from one place to the next; null: never'),
        depth: numberOrNone(1e-6, 1, 'jump in depth, as a share of it, that no slope explains; null: never'),
        overshoot: number(0, 64, 'pixels that straight lines run past the corner they meet in'),
      },
      closed,
    ),
    mostSubdivision: wholeOrNone(
      0,
      MOST_LEVELS,
      'maximum subdivision level of any object; null: as many as it asks for',
    ),
    neutral: choice(
      ['off', 'neutral', 'neutral-occlusion'],
      'one grey material on everything, multiplied by occlusion if wanted',
    ),
    passes: Type.Object(
      {
        occlusion: flag('ambient occlusion'),
        shadows: flag('one shadow pass per light'),
        lines: flag('ink lines'),
        groups: flag('every light pass of each light group, not the beauty alone'),
      },
      closed,
    ),
    seed: whole(0, 4294967295, 'another seed gives different noise'),
    grainTarget: number(0.1, 50, 'acceptable noise, of 255 with shadows boosted'),
  },
  closed,
);

export type Sheet = Static<typeof Sheet>;
export type LimitKind = keyof Sheet['limits'];
export type ExtraKind = keyof Sheet['extraSamples'];
export type FilterKind = Sheet['filter']['kind'];
