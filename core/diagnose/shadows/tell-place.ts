/**
 * The answer of a place in words, with the changes that would put it right: what `dusting ask` prints and the page shows.
 *
 * @example
 * const told = tellPlace(walk, sheet, pixel, askPlace(walk, walk.surfaceAt(...pixel)!, { settings, pixel }));
 * told.sentence; // "The shadow of trunk by sun is missing: shadows of sun end 6 m from the lit point, …"
 */
import type { LightState, ToldBlocker, ToldLight, ToldPlace, ToldRemedy } from '../../contracts/place.ts';
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import { valueAt } from '../../document/patch.ts';
import { metres as tellMetres } from '../../intake/preflight/tell.ts';
import type { LightAtPlace, NotLit, PlaceAnswer } from '../../place/ask.ts';
import { lightName } from '../../place/light-name.ts';
import type { LightWalk } from '../../place/light-walk.ts';
import { IS_GLASS, IS_SEE_THROUGH } from '../../render/scene/scene.ts';
import type { CauseId } from '../catalogue.ts';
import { capital, listed, lower, percent } from '../words.ts';
import { pointerOfLight } from './light-pointer.ts';
import { namesOf } from './settings/names.ts';
import { settingOf } from './settings/registry.ts';
import { tellTint } from './tell-tint.ts';
import type { Kept } from './settings/setting.ts';

/** Shares of a light below which it is held back, and above which it lights the place. */
const [SHADED, LIT] = [0.02, 0.98];
/** Samples that a light can have. */
const MOST_SAMPLES = 256;
/** Stops below which a shadow is hard to see. */
const FAINT = 0.5;

const CAUSE_OF: Record<NotLit, CauseId | null> = {
  'faces-away': null,
  'turned-away': 'lighting.light-turned-away',
  'out-of-reach': 'lighting.light-out-of-reach',
  'linked-away': 'lighting.linked-away',
  'not-for-diffuse': null,
};

export function tellPlace(walk: LightWalk, sheet: Sheet, pixel: [number, number], answer: PlaceAnswer): ToldPlace {
  const { scene, document } = walk;
  const { place } = answer;
  const name = (object: number) => document.objects[scene.objectIds[object]].name || scene.objectIds[object];
  const lights = answer.lights
    .filter(({ unshadowed, notLit }) => unshadowed > 0 || notLit !== null)
    .map((light) => tellLight(walk, sheet, answer, light))
    .sort((a, b) => Number(b.state === 'missing') - Number(a.state === 'missing') || b.unshadowed - a.unshadowed);
  return {
    pixel,
    object: { id: scene.objectIds[place.object], name: name(place.object) },
    point: place.point,
    normal: place.normal,
    metres: place.metres,
    pixelSize: place.pixel,
    through: place.through.map(name),
    sentence: sentenceOf(lights, answer),
    lights,
    direct: answer.direct,
    indirect: answer.indirect,
    leftOut: answer.leftOut,
  };
}

function sentenceOf(lights: ToldLight[], { direct, indirect }: PlaceAnswer): string {
  const missing = lights.filter(({ state }) => state === 'missing');
  if (missing.length > 0) return missing.map(({ verdict }) => verdict).join(' ');
  if (lights.length === 0) return 'There is no light that could reach this point.';
  const everything = direct + (indirect ?? 0);
  if (!(everything > 0)) return 'No light reaches this point directly.';
  const parts = lights.filter(({ share }) => share >= 0.02).sort((a, b) => b.share - a.share).map(({ name, share }) => `${name} (${percent(share)})`); // prettier-ignore
  const bounced =
    indirect && indirect / everything >= 0.02 ? [`bounced light (${percent(indirect / everything)})`] : [];
  const shaded = lights.filter(({ state }) => state === 'shaded').map(({ name }) => name);
  const shadow = shaded.length > 0 ? ` It is shadowed from ${listed(shaded)}.` : '';
  return `Lit by ${listed([...parts, ...bounced], 5)}.${shadow}`;
}

function tellLight(walk: LightWalk, sheet: Sheet, answer: PlaceAnswer, light: LightAtPlace): ToldLight {
  const { scene, document } = walk;
  const input = { scene, document };
  const everything = answer.direct + (answer.indirect ?? 0);
  const kept = keptAt(walk, sheet, answer, light);
  const { state, cause, verdict } = verdictOf(walk, answer, light, kept);
  return {
    id: scene.lightIds[light.light],
    name: lightName(input, light.light),
    pointer: pointerOfLight(input, light.light),
    state,
    cause,
    verdict,
    unshadowed: light.unshadowed,
    arriving: light.arriving,
    share: everything > 0 ? light.arriving / everything : 0,
    direction: light.direction,
    metres: light.metres,
    elevation: light.angle === null ? null : light.elevation,
    angle: light.angle,
    // What is all around throws no shadow of its own.
    contrast: light.angle === null ? null : light.contrast,
    penumbra: light.penumbra,
    edgeRays: edgeRaysOf(document, pointerOfLight(input, light.light), light),
    tint: light.tint,
    blockers: light.blockers.map(({ object, share, metres, at, blocks, switches }): ToldBlocker => {
      const id = scene.objectIds[object];
      const own = { ...kept, casters: [id], metres };
      return { id, name: document.objects[id].name || id, at, metres, share, blocks, reasons: switches.map((one) => settingOf(one).tell(own)) }; // prettier-ignore
    }),
    remedies: [
      ...(state === 'missing'
        ? curesOf(light, kept, answer.direct, everything)
        : remediesUnlit(light, kept, everything)),
      ...(cause === 'glass.blocks-shadow-rays' ? [letThrough(walk, light)] : []),
    ],
  };
}

function edgeRaysOf(document: ShotDocument, pointer: string | null, { edgeRays }: LightAtPlace): ToldLight['edgeRays'] {
  if (!edgeRays) return null;
  const own = pointer?.startsWith('/lights/') ? (valueAt(document, `${pointer}/samples`) as number) : null;
  const samples = own && Math.ceil((own * edgeRays.needed) / edgeRays.now);
  return { ...edgeRays, samples: samples && samples <= MOST_SAMPLES ? samples : null };
}

function keptAt({ scene, document }: LightWalk, sheet: Sheet, { place }: PlaceAnswer, light: LightAtPlace): Kept {
  const isTint = light.missing?.cures[0].switches.includes('colour') ?? false;
  const casters = light.blockers.filter(({ blocks, share }) => (isTint || !blocks) && share > SHADED);
  return {
    document,
    light: lightName({ scene, document }, light.light),
    lightPointer: pointerOfLight({ scene, document }, light.light),
    casters: casters.map(({ object }) => scene.objectIds[object]),
    metres: Math.max(0, ...casters.map(({ metres }) => metres)),
    receivers: [scene.objectIds[place.object]],
    rayDistance: sheet.rayDistance,
  };
}

function verdictOf(
  walk: LightWalk,
  answer: PlaceAnswer,
  light: LightAtPlace,
  kept: Kept,
): { state: LightState; cause: CauseId | null; verdict: string } {
  const { scene, document } = walk;
  const { notLit, missing, arriving, unshadowed, contrast, penumbra } = light;
  if (notLit) return { state: 'unlit', cause: CAUSE_OF[notLit], verdict: tellUnlit(walk, answer, light, kept) };
  if (missing) {
    const [{ switches }] = missing.cures;
    const [first] = switches;
    const names = listed(namesOf(document, kept.casters));
    const reasons = switches.map((id) => settingOf(id).tell(kept)).join(', and ');
    return { state: 'missing', cause: settingOf(first).cause, verdict: `The shadow of ${names} by ${kept.light} is missing: ${reasons}.` }; // prettier-ignore
  }
  const share = arriving / unshadowed;
  const names = listed(namesOf(document, light.blockers.filter(({ blocks, share }) => blocks && share > SHADED).map(({ object }) => scene.objectIds[object]))); // prettier-ignore
  if (share >= LIT) return { state: 'lit', cause: null, verdict: 'Nothing is in between.' };
  const edge = penumbra && light.angle !== null && penumbra.metres > 0 ? `, its edge ${tellMetres(+penumbra.metres.toPrecision(2))} wide here (${penumbra.pixels.toPrecision(2)} px)` : ''; // prettier-ignore
  if (share > SHADED)
    return {
      state: 'edge',
      cause: null,
      verdict: `${percent(share)} of it gets past ${names || 'what is around it'}${edge}${light.tint ? `, ${tellTint(light.tint)}` : ''}.`,
    };
  const inside = walk.insideOf(light.light);
  if (inside >= 0 && light.blockers.some(({ object }) => object === inside))
    return { state: 'shaded', cause: 'lighting.light-inside-object', verdict: `It is inside ${namesOf(document, [scene.objectIds[inside]])[0]}, which blocks its light.` }; // prettier-ignore
  const glass = glassIn(walk, light);
  // Where something opaque stands behind it as well, glass that lets light through changes nothing.
  const isOpaque = light.blockers.some((one) => one.blocks && one.share >= LIT && !glass.includes(one));
  if (glass.length > 0 && !isOpaque)
    return { state: 'shaded', cause: 'glass.blocks-shadow-rays', verdict: `${capital(listed(namesOf(document, glass.map(({ object }) => scene.objectIds[object]))))} ${glass.length === 1 ? 'is glass that stops' : 'are glass that stops'} shadow rays: light through it is found only by chance.` }; // prettier-ignore
  const isFaint = contrast !== null && contrast < FAINT;
  return {
    state: 'shaded',
    cause: isFaint ? 'shadows.drowned-by-fill' : null,
    verdict: `In the shadow of ${names}${edge}${contrast === null ? '' : isFaint ? `; hard to see, because other light fills it to within ${contrast.toFixed(2)} stops` : `; ${contrast.toFixed(1)} stops darker than when lit`}.`,
  }; // prettier-ignore
}

/** Glass that holds all of a light back, most of it first. */
const glassIn = ({ scene }: LightWalk, { blockers }: LightAtPlace) =>
  blockers.filter(({ blocks, share, object }) => {
    const flags = scene.instanceFlags[scene.instanceObject.indexOf(object)];
    return blocks && share > SHADED && (flags & IS_GLASS) !== 0 && (flags & IS_SEE_THROUGH) === 0;
  });

function letThrough(walk: LightWalk, light: LightAtPlace): ToldRemedy {
  const ids = glassIn(walk, light).map(({ object }) => walk.scene.objectIds[object]);
  return {
    title: `Let shadow rays through ${listed(namesOf(walk.document, ids))}`,
    values: Object.fromEntries(ids.map((id) => [`/objects/${id}/seeThroughShadows`, true])),
    stops: null,
  };
}

function tellUnlit(
  { document, scene }: LightWalk,
  { place }: PlaceAnswer,
  { notLit, metres }: LightAtPlace,
  { light, lightPointer }: Kept,
): string {
  const [object] = namesOf(document, [scene.objectIds[place.object]]);
  switch (notLit!) {
    case 'faces-away':
      return 'The surface faces away from it.';
    case 'turned-away':
      return `${capital(light)} points the other way.`;
    case 'linked-away':
      return `${capital(light)} is not linked to light ${object}.`;
    case 'not-for-diffuse':
      return `${capital(light)} does not light diffuse surfaces.`;
    case 'out-of-reach': {
      const reach =
        lightPointer === null ? null : (valueAt(document, `${lightPointer}/reach/distance`) as number | null);
      return `${capital(light)} ${reach === null ? 'does not reach here' : `reaches ${tellMetres(reach)}`}; this point is ${tellMetres(+(metres ?? 0).toPrecision(3))} from it.`; // prettier-ignore
    }
  }
}

/** What brings a missing shadow back, each with what it takes of the light here. */
function curesOf(light: LightAtPlace, kept: Kept, now: number, everything: number): ToldRemedy[] {
  return light.missing!.cures.flatMap(({ switches, direct }) => {
    const settings = switches.map(settingOf);
    const values = settings.map((setting) => setting.values(kept));
    if (values.some((one) => one === null)) return [];
    const [first, ...rest] = settings.map((setting) => setting.title(kept));
    return [{ title: [first, ...rest.map(lower)].join(', and '), values: Object.assign({}, ...values) as ToldRemedy['values'], stops: stopsOf(everything, direct - now) }]; // prettier-ignore
  });
}

/** What lets a light shine here that is kept away by a control of its own. */
function remediesUnlit(light: LightAtPlace, { lightPointer, light: name }: Kept, everything: number): ToldRemedy[] {
  if (lightPointer === null) return [];
  const stops = stopsOf(everything, light.unshadowed);
  switch (light.notLit) {
    case 'linked-away':
      return [{ title: `Let ${name} light everything`, values: { [`${lightPointer}/lights`]: { mode: 'all', objects: [] } }, stops }]; // prettier-ignore
    case 'out-of-reach':
      return [{ title: `Let ${name} reach any distance`, values: { [`${lightPointer}/reach/distance`]: null }, stops }];
    case 'not-for-diffuse':
      return [{ title: `Let ${name} light diffuse surfaces`, values: { [`${lightPointer}/visibility/diffuse`]: true }, stops }]; // prettier-ignore
    default:
      return [];
  }
}

/** A millionth stands for black. */
const stopsOf = (everything: number, more: number): number => {
  const least = 1e-6 * Math.max(everything, Math.abs(more));
  return Math.log2(Math.max(least, everything + more) / Math.max(least, everything));
};
