/** The fireflies of a render as a case: all of them together, for they have their causes in common. */
import { visibleGrain } from '../../data/grain.ts';
import { channel, isInRegion, type Picture, type Region } from '../../data/picture.ts';
import { luminancePlane, strongestWindow } from '../../picture/measured.ts';
import { singleFireflies } from '../../picture/single-fireflies.ts';
import type { RenderInput } from '../family.ts';
import { maskOf } from '../regions.ts';
import { commonOf, type FireflyCase } from './case.ts';
import { clampCurve, clampKindOf, type ClampKind } from './clamp-curve.ts';
import { waysOf } from './ways.ts';

/** Fewer of them are taken out by hand. */
const FEWEST = 4;
/** A share of the picture's light from which on the fewest are a finding. */
const MUCH = 0.02;
/** Where they are less than this share of all visible noise, and hold next to no light, they are what noise ends in. */
const OF_NOISE = 0.25;
const LITTLE = 0.01;
/** A share of the pixels from which the picture cannot be used. */
const MANY = 5e-4;
/** Sizes of a trial's region, as shares of the frame: the smallest that holds enough of them to count. */
const REGIONS = [[0.25, 0.3], [0.35, 0.42], [0.5, 0.6], [0.7, 0.8], [1, 1]]; // prettier-ignore
const ENOUGH = 40;
const KINDS: ClampKind[] = ['bounced', 'indirect', 'direct'];

export function casesOf(input: RenderInput): FireflyCase[] {
  const { picture } = input;
  const at = singleFireflies(picture);
  const energy = energyOf(picture, at);
  if (at.length === 0 || (at.length < FEWEST && energy < MUCH)) return [];
  const { width, height } = picture;
  const mask = maskOf(picture, at);
  const region = regionOf(picture, mask, Math.min(ENOUGH, 0.75 * at.length));
  const ways = waysOf(input, at);
  const paths = channel(picture, 'brightest.path');
  const kinds = KINDS.map((kind) => ({ kind, own: at.filter((i) => clampKindOf(paths[i]) === kind) }));
  const [{ kind, own }] = kinds.sort((a, b) => b.own.length - a.own.length);
  return [
    {
      ...commonOf(input, at),
      key: 'fireflies',
      severity:
        energy >= MUCH || (at.length > MANY * width * height && !isTail(input, at, energy)) ? 'caution' : 'note',
      region,
      mask,
      passes: [ways[0].pass, 'brightest.value', 'brightest.path', 'clamped'],
      isElsewhereNext: true,
      input,
      at,
      here: at.filter((i) => isInRegion(region, i % width, Math.floor(i / width))).length,
      ways,
      kind,
      own,
      curve: clampCurve(picture, kind, own),
      energy,
    },
  ];
}

function regionOf(picture: Picture, mask: Uint8Array, least: number): Region {
  const { width, height } = picture;
  const windows = REGIONS.map(([w, h]) => strongestWindow(picture, mask, Math.ceil(width * w), Math.ceil(height * h)));
  const count = (region: Region) => mask.reduce((n, one, i) => n + (one && isInRegion(region, i % width, Math.floor(i / width)) ? 1 : 0), 0); // prettier-ignore
  return windows.find((region) => count(region) >= least) ?? windows.at(-1)!;
}

/** Whether they are the bright end of noise that is everywhere: more samples of what is noisy take them along. */
function isTail({ picture, sheet }: RenderInput, at: number[], energy: number): boolean {
  if (energy >= LITTLE) return false;
  const y = luminancePlane(picture, 'beauty');
  const squares = channel(picture, 'error.beauty').map((sigma, i) => visibleGrain(y[i], sigma) ** 2);
  const all = squares.reduce((a, b) => a + b, 0);
  const own = at.reduce((sum, i) => sum + squares[i], 0);
  return Math.sqrt((all - own) / squares.length) > sheet.grainTarget && own < OF_NOISE * all;
}

/** Share of the picture's light that stands in these pixels. */
function energyOf(picture: Picture, at: number[]): number {
  const y = luminancePlane(picture, 'beauty');
  const light = y.reduce((sum, v) => sum + (v - v === 0 ? v : 0), 0);
  return light > 0 ? at.reduce((sum, i) => sum + y[i], 0) / light : 0;
}
