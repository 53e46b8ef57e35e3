/** Lighting: lights and environments that are not as they should be, and frames that get no light at all. */
import type { Evidence } from '../../contracts/finding.ts';
import { changeOf } from '../../figures/effect.ts';
import { ofPictures, ofRenders, type Family } from '../family.ts';
import { MIRROR_PASSES } from '../mirrors.ts';
import { overexposedCases, tiedCases, type OverexposedCase, type TiedCase } from './bright.ts';
import { backgroundTied } from './causes/background-tied.ts';
import { deadBy } from './causes/dead-by.ts';
import { environmentCoarse } from './causes/environment-coarse.ts';
import { environmentSeam } from './causes/environment-seam.ts';
import { environmentTooDark } from './causes/environment-too-dark.ts';
import { flatSides } from './causes/flat-sides.ts';
import { displayCurveMissing, displayCurveTwice, displayPictureAsLight } from './causes/image-light.ts';
import { lightAtZero } from './causes/light-at-zero.ts';
import { lightHidden } from './causes/light-hidden.ts';
import { linkedAway } from './causes/linked-away.ts';
import { nothingInView } from './causes/nothing-in-view.ts';
import { nothingLights } from './causes/nothing-lights.ts';
import { overexposed } from './causes/overexposed.ts';
import { curveInPictures } from './in-pictures.ts';
import { darkCases, type DarkCase } from './dark.ts';
import { deadCases, type DeadCase } from './dead-lights.ts';
import { dimCases, type DimCase } from './dim.ts';
import { coarseCases, type CoarseCase } from './environment.ts';
import { flatCases, type FlatCase } from './flat.ts';
import { imageLightCases, type ImageLightCase } from './image-light.ts';
import { poleCases, type PoleCase } from './pole.ts';
import { blurMirrors } from './remedies/blur-mirrors.ts';
import { brighten } from './remedies/brighten.ts';
import { evenPole } from './remedies/even-pole.ts';
import { imageLight } from './remedies/image-light.ts';
import { lessLight } from './remedies/less-light.ts';
import { partBackground } from './remedies/part-background.ts';
import { putBack } from './remedies/put-back.ts';
import { revive } from './remedies/revive.ts';
import { shape } from './remedies/shape.ts';
import { turnSeam } from './remedies/turn-seam.ts';
import { seamCases, type SeamCase } from './seam.ts';
import { tell } from './tell.ts';

export type LightingCase =
  | CoarseCase
  | DarkCase
  | DeadCase
  | DimCase
  | FlatCase
  | ImageLightCase
  | OverexposedCase
  | PoleCase
  | SeamCase
  | TiedCase;

/** Stops by which black is no longer black. */
const LIT = 4;

export const lighting: Family = {
  id: 'lighting',
  title: 'Lighting',
  healthy: 'Light gets to what the camera sees, and the environment is as fine as the frame.',
  isEarly: true,
  render: ofRenders<LightingCase>({
    needs: () => [
      'beauty',
      'error.beauty',
      'coverage',
      'emission',
      'diffuse.direct',
      'diffuse.indirect',
      'albedo',
      ...MIRROR_PASSES,
    ],
    cases(input) {
      const dark = darkCases(input);
      // Of a frame that is dark all over everything is told at once.
      return [
        ...dark,
        ...(dark.length > 0 ? [] : deadCases(input)),
        ...dimCases(input),
        ...imageLightCases(input),
        ...overexposedCases(input),
        ...tiedCases(input),
        ...coarseCases(input),
        ...seamCases(input),
        ...poleCases(input),
        ...(dark.length > 0 ? [] : flatCases(input)),
      ];
    },
    causes: [
      environmentCoarse,
      ...deadBy,
      lightAtZero,
      lightHidden,
      linkedAway,
      nothingLights,
      nothingInView,
      environmentSeam,
      environmentTooDark,
      displayCurveMissing,
      displayCurveTwice,
      displayPictureAsLight,
      overexposed,
      backgroundTied,
      flatSides,
    ],
    remedies: [
      blurMirrors,
      putBack,
      revive,
      brighten,
      imageLight,
      lessLight,
      partBackground,
      turnSeam,
      evenPole,
      shape,
    ],
    figure: 'brightness',
    // A frame that a limit keeps black is not black with that put right.
    goesWith: (effect) => ((changeOf(effect, 'brightness') ?? 0) > LIT ? 1 : 0),
    tell,
    evidence,
  }),
  picture: ofPictures(curveInPictures),
};

function evidence(of: LightingCase): Evidence[] {
  switch (of.kind) {
    case 'coarse':
      return [{ kind: 'table', title: 'Texels against pixels', columns: ['', 'degrees', 'around'], rows: [['a texel', +of.texel.toFixed(3), of.texels], ['a pixel', +of.pixel.toFixed(3), Math.round(360 / of.pixel)]] }]; // prettier-ignore
    case 'flat':
      return [{ kind: 'table', title: 'Light on upright faces', columns: ['facing', 'W/m²'], rows: of.ways.map(({ name, irradiance }) => [name, +irradiance.toPrecision(3)]) }]; // prettier-ignore
    case 'image':
      return of.brightest ? [{ kind: 'table', title: 'What is white in it', columns: ['', ''], rows: [['of the sphere', `${+(100 * of.white).toPrecision(2)} %`], ['elevation', `${of.brightest.elevation.toFixed(0)}°`], ['azimuth', `${of.brightest.azimuth.toFixed(0)}°`]] }] : []; // prettier-ignore
    default:
      return [];
  }
}
