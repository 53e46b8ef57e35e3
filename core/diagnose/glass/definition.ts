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
  healthy: 'Glass is closed, faces outwards and lets light through.',
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
    sentence: `The tint of ${listed(objects)} is on the opacity of ${material.name}: ${map.name} removes the glass instead of tinting it.`,
    headline: `${capital(map.name)} is coloured, and opacity has no colour`,
    why: 'Opacity is how much of the surface exists: where it is low, light passes as if there were no glass, neither tinted nor refracted. Glass is tinted by its base colour, at each face, or by absorption.',
  };
}

function tellFloor({ name, through, share }: FloorCase): Words {
  return {
    sentence: `${capital(name)} is a shadow catcher, seen through ${listed(through)}.`,
    headline: `On ${percent(share)} of the picture there is nothing behind the glass but its shadows`,
    why: 'A shadow catcher stands in for the plate, and the plate is not refracted by glass: behind the glass there is only the background, darkened where the shadow falls.',
  };
}

function tellTintMap({ fault, name, like, hidden, map, span, usual }: TintMapCase): Words {
  if (fault === 'copied')
    return {
      sentence: `The tint of ${name} is one tone: it has ${percent(span)} of the gradient of ${map}, ${listed(like)} ${percent(usual)}.`,
      headline: 'The map is placed for another object',
      why: 'The placement of a map fits the UVs it was made for. On others it shows one corner of the gradient, stretched over the whole object.',
    };
  const why = like.length
    ? `On ${listed(like)}, which ${like.length === 1 ? 'is' : 'are'} tinted by the same gradient, it runs the other way up.`
    : `As it is, each face lets ${percent(hidden!.now)} of the light of what stands behind through; turned over, ${percent(hidden!.turned)}.`;
  return {
    sentence: `The tint of ${name} is upside down: its dark end ${hidden ? `hides ${listed(hidden.names)}` : 'is where others are light'}.`,
    headline: `${capital(map)} runs the other way on the surface`,
    why: `${why} Which end is up is judged on the surface as it stands in the picture, whatever its UVs say.`,
  };
}

function tellSkyLine({ names, stops, elevations: [low, high] }: SkyLineCase): Words {
  const at = tellElevations(Math.round(low), Math.round(high));
  return {
    sentence: `A hard line of the environment is seen in ${listed(names)}: ${stops.toFixed(1)} stops across.`,
    headline: `The environment changes ${at}, and glass alone shows it`,
    why: 'The camera doesn’t see the environment itself, so nothing beside the glass shows where the line comes from. It stays when lights are dimmed, and goes with the environment. Changing the index of refraction is no cure: it moves the line where the glass refracts, hardly at all in a flat pane, and changes the look of the glass everywhere.',
  };
}

function tellEye({ names, camera }: EyeCase): Words {
  return {
    sentence: `${capital(camera)} stands inside ${listed(names)}: everything is seen from within glass.`,
    headline: 'Rays start in air, so the first face they hit is taken for an entry',
    why: 'Light is refracted the wrong way, and absorbed where it should not be. The camera was probably meant to be in front of the glass, or in its hollow.',
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
    why: `${percent(stopped)} of the light there would come through the glass. Once refracted, no path can hit a light without a size, so that light is lost, contact points included. See-through shadows let it straight through, tinted; a light with a radius makes caustics, at the price of noise.`,
  };
}

function tellContact({ how, inner, outer, gap }: ContactCase): Words {
  return how === 'coincident'
    ? {
        sentence: `A face of ${inner.name} coincides with one of ${outer.name}.`,
        headline: 'Rounding decides which of the two a ray hits first',
        why: 'Where both faces coincide, some rays leave one body before they enter the other and some don’t: the boundary is speckled, and refracts by the wrong index.',
      }
    : {
        sentence: `Air stands between ${inner.name} and ${outer.name}: a gap of ${metres(+gap.toPrecision(2))}.`,
        headline: 'A film of air reflects where the liquid should wet the wall',
        why: 'Light leaves one body and enters the other: beyond the critical angle all of it is reflected (total internal reflection), so the contents look silvered, and smaller than the vessel.',
      };
}

function tellBlack({ objects, materials, through }: BlackGlassCase): Words {
  const names = listed(materials.map(({ name }) => name));
  return {
    sentence: `Black glass: ${listed(objects)} ${objects.length === 1 ? 'lets' : 'let'} ${percent(through)} of the light through.`,
    headline: `The colour of ${names} is black, and each face filters by it`,
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
        sentence: `${capital(names)} ${is} turned inside out: glass and air are swapped.`,
        headline: 'Its faces point inwards',
        why: 'Light that enters is treated as leaving: it refracts the other way, and absorption is applied outside.',
      };
    case 'sheet':
      return {
        sentence: `${capital(names)} ${is} a sheet without thickness, rendered as a solid body.`,
        headline: 'Light goes in and never comes out',
        why: 'Everything behind the sheet is treated as inside the glass: refracted once, and absorbed all the way. A sheet should be a thin wall.',
      };
    case 'open':
      return {
        sentence: `${capital(names)} ${is} open: ${openEdges.toLocaleString('en')} edges have but one face.`,
        headline: 'Where a face is missing, light never leaves the glass',
        why: 'A solid glass body has to be closed: through a hole, what is behind is seen as if from inside the glass.',
      };
    case 'flagged-thin':
      return {
        sentence: `${capital(names)} ${is} ${long} thick, and rendered as thin walls.`,
        headline: 'Thin walls don’t refract',
        why: 'A solid body magnifies and flips what is behind it; thin walls only tint it. It may be intended, to save samples.',
      };
    case 'index':
      return {
        sentence: `${capital(names)} ${objects.length === 1 ? 'has' : 'have'} an index of refraction of ${+ior.toPrecision(3)}.`,
        headline: ior < 1.2 ? 'It hardly refracts, and reflects nothing' : 'No clear solid refracts this much',
        why: 'Water has 1.33, glass 1.5, diamond 2.42.',
      };
    case 'channel': {
      const none = ['red', 'green', 'blue'].filter((_, a) => baseColour[a] <= 0.02);
      return {
        sentence: `${capital(name || material)} swallows all of ${listed(none)}: what stands behind ${names} has none of it.`,
        headline: 'Each face filters by the base colour, and a channel of it is 0',
        why: 'A channel that is 0 stays black, however bright it is behind the glass, and whatever the limits.',
      };
    }
    case 'absorption':
      return {
        sentence: `${capital(names)} ${is} black inside: ${+(100 * through).toPrecision(2)} % of the light gets straight through.`,
        headline: `The attenuation distance is ${metres(+attenuationDistance!.toPrecision(2))}, and it is ${long} through`,
        why: 'Light has the attenuation colour after that distance, and its square after twice the distance (Beer–Lambert). The distance was probably meant in other units.',
      };
  }
}
