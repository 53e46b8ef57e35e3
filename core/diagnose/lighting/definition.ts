/** Lighting: lights and environments that are not as they should be, and frames that get no light at all. */
import { changeOf } from '../../figures/effect.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import { MIRROR_PASSES } from '../mirrors.ts';
import { metres } from '../../intake/preflight/tell.ts';
import { capital, listed, percent } from '../words.ts';
import { backgroundTied } from './causes/background-tied.ts';
import { deadBy } from './causes/dead-by.ts';
import { environmentCoarse } from './causes/environment-coarse.ts';
import { lightAtZero } from './causes/light-at-zero.ts';
import { lightHidden } from './causes/light-hidden.ts';
import { linkedAway } from './causes/linked-away.ts';
import { overexposed } from './causes/overexposed.ts';
import { nothingInView } from './causes/nothing-in-view.ts';
import { nothingLights } from './causes/nothing-lights.ts';
import { overexposedCases, tiedCases, type OverexposedCase, type TiedCase } from './bright.ts';
import { darkCases, type DarkCase } from './dark.ts';
import { deadCases, type DeadCase } from './dead-lights.ts';
import { coarseCases, type CoarseCase } from './environment.ts';
import { blurMirrors } from './remedies/blur-mirrors.ts';
import { lessLight } from './remedies/less-light.ts';
import { partBackground } from './remedies/part-background.ts';
import { putBack } from './remedies/put-back.ts';
import { revive } from './remedies/revive.ts';

export type LightingCase = CoarseCase | DarkCase | DeadCase | OverexposedCase | TiedCase;

/** Stops by which black is no longer black. */
const LIT = 4;

export const lighting: Family = {
  id: 'lighting',
  title: 'Lighting',
  healthy: 'Light gets to what the camera sees, and the environment is as fine as the frame.',
  isEarly: true,
  render: ofRenders<LightingCase>({
    needs: () => ['beauty', 'error.beauty', 'coverage', 'emission', ...MIRROR_PASSES],
    cases(input) {
      const dark = darkCases(input);
      // Of a frame that is dark all over everything is told at once.
      return [
        ...dark,
        ...(dark.length > 0 ? [] : deadCases(input)),
        ...overexposedCases(input),
        ...tiedCases(input),
        ...coarseCases(input),
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
      overexposed,
      backgroundTied,
    ],
    remedies: [blurMirrors, putBack, revive, lessLight, partBackground],
    figure: 'brightness',
    // A frame that a limit keeps black is not black with that put right.
    goesWith: (effect) => ((changeOf(effect, 'brightness') ?? 0) > LIT ? 1 : 0),
    tell,
    evidence: (of) =>
      of.kind !== 'coarse'
        ? []
        : [
            {
              kind: 'table',
              title: 'Texels against pixels',
              columns: ['', 'degrees', 'around'],
              rows: [['a texel', +of.texel.toFixed(3), of.texels], ['a pixel', +of.pixel.toFixed(3), Math.round(360 / of.pixel)]], // prettier-ignore
            },
          ],
  }),
};

function tell(of: LightingCase): Words {
  switch (of.kind) {
    case 'dark':
      return tellDark(of);
    case 'dead':
      return tellDead(of);
    case 'tied':
      return tellTied(of);
    case 'overexposed':
      return tellOverexposed(of);
    case 'coarse':
      return tellCoarse(of);
  }
}

function tellTied({ share, stops }: TiedCase): Words {
  return {
    sentence: `The sky blows out: ${percent(share)} of the picture is background beyond white.`,
    headline: `The camera sees the environment that lights the scene, ${stops.toFixed(1)} stops beyond white`,
    why: 'Turned down, it would take its light from the scene. A background of its own parts the two.',
  };
}

function tellOverexposed({ share, stops, light }: OverexposedCase): Words {
  return {
    sentence: `Surfaces are overexposed: ${percent(share)} of them are beyond white.`,
    headline: `${capital(light.name)} brings ${percent(light.share)} of the light there`,
    why: `They stand ${stops.toFixed(1)} stops beyond white, so that the display shows no shape on them. A view transform or exposure may be meant to take that up; samples do not.`,
  };
}

function tellDark({ document, isEmpty, isBlack, off, on }: DarkCase): Words {
  const { name } = document.cameras[document.camera];
  if (isEmpty)
    return {
      sentence: isBlack
        ? 'The frame is black: the camera sees no object.'
        : 'The camera sees no object: all of the frame is background.',
      headline: `Nothing stands before ${name || document.camera}`,
      why: 'No sample hit a surface: the camera looks away, is inside something, or everything is hidden from it.',
    };
  const each = (why: string, names: string[]) => (names.length ? `${capital(listed(names))} ${names.length === 1 ? 'is' : 'are'} ${why}.` : ''); // prettier-ignore
  const reasons = (['hidden', 'at zero', 'linked away'] as const).map((why) => each(why === 'linked away' ? 'linked to no object' : why, off.filter((one) => one.why === why).map((one) => one.name))); // prettier-ignore
  const shining = on.length ? `${capital(listed(on))} is on, and none of its light arrives.` : '';
  return {
    sentence: 'The frame is black: no light gets to what the camera sees.',
    headline: off.length + on.length === 0 ? 'There is no light, no glowing surface and no environment' : on.length === 0 ? 'Every light is switched off by a control of its own' : 'Light that is there does not arrive', // prettier-ignore
    why: [...reasons, shining, 'More samples do not change that.'].filter(Boolean).join(' '),
  };
}

function tellDead({ document, light, name, why, inside, nearest }: DeadCase): Words {
  const reach = document.lights[light].reach.distance;
  const body = inside === null ? '' : document.objects[inside].name || inside;
  const [headline, reason] = {
    'turned-away': [`${capital(name)} shines another way`, 'None of what is seen stands on the side that it shines to.'],
    'out-of-reach': [`${capital(name)} reaches ${reach === null ? 'nothing' : metres(reach)}; the nearest surface that is seen is ${metres(+nearest.toPrecision(3))} away`, 'Its reach ends before anything that is seen.'],
    'linked-away': [`${capital(name)} is linked to nothing that is seen`, 'Light linking leaves out every object that it could light.'],
    'inside-object': [`${capital(name)} stands inside ${body}`, `Rays both ways out of it cross the faces of ${body} once more than a place outside would: its light stays in there.`],
  }[why];
  return {
    sentence: `${capital(name)} is on and lights nothing that is seen.`,
    headline,
    why: `${reason} Without it the picture is the same. More samples do not change that.`,
  };
} // prettier-ignore

function tellCoarse({ objects, texels, texel, pixel }: CoarseCase): Words {
  const needed = 2 ** Math.ceil(Math.log2(360 / pixel));
  return {
    sentence: `The environment is coarser than the frame: a texel of it is ${(texel / pixel).toFixed(0)} pixels wide where ${listed(objects)} ${objects.length === 1 ? 'mirrors' : 'mirror'} it.`,
    headline: `${texels} texels around: ${texel.toFixed(2)}° each, and ${pixel.toFixed(3)}° a pixel`,
    why: `Sharp detail in it is soft or stepped in flat mirrors, whatever the samples. An image of about ${needed} texels around has one for each pixel.`,
  };
}
