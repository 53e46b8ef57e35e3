/** Glass: what is seen through it, and why it is not. */
import type { Evidence } from '../../contracts/finding.ts';
import { metres } from '../../intake/preflight/tell.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import { capital, listed, percent } from '../words.ts';
import { blackGlassCases, type BlackGlassCase } from './black-glass.ts';
import { bodyCases, type BodyCase } from './bodies.ts';
import { blackFilter } from './causes/black-filter.ts';
import { byBody } from './causes/by-body.ts';
import { clearFilter } from './remedies/clear-filter.ts';
import { coincidentFaces, gapToLiquid } from './causes/contact.ts';
import { contactCases, type ContactCase } from './contacts.ts';
import { shadowOnlyFloor, tintOnOpacity } from './causes/misplaced.ts';
import { floorCases, opacityCases, type FloorCase, type OpacityCase } from './misplaced.ts';
import {
  blocksShadowRays,
  cameraInside,
  environmentLine,
  tintMappingCopied,
  tintUpsideDown,
} from './causes/seen-through.ts';
import { blackShadowCases, type BlackShadowCase } from './black-shadows.ts';
import { eyeCases, type EyeCase } from './eye-inside.ts';
import { skyLineCases, type SkyLineCase } from './sky-line.ts';
import { tintMapCases, type TintMapCase } from './tint-maps.ts';
import { letThrough } from './remedies/let-through.ts';
import { putInPlace } from './remedies/put-in-place.ts';
import { mendBody } from './remedies/mend-body.ts';
import { overlap } from './remedies/overlap.ts';

export type GlassCase =
  | BlackGlassCase
  | BodyCase
  | ContactCase
  | OpacityCase
  | FloorCase
  | TintMapCase
  | SkyLineCase
  | BlackShadowCase
  | EyeCase;

/** No bending, next to none, and glass: what changing the index does to a line that is seen through it. */
const INDICES = [1, 1.04, 1.5];

export const glass: Family = {
  id: 'glass',
  title: 'Glass',
  healthy: 'Glass is closed, turned outwards, and lets light through.',
  isEarly: true,
  render: ofRenders<GlassCase>({
    needs: () => ['beauty', 'object', 'transmission.direct', 'transmission.indirect'],
    cases: (input) => [
      ...blackGlassCases(input),
      ...bodyCases(input),
      ...contactCases(input),
      ...opacityCases(input),
      ...floorCases(input),
      ...tintMapCases(input),
      ...skyLineCases(input),
      ...blackShadowCases(input),
      ...eyeCases(input),
    ],
    causes: [
      cameraInside,
      blackFilter,
      ...byBody,
      coincidentFaces,
      gapToLiquid,
      tintOnOpacity,
      tintUpsideDown,
      tintMappingCopied,
      environmentLine,
      shadowOnlyFloor,
      blocksShadowRays,
    ],
    remedies: [clearFilter, mendBody, overlap, putInPlace, letThrough],
    figure: 'brightness',
    dials: (of) => (of.kind === 'sky-line' ? of.materials.map((id) => ({ pointer: `/materials/${id}/ior`, needs: null, note: null, sideBySide: INDICES })) : []), // prettier-ignore
    tell,
    evidence,
  }),
};

function evidence(of: GlassCase): Evidence[] {
  if (of.kind === 'black')
    return [
      { kind: 'swatches', title: 'What each face lets through', swatches: of.materials.map(({ name, rgb }) => ({ label: name, rgb })) }, // prettier-ignore
    ];
  if (of.kind !== 'body') return [];
  const { baseColour } = of.document.materials[of.material];
  const [r, g, b] = baseColour;
  return of.fault === 'channel'
    ? [{ kind: 'swatches', title: 'What gets through', swatches: [{ label: 'one face', rgb: [r, g, b] }, { label: 'two faces', rgb: [r * r, g * g, b * b] }] }] // prettier-ignore
    : [];
}

function tell(of: GlassCase): Words {
  switch (of.kind) {
    case 'black':
      return tellBlack(of);
    case 'body':
      return tellBody(of);
    case 'contact':
      return tellContact(of);
    case 'opacity':
      return tellOpacity(of);
    case 'floor':
      return tellFloor(of);
    case 'tint-map':
      return tellTintMap(of);
    case 'sky-line':
      return tellSkyLine(of);
    case 'black-shadow':
      return tellBlackShadow(of);
    case 'eye':
      return tellEye(of);
  }
}

function tellOpacity({ material, map, objects }: OpacityCase): Words {
  return {
    sentence: `The tint of ${listed(objects)} is on the opacity of ${material.name}: ${map.name} takes the glass away instead of colouring it.`,
    headline: `${capital(map.name)} is coloured, and opacity has no colour`,
    why: 'Opacity says how much of the surface is there: where it is low, light passes without glass, neither tinted nor bent. What colours glass is its base colour, at each face, or its absorption.',
  };
}

function tellFloor({ name, through, share }: FloorCase): Words {
  return {
    sentence: `${capital(name)} is only shadow, and is looked at through ${listed(through)}.`,
    headline: `On ${percent(share)} of the picture there is nothing behind the glass but its shadows`,
    why: 'A floor that only takes shadows stands for a plate, and a plate is not bent by glass: behind it there is the background alone, darkened where the shadow falls.',
  };
}

function tellTintMap({ fault, name, like, hidden, map, span, usual }: TintMapCase): Words {
  if (fault === 'copied')
    return {
      sentence: `The tint of ${name} is one tone: it has ${percent(span)} of the run of ${map}, ${listed(like)} ${percent(usual)}.`,
      headline: 'The map is placed as for another object',
      why: 'A place of a map fits the UVs it was made for. On others it shows a corner of the run, stretched over all of it.',
    };
  const why = like.length
    ? `On ${listed(like)}, which ${like.length === 1 ? 'is' : 'are'} tinted by the same run, it goes the other way up the picture.`
    : `As it is, each face lets ${percent(hidden!.now)} of the light of what stands behind through; turned over, ${percent(hidden!.turned)}.`;
  return {
    sentence: `The tint of ${name} is upside down: its dark end ${hidden ? `hides ${listed(hidden.names)}` : 'is where others are light'}.`,
    headline: `${capital(map)} runs the other way on the surface`,
    why: `${why} Which end is up is told by the surface as it stands in the picture, whatever its UVs say.`,
  };
}

function tellSkyLine({ names, stops, elevations: [low, high] }: SkyLineCase): Words {
  const at = tellElevations(Math.round(low), Math.round(high));
  return {
    sentence: `A hard line of the environment is seen in ${listed(names)}: ${stops.toFixed(1)} stops across.`,
    headline: `The environment changes ${at}, and glass alone shows it`,
    why: 'The camera does not see the environment itself, so that nothing beside the glass tells where the line comes from. It stays when lights are turned up or down, and is gone without the environment. Another index of refraction is no cure: it moves the line where the glass bends light, hardly at all in a flat pane, and what it does to the glass is seen everywhere.',
  };
}

function tellEye({ names, camera }: EyeCase): Words {
  return {
    sentence: `${capital(camera)} stands inside ${listed(names)}: everything is seen from within glass.`,
    headline: 'Rays begin in air, and the first face they meet is taken for a way in',
    why: 'What is seen is bent the wrong way, and absorbed where it should not be. The camera was probably meant to stand before it, or in its hollow.',
  };
}

function tellElevations(low: number, high: number): string {
  if (Math.max(-low, high) <= 1) return 'at its horizon';
  const side = (degrees: number) => `${Math.abs(degrees)}° ${degrees < 0 ? 'below' : 'above'}`;
  return low === high ? `${side(low)} its horizon` : `from ${side(low)} to ${side(high)} its horizon`;
}

function tellBlackShadow({ names, lights, share, stopped }: BlackShadowCase): Words {
  return {
    sentence: `${capital(listed(names))} ${names.length === 1 ? 'throws a shadow' : 'throw shadows'} as black as a wall’s, on ${percent(share)} of the picture.`,
    headline: `${capital(listed(lights))} ${lights.length === 1 ? 'has' : 'have'} no size, and glass stops ${lights.length === 1 ? 'its' : 'their'} shadow rays`,
    why: `${percent(stopped)} of the light there would come through the glass. Bent by it, no path can meet a light without a size, so it is lost, contacts and all. See-through shadows let it straight through, tinted; a light with a radius makes caustics, at the price of noise.`,
  };
}

function tellContact({ how, inner, outer, gap }: ContactCase): Words {
  return how === 'coincident'
    ? {
        sentence: `A face of ${inner.name} coincides with one of ${outer.name}.`,
        headline: 'Rounding decides which of the two light meets first',
        why: 'Where both faces are at one place, some rays leave one body before they enter the other and some do not: the border is speckled, and bends light by the wrong index.',
      }
    : {
        sentence: `Air stands between ${inner.name} and ${outer.name}: a gap of ${metres(+gap.toPrecision(2))}.`,
        headline: 'A film of air mirrors where liquid should wet the wall',
        why: 'Light leaves one body and enters the other: at a slant all of it is mirrored (total internal reflection), so that what is inside looks silvered, and smaller than its vessel.',
      };
}

function tellBlack({ objects, materials, through }: BlackGlassCase): Words {
  const names = listed(materials.map(({ name }) => name));
  return {
    sentence: `Black glass: ${listed(objects)} ${objects.length === 1 ? 'lets' : 'let'} ${percent(through)} of the light through.`,
    headline: `The colour of ${names} is black, and it is what each face filters by`,
    why: `Two faces let ${percent(through)} through. Neither limits nor samples change that.`,
  };
}

function tellBody({ fault, document, objects, material, thickness, openEdges, through }: BodyCase): Words {
  const names = listed(objects);
  const is = objects.length === 1 ? 'is' : 'are';
  const { name, ior, baseColour, attenuationDistance } = document.materials[material];
  const long = metres(+thickness.toPrecision(2));
  switch (fault) {
    case 'inverted':
      return {
        sentence: `${capital(names)} ${is} turned inside out: glass and air are the wrong way round.`,
        headline: 'Its faces look inwards',
        why: 'Light that enters is taken to leave: it bends the other way, and absorption stands outside.',
      };
    case 'sheet':
      return {
        sentence: `${capital(names)} ${is} a sheet without thickness, rendered as a solid body.`,
        headline: 'Light goes in, and never out again',
        why: 'Behind the sheet everything stands in glass: it is bent once, and absorbed over all the way there. A sheet is a thin wall.',
      };
    case 'open':
      return {
        sentence: `${capital(names)} ${is} open: ${openEdges.toLocaleString('en')} edges have but one face.`,
        headline: 'Where a face is missing, light never leaves the glass',
        why: 'A solid body of glass has to be closed: through a hole, what stands behind is seen as from inside.',
      };
    case 'flagged-thin':
      return {
        sentence: `${capital(names)} ${is} ${long} thick, and rendered as thin walls.`,
        headline: 'Thin walls bend nothing',
        why: 'A body that is thick all around magnifies and turns what stands behind it; as thin walls it is a tinted shadow of that. It may be meant, to save samples.',
      };
    case 'index':
      return {
        sentence: `${capital(names)} ${objects.length === 1 ? 'has' : 'have'} an index of refraction of ${+ior.toPrecision(3)}.`,
        headline: ior < 1.2 ? 'It bends next to nothing, and mirrors nothing' : 'No clear solid bends so much',
        why: 'Water has 1.33, glass 1.5, diamond 2.42.',
      };
    case 'channel': {
      const none = ['red', 'green', 'blue'].filter((_, a) => baseColour[a] <= 0.02);
      return {
        sentence: `${capital(name || material)} swallows all of ${listed(none)}: what stands behind ${names} has none of it.`,
        headline: 'Each face filters by the base colour, and a channel of it is 0',
        why: 'What is black in a channel stays black, however bright it stands behind the glass, and whatever the limits.',
      };
    }
    case 'absorption':
      return {
        sentence: `${capital(names)} ${is} black inside: ${+(100 * through).toPrecision(2)} % of the light gets straight through.`,
        headline: `The attenuation distance is ${metres(+attenuationDistance!.toPrecision(2))}, and it is ${long} through`,
        why: 'Light has the attenuation colour after that distance, and its square after twice as much (Beer–Lambert). The distance was probably meant in other units.',
      };
  }
}
