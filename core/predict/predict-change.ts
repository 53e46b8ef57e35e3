/**
 * What any change of a scene or its settings would do to a region: the region rendered small with and without it, on
 * the same random numbers, and the noise of the present picture where there is one.
 *
 * @example
 * const [effect] = predictChanges({ before, region, mask: null, picture, names, seed }, [vary({ '/samples': 64 })]);
 */
import type { Effect } from '../contracts/figures.ts';
import { channel, type Picture, type Region } from '../data/picture.ts';
import { compareSides } from '../figures/compare.ts';
import type { Carriage, Side } from '../figures/figure.ts';
import { figureOf, figurePasses } from '../figures/registry.ts';
import { measuredIn } from '../picture/halves.ts';
import { luminancePlane } from '../picture/measured.ts';
import type { Clock } from '../render/frame/render-tile.ts';
import { sceneFigures } from './scene-figures.ts';
import {
  compiledSide,
  planSmall,
  renderSmall,
  type ChangeSide,
  type SmallPlan,
  type Variation,
} from './small-render.ts';

export interface Change {
  before: ChangeSide;
  after: Variation;
  /** Full-frame pixels inside the sheet's frame. */
  region: Region;
  /** A byte a pixel of the full frame: whose brightness counts; null for all. */
  mask: Uint8Array | null;
  /** Beauty, its error and the objects over the full frame, as rendered with `before`. */
  picture: Picture | null;
  /** The region was chosen for what chance brought there: its noise in the picture is more than the next render's. */
  isSelected?: boolean;
  /** What objects are called, by number from 0. */
  names: string[];
  /** Never the trial's. */
  seed: number;
  /** Of a host that wants time forecast. */
  clock?: Clock | null;
}

/** Where many changes are held against each other, each gets a share of the rays. */
const MANY = 2;

/** Spends at most about a quarter of the rays of a trial of the same region. */
export const predictChange = (change: Change): Effect => predictChanges(change, [change.after])[0];

/** Of a region, what is marked where the small render's rows and columns may miss it: marked pixels are rendered by themselves then. */
const LITTLE = 0.1;
const MOST_MARKED = 512;

/** What changes share, with passes that are wanted beside those of the figures. */
export interface Changes extends Omit<Change, 'after'> {
  passes?: string[];
  /** Is shown the small render of each change, by its number. */
  see?: (picture: Picture, k: number) => void;
}

/**
 * Several changes of one thing, which share what is rendered without them. Changed sides are asked for one by one and let
 * go, so that no more than one compiled scene beside the first is held.
 */
export function predictChanges(
  { before, region, mask, picture, isSelected, names, seed, clock = null, passes = [], see = () => {} }: Changes,
  afters: Variation[],
): Effect[] {
  const fewest = Math.min(...[before, ...afters, ...afters.flatMap(({ alone }) => alone ?? [])].map(({ sheet }) => sheet.samples)); // prettier-ignore
  const plan = planSmall(region, before.sheet.width, fewest, afters.length > 1 ? MANY : 1);
  const counted = mask && Uint8Array.from(plan.pixels, (p) => mask[p]);
  const film = picture?.channels.has('object')
    ? { here: gather(picture, plan.pixels), region: gather(picture, pixelsOf(region, picture.width)) }
    : null;
  const here = picture && !isSelected ? noiseOf(picture, region) : null;
  const first = smallSide(before, plan, passes, seed, clock);
  const marked = mask && markedPlan(mask, region, plan, before.sheet.width);
  const markedFirst = marked && smallSide(before, marked, [], seed, null);
  const markedFilm = marked && film ? { here: gather(picture!, marked.pixels), region: gather(picture!, marked.pixels) } : null; // prettier-ignore
  return afters.map((after, k) => {
    const side = compiledSide(after);
    const second = smallSide(side, plan, passes, seed, clock);
    see(second.picture, k);
    const small = compareSides({ before: first, after: second, mask: counted, names, film });
    const carriage: Carriage = { standsFor: plan.standsFor, samplesFor: [first.samplesFor, second.samplesFor], here };
    const figures = small.figures.map((value) => figureOf(value.id).carry?.(value, carriage) ?? value);
    if (!marked || !markedFirst) return { figures };
    const markedSecond = smallSide(side, marked, [], seed, null);
    const told = compareSides({ before: markedFirst, after: markedSecond, mask: null, names, film: markedFilm });
    const brightness = told.figures.find(({ id }) => id === BRIGHTNESS);
    return { figures: figures.map((value) => (value.id === BRIGHTNESS && brightness ? brightness : value)) };
  });
}

/** The figure that is told of marked pixels alone. */
const BRIGHTNESS = 'brightness';

/** What is marked inside a region, evenly thinned; null where it is nothing, or so much that the small render has its share of it. */
function markedPlan(mask: Uint8Array, region: Region, { groups }: SmallPlan, frameWidth: number): SmallPlan | null {
  const all = pixelsOf(region, frameWidth).filter((i) => mask[i] === 1);
  if (all.length === 0 || all.length > LITTLE * region.width * region.height) return null;
  const count = Math.min(all.length, MOST_MARKED);
  const pixels = Uint32Array.from({ length: count }, (_, k) => all[Math.floor(((k + 0.5) * all.length) / count)]);
  return { pixels, width: count, height: 1, standsFor: all.length / count, groups };
}

interface SmallSide extends Side {
  picture: Picture;
  samplesFor: number;
}

function smallSide(side: ChangeSide, plan: SmallPlan, passes: string[], seed: number, clock: Clock | null): SmallSide {
  const all = [...new Set([...figurePasses(side.scene.layout), ...passes])];
  const { picture, samplesFor, seconds } = renderSmall(side, plan, all, seed, clock);
  return { picture, samplesFor, seconds, deciding: 0, occlusionRays: side.sheet.extraSamples.occlusion, ofScene: sceneFigures(side.scene, side.sheet) }; // prettier-ignore
}

/** Of the pixels that chose no region, see `picture/halves.ts`. */
function noiseOf(picture: Picture, region: Region) {
  const [luminance, error] = measuredIn(
    picture,
    region,
    luminancePlane(picture, 'beauty'),
    channel(picture, 'error.beauty'),
  );
  return { luminance, error };
}

const pixelsOf = ({ x, y, width, height }: Region, frameWidth: number): Uint32Array =>
  Uint32Array.from({ length: width * height }, (_, i) => (y + Math.floor(i / width)) * frameWidth + x + (i % width));

/** Pixels as the render has them: other random numbers, so that what few pixels miss by chance is told. */
function gather(picture: Picture, pixels: Uint32Array): Picture {
  const names = ['beauty.R', 'beauty.G', 'beauty.B', 'object'];
  const channels = new Map(names.map((name) => [name, Float32Array.from(pixels, (i) => channel(picture, name)[i])]));
  return { x: 0, y: 0, width: pixels.length, height: 1, channels };
}
