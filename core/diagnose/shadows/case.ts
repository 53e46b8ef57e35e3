/** What is wrong with shadows where: those that a setting keeps away, and those that other light drowns. */
import type { ShotDocument } from '../../document/schema.ts';
import type { LightAtPlace } from '../../place/ask.ts';
import { lightName } from '../../place/light-name.ts';
import type { LightWalk } from '../../place/light-walk.ts';
import type { SwitchId } from '../../place/switches.ts';
import { EMITS, IS_GLASS } from '../../render/scene/scene.ts';
import { percentile } from '../../picture/measured.ts';
import { maskOfBlocks } from '../../place/grid.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';
import { CutAway } from './cut-away.ts';
import { surveyOf, type Survey, type SurveyedPlace } from './survey.ts';
import { jaggedCases, type JaggedCase } from './jagged.ts';
import { previewCases, type PreviewCase } from './preview.ts';
import { outlineCases, type OutlineCase } from './outline.ts';
import { wideCases, type WideCase } from './wide.ts';
import { keyOf } from './key-light.ts';
import { pointerOfLight } from './light-pointer.ts';
import { settingOf } from './settings/registry.ts';
import type { Kept } from './settings/setting.ts';

export interface MissingCase extends Case {
  kind: 'missing';
  /** Settings that bring the shadow back together, as few as do. */
  switches: SwitchId[];
  kept: Kept;
  /** Stops by which the places would be darker: the median, and the most. */
  stops: number;
  most: number;
  /** Share of the surveyed places where the shadow is missing. */
  share: number;
  /** Of the light that arrives there, what comes from this one. */
  ofLight: number;
}

export interface DrownedCase extends Case {
  kind: 'drowned';
  document: ShotDocument;
  light: string;
  /** Pointer of its controls; null where none are its own. */
  keyPointer: string | null;
  /** Stops between its shadow and its light, the median where its shadow falls or would fall. */
  contrast: number;
  /** What fills its shadows most: name, pointer of its controls, share of all the fill, and times the light's own irradiance. */
  fill: { name: string; pointer: string | null; share: number; times: number };
  /** Factor on that fill which gives the contrast that is hoped for; null: there is none. */
  factor: number | null;
  /** Factors on the light and on that fill which give it and leave what is lit as bright as it is; null: there are none. */
  balance: { key: number; fill: number } | null;
  angle: number;
}

export type ShadowCase = MissingCase | DrownedCase | WideCase | JaggedCase | OutlineCase | PreviewCase;

/** Stops below which nobody misses a shadow, and share of the picture below which none is looked for. */
const MISSED = 0.08;
const LEAST = 0.004;
/** Stops from which on it is more than a note; and share of the picture that the shadow of the strongest light is missing on. */
const PLAIN = 0.3;
const WIDE = 0.02;

export function shadowCases(input: RenderInput): ShadowCase[] {
  const survey = surveyOf(input);
  if (survey.places.length === 0) return previewCases(input);
  return [
    ...missingCases(input, survey),
    ...drownedCases(input, survey),
    ...wideCases(input, survey),
    ...jaggedCases(input),
    ...outlineCases(input, survey),
    ...previewCases(input),
  ];
}

interface Gap {
  at: SurveyedPlace;
  light: LightAtPlace;
  casters: number[];
  metres: number;
  stops: number;
}

function missingCases(input: RenderInput, survey: Survey): MissingCase[] {
  const { document, scene, picture } = input;
  const groups = new Map<string, { switches: SwitchId[]; gaps: Gap[] }>();
  const key = keyOf(input, survey)?.row;
  const cutAway = new CutAway(input);
  for (const at of survey.places)
    for (const light of at.lights) {
      const gap = gapAt(input, survey.walk, cutAway, at, light);
      if (!gap) continue;
      const { switches } = light.missing!.cures[0];
      const kept = keptOf(input, [gap], switches);
      const name = switches.map((id) => `${id} ${settingOf(id).owner(kept)}`).join('; ');
      const group = groups.get(name) ?? { switches, gaps: [] };
      if (group.gaps.length === 0) groups.set(name, group);
      group.gaps.push(gap);
    }
  return [...groups.entries()]
    .filter(([, { gaps }]) => gaps.length >= Math.max(2, LEAST * survey.places.length))
    .map(([name, { switches, gaps: all }]): MissingCase => {
      // Told by the light that is missed most: settings of objects are the same for all.
      const gaps = all.sort((a, b) => b.stops - a.stops);
      const mask = maskOfBlocks(picture, survey.step, gaps.map(({ at }) => at)); // prettier-ignore
      const stops = gaps.map((gap) => gap.stops);
      const median = percentile(stops, 0.5);
      const share = gaps.length / survey.places.length;
      const isOfKey = gaps[0].light.light === key && share >= WIDE;
      return {
        key: `shadows.missing ${name}`,
        kind: 'missing',
        severity: median >= PLAIN || isOfKey ? 'caution' : 'note',
        region: regionOf(picture, mask),
        mask,
        passes: ['beauty', 'diffuse.direct'],
        objects: [...new Set(gaps.flatMap(({ casters }) => casters.map((n) => document.objects[scene.objectIds[n]].name || scene.objectIds[n])))], // prettier-ignore
        switches,
        kept: keptOf(input, gaps, switches),
        stops: median,
        most: Math.max(...stops),
        share,
        ofLight: percentile(gaps.map(({ at, light }) => light.arriving / at.everything), 0.5), // prettier-ignore
      };
    })
    .sort((a, b) => b.stops * b.share - a.stops * a.share);
}

/** What is missing at a place of a light's shadow; null for what nobody misses, or may be meant. */
function gapAt(
  { document, scene }: RenderInput,
  walk: LightWalk,
  cutAway: CutAway,
  at: SurveyedPlace,
  light: LightAtPlace,
): Gap | null {
  const { missing } = light;
  if (!missing) return null;
  const stops = Math.log2(at.everything / Math.max(at.everything - (light.arriving - light.natural), 1e-4 * at.everything)); // prettier-ignore
  if (!(stops >= MISSED)) return null;
  const [{ switches }] = missing.cures;
  // What throws a tinted shadow holds the light back, but for what the tint leaves of it.
  const isTint = switches.includes('colour');
  const around = walk.insideOf(light.light);
  const casters = light.blockers.filter(
    (one) => (isTint || !one.blocks) && one.share > 0.02 && one.object !== around && !isMeant(one.object),
  );
  if (casters.length === 0) return null;
  return { at, light, casters: casters.map(({ object }) => object), metres: Math.max(...casters.map(({ metres }) => metres)), stops }; // prettier-ignore

  /** Glass and lamps that let light out throw no shadow on purpose; nor does what a light stands inside of. */
  function isMeant(object: number): boolean {
    if (switches.includes('side') && cutAway.isMeant(object, at.place)) return true;
    if (!switches.includes('object') && !switches.includes('link')) return false;
    const flags = scene.instanceFlags[scene.instanceObject.indexOf(object)];
    const casts = document.objects[scene.objectIds[object]].visibility.shadow;
    return (flags & (EMITS | IS_GLASS)) !== 0 || (casts && !switches.includes('link'));
  }
}

function keptOf(input: RenderInput, gaps: Gap[], switches: SwitchId[]): Kept {
  const { document, scene, sheet } = input;
  const [{ light }] = gaps;
  const ids = (numbers: number[]) => [...new Set(numbers)].map((n) => scene.objectIds[n]).sort();
  return {
    document,
    light: lightName(input, light.light),
    lightPointer: pointerOfLight(input, light.light),
    casters: ids(gaps.flatMap(({ casters }) => casters)),
    metres: Math.max(...gaps.map(({ metres }) => metres)),
    receivers: switches.includes('receiver') ? ids(gaps.map(({ at }) => at.place.object)) : [],
    rayDistance: sheet.rayDistance,
  };
}

/** Degrees beyond which a light is wide: its shadows are soft, and meant to be. */
const HARD = 6;
/** Share of the places that must lie in its shadow, so that it can be told at all. */
const SHADED = 0.01;
/** Stops below which a hard shadow is hard to see, and what a clear one has. */
const FAINT = 0.5;
export const CLEAR = 1.5;

/** @param fill what can be turned of the rest */
function balanceOf(own: number, rest: number, fill: number): DrownedCase['balance'] {
  const all = own + rest;
  const dark = all / 2 ** CLEAR;
  const left = dark - (rest - fill);
  return left > 0 ? { key: (all - dark) / own, fill: left / fill } : null;
}

function drownedCases(input: RenderInput, { places, step }: Survey): DrownedCase[] {
  const { document, picture, scene } = input;
  const key = keyOf(input, { places });
  if (!key?.isAhead) return [];
  const { row } = key;
  const shaded = places.flatMap((at) => {
    const own = at.lights.find(({ light }) => light === row);
    return own && own.contrast !== null && own.angle !== null && own.angle <= HARD && own.natural < 0.1 * own.unshadowed ? [{ at, own }] : []; // prettier-ignore
  });
  if (shaded.length < Math.max(3, SHADED * places.length)) return [];
  const contrast = percentile(shaded.map(({ own }) => own.contrast!), 0.5); // prettier-ignore
  if (contrast >= FAINT) return [];
  const fills = new Map<number, number>();
  let [rest, own] = [0, 0];
  for (const { at, own: light } of shaded) {
    // What bounces is shared out by what arrives: it goes with the light that it came from.
    const bounced = at.everything / at.lights.reduce((sum, { arriving }) => sum + arriving, 0);
    for (const one of at.lights)
      if (one.light !== row) fills.set(one.light, (fills.get(one.light) ?? 0) + one.arriving * bounced);
    rest += at.everything - light.arriving;
    own += light.unshadowed;
  }
  const [most] = [...fills.entries()].sort((a, b) => b[1] - a[1]);
  if (!most) return [];
  const share = most[1] / rest;
  const goal = own / (2 ** CLEAR - 1);
  const left = goal - (rest - most[1]);
  const mask = maskOfBlocks(picture, step, shaded.map(({ at }) => at)); // prettier-ignore
  return [
    {
      key: `shadows.drowned ${scene.lightIds[row]}`,
      kind: 'drowned',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['beauty', 'diffuse.direct'],
      document,
      light: lightName(input, row),
      keyPointer: pointerOfLight(input, row),
      contrast,
      fill: { name: lightName(input, most[0]), pointer: pointerOfLight(input, most[0]), share: Math.min(1, share), times: most[1] / own }, // prettier-ignore
      factor: left > 0 ? left / most[1] : null,
      balance: balanceOf(own, rest, most[1]),
      angle: shaded[0].own.angle!,
    },
  ];
}
