/** What lighting's cases say, in words. */
import { metres } from '../../intake/preflight/tell.ts';
import type { Words } from '../family.ts';
import { capital, listed, percent } from '../words.ts';
import type { OverexposedCase, TiedCase } from './bright.ts';
import type { DarkCase } from './dark.ts';
import type { DeadCase } from './dead-lights.ts';
import type { LightingCase } from './definition.ts';
import type { DimCase } from './dim.ts';
import type { CoarseCase } from './environment.ts';
import type { FlatCase } from './flat.ts';
import { isCertain, type ImageLightCase } from './image-light.ts';
import type { PoleCase } from './pole.ts';
import type { SeamCase } from './seam.ts';

export function tell(of: LightingCase): Words {
  switch (of.kind) {
    case 'dark':
      return tellDark(of);
    case 'dead':
      return tellDead(of);
    case 'tied':
      return tellTied(of);
    case 'overexposed':
      return tellOverexposed(of);
    case 'dim':
      return tellDim(of);
    case 'image':
      return tellImage(of);
    case 'seam':
      return tellSeam(of);
    case 'pole':
      return tellPole(of);
    case 'flat':
      return tellFlat(of);
    case 'coarse':
      return tellCoarse(of);
  }
}

function tellDim({ under }: DimCase): Words {
  return {
    sentence: `The environment is the only light, and too dark for that: even bright surfaces are ${under.toFixed(1)} stops under mid grey.`,
    headline: 'No other light is on',
    why: 'No light and no emissive surface is on. The picture reads as black; more samples only make it cleaner.',
  };
}

function tellImage(of: ImageLightCase): Words {
  const { fault, file, white, brightest } = of;
  const sure = isCertain(of) ? 'Files of this kind hold nothing else.' : 'This holds unless linear values were stored on purpose.'; // prettier-ignore
  if (fault === 'baked')
    return {
      sentence: `${file} lights the scene with a display curve in its values.`,
      headline: 'Its floats are multiples of 1/255: a display picture, written as linear',
      why: 'On screen the curve is applied twice, and dark areas light too much. No setting undoes what is in the file.',
    };
  return fault === 'linear'
    ? {
        sentence: `${file} lights the scene with its display curve left on.`,
        headline: 'Display values are read as linear',
        why: `Integer formats hold display values, where mid grey is 0.46 instead of 0.18: read as linear, dark areas light 2.6 times too much and everything looks washed out. ${sure}`,
      }
    : {
        sentence: `A display picture lights the scene: ${+(100 * white).toPrecision(2)} % of ${file} ends at white.`,
        headline: `What was brighter than white is clipped${brightest ? `, ${brightest.elevation.toFixed(0)}° above the horizon` : ''}`,
        why: `The sun is tens of thousands of times as bright as the sky around it. Clipped at 1 it casts no shadows, and highlights are dull. ${sure}`,
      };
}

function tellSeam({ file, stops, usual, shownBy, elevations: [from, to] }: SeamCase): Words {
  return {
    sentence: `The seam of the environment is seen${shownBy.length ? ` in ${listed(shownBy)}` : ''}: a hard upright line.`,
    headline: `The left and right edges of ${file} differ by ${stops.toFixed(1)} stops`,
    why: `Neighbouring columns elsewhere differ by ${usual.toFixed(2)}. The line stands ${from.toFixed(0)}° to ${to.toFixed(0)}° above the horizon, where the image’s left and right edges meet; more samples don’t remove it.`,
  };
}

function tellPole({ file, pole, rows, degrees, stops, shownBy }: PoleCase): Words {
  return {
    sentence: `The ${pole} pole of the environment is seen${shownBy.length ? ` in ${listed(shownBy)}` : ''}: a star where its texels meet.`,
    headline: rows > 1 ? `The ${pole} ${rows} rows of ${file} repeat one row: ${degrees.toFixed(1)}° about the pole` : `The ${pole} row of ${file} is not a single colour`,
    why: `All of it is one direction, ${pole === 'top' ? 'straight up' : 'straight down'}, and its texels differ by ${stops.toFixed(1)} stops: they meet in a point.${rows > 1 ? ' What was not photographed was filled with the row next to it.' : ''} More samples don’t remove it.`,
  };
} // prettier-ignore

function tellFlat({ sides }: FlatCase): Words {
  return {
    sentence: `The lighting is flat: upright faces that point different ways differ by ${sides.toFixed(1)} stops.`,
    headline: 'Light comes evenly from all around',
    why: 'All contrast comes from objects occluding each other, so shapes read only by their silhouettes. If the look is intended, leave it.',
  };
}

function tellTied({ share, stops }: TiedCase): Words {
  return {
    sentence: `The sky blows out: ${percent(share)} of the picture is background beyond white.`,
    headline: `The camera sees the environment that lights the scene, ${stops.toFixed(1)} stops beyond white`,
    why: 'Turning it down would also darken the scene. A separate background decouples the two.',
  };
}

function tellOverexposed({ share, stops, light }: OverexposedCase): Words {
  return {
    sentence: `Surfaces are overexposed: ${percent(share)} of them are beyond white.`,
    headline: `${capital(light.name)} brings ${percent(light.share)} of the light there`,
    why: `They stand ${stops.toFixed(1)} stops beyond white, so they show no shading on the display. A view transform or exposure may be meant to handle that; samples don’t.`,
  };
}

function tellDark({ document, isEmpty, isBlack, off, on }: DarkCase): Words {
  const { name } = document.cameras[document.camera];
  if (isEmpty)
    return {
      sentence: isBlack
        ? 'The frame is black: the camera sees no object.'
        : 'The camera sees no object: all of the frame is background.',
      headline: `Nothing is in front of ${name || document.camera}`,
      why: 'No sample hit a surface: the camera looks away, is inside something, or everything is hidden from it.',
    };
  const each = (why: string, names: string[]) => (names.length ? `${capital(listed(names))} ${names.length === 1 ? 'is' : 'are'} ${why}.` : ''); // prettier-ignore
  const reasons = (['hidden', 'at zero', 'linked away'] as const).map((why) => each(why === 'linked away' ? 'linked to no object' : why, off.filter((one) => one.why === why).map((one) => one.name))); // prettier-ignore
  const shining = on.length ? `${capital(listed(on))} is on, and none of its light arrives.` : '';
  return {
    sentence: 'The frame is black: no light reaches what the camera sees.',
    headline: off.length + on.length === 0 ? 'There is no light, no emissive surface and no environment' : on.length === 0 ? 'Every light is switched off by a control of its own' : 'The light there is doesn’t arrive', // prettier-ignore
    why: [...reasons, shining, 'More samples don’t change that.'].filter(Boolean).join(' '),
  };
}

function tellDead({ document, light, name, why, by, nearest }: DeadCase): Words {
  const reach = document.lights[light].reach.distance;
  const body = by === null ? '' : document.objects[by].name || by;
  const [headline, reason] = {
    'turned-away': [`${capital(name)} points the other way`, 'Nothing in view is on the side it points to.'],
    'out-of-reach': [`${capital(name)} reaches ${reach === null ? 'nothing' : metres(reach)}; the nearest visible surface is ${metres(+nearest.toPrecision(3))} away`, 'Its reach ends before anything in view.'],
    'linked-away': [`${capital(name)} is linked to nothing in view`, 'Light linking leaves out every object that it could light.'],
    'inside-object': [`${capital(name)} stands inside ${body}`, `Rays both ways out of it cross the faces of ${body} once more than from outside: its light stays in there.`],
    blocked: [`${capital(body)} stands before ${name}`, `Wherever the picture is checked for its light, ${body} blocks it.`],
  }[why];
  return {
    sentence: `${capital(name)} is on but lights nothing in view.`,
    headline,
    why: `${reason} The picture is the same without it. More samples don’t change that.`,
  };
} // prettier-ignore

function tellCoarse({ objects, texels, texel, pixel }: CoarseCase): Words {
  const needed = 2 ** Math.ceil(Math.log2(360 / pixel));
  return {
    sentence: `The environment is coarser than the frame: a texel of it is ${(texel / pixel).toFixed(0)} pixels wide where ${listed(objects)} ${objects.length === 1 ? 'mirrors' : 'mirror'} it.`,
    headline: `${texels} texels around: ${texel.toFixed(2)}° each, and ${pixel.toFixed(3)}° a pixel`,
    why: `Its sharp detail is soft or stepped in flat mirrors, whatever the samples. An image of about ${needed} texels around has one per pixel.`,
  };
}
