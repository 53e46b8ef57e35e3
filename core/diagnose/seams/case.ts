/** Seams that stand open in the picture, by the objects that meet there, and what closes them: each reason left out, alone and in pairs. */
import { channel } from '../../data/picture.ts';
import { KeptParts } from '../../geometry/kept-parts.ts';
import { viewOf, type View } from '../../render/scene/view.ts';
import { gapsOf, SEEN, summed, type Gap, type SeamGaps } from '../../seams/gaps.ts';
import { movedShapes, type MovedShape } from '../../seams/moved-shapes.ts';
import { wornShapes } from '../../seams/worn-shapes.ts';
import type { CauseId } from '../catalogue.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionAround } from '../regions.ts';
import { filterAcross } from './ways/filter-across.ts';
import { noPadding } from './ways/no-padding.ts';
import { scaleDiffers } from './ways/scale-differs.ts';
import { sidesDiffer } from './ways/sides-differ.ts';
import { splitNormals } from './ways/split-normals.ts';
import { tileEdge } from './ways/tile-edge.ts';
import { tileMissing } from './ways/tile-missing.ts';
import { uvRule } from './ways/uv-rule.ts';
import { stateWithout, type SeamInput, type SeamState, type Way } from './way.ts';

/** Where two reasons close as much, the one that comes first is told: a rule is set, a map has to be made. */
const WAYS: Way[] = [tileMissing, scaleDiffers, splitNormals, uvRule, tileEdge, filterAcross, noPadding];

export interface Closed {
  causes: CauseId[];
  /** Share of the area of all gaps that is closed, 0–1. */
  share: number;
  /** What remains at most, pixels. */
  left: number;
}

export interface SeamCase extends Case {
  input: SeamInput;
  objects: string[];
  gaps: SeamGaps;
  /** Pixels from which a gap is seen: half of one of the largest sheet. */
  seen: number;
  /** Shapes that the gaps number. */
  shapes: MovedShape[];
  /** What each reason closes by itself, the most first; pairs where none does nearly all; last a map made to match, which closes whatever it carries. */
  closed: Closed[];
  /** Of each cause, its part of the gaps. */
  shares: Map<CauseId, number>;
}

/** Share of the gaps from which on they are closed. */
export const CLOSED = 0.99;
/** Shares that are the same. */
const ALIKE = 0.02;

export function seamCases(rendered: RenderInput): SeamCase[] {
  const { scene, sheet } = rendered;
  const shapes = movedShapes(scene);
  if (shapes.length === 0) return [];
  const view = viewOf(scene, sheet);
  const { gaps: all, closed } = gapsOf(shapes, view);
  const kept = new KeptParts();
  // What opens by half a pixel of the largest sheet is told before that is rendered.
  const larger = Math.max(1, ...Object.values(rendered.document.sheets).map(({ width }) => width / sheet.width));
  const seen = SEEN / larger;
  return groupsOf(all, shapes.length)
    .filter((group) => group.some(({ pixels }) => Math.max(...pixels) >= seen))
    .flatMap((group) => caseOf(rendered, { shapes, group, closed, view, kept, seen }) ?? []);
}

/** Gaps of objects that meet each other belong together. */
function groupsOf(gaps: Gap[], count: number): Gap[][] {
  const group = Int32Array.from({ length: count }, (_, k) => k);
  const find = (k: number): number => (group[k] === k ? k : (group[k] = find(group[k])));
  for (const { shapes: [a, b], ends } of gaps) if (a !== b && Math.max(...ends) > 0) group[find(a)] = find(b); // prettier-ignore
  const groups = new Map<number, Gap[]>();
  for (const gap of gaps) {
    const key = find(gap.shapes[0]);
    const own = groups.get(key);
    if (own) own.push(gap);
    else groups.set(key, [gap]);
  }
  return [...groups.values()];
}

interface Group {
  shapes: MovedShape[];
  group: Gap[];
  /** Metres of closed seam of each shape. */
  closed: number[];
  view: View;
  kept: KeptParts;
  seen: number;
}

function caseOf(rendered: RenderInput, { shapes, group, closed: rest, view, kept, seen }: Group): SeamCase | null {
  const { document, scene, sheet, assets, picture } = rendered;
  const mask = maskOf(rendered, shapes, group, seen);
  if (!mask.some((one) => one === 1)) return null;
  const meeting = [...new Set(group.flatMap((gap) => gap.shapes))];
  const ids = meeting.map((k) => scene.objectIds[shapes[k].object]);
  const state: SeamState = { document, assets, joinsNormals: false };
  const worn = (of: SeamState, isWanted: (id: string) => boolean) => wornShapes({ ...of, sheet, kept }, isWanted);
  const own = (of: SeamState) => worn(of, (id) => ids.includes(id));
  const input: SeamInput = {
    state,
    sheet,
    ids,
    shapes: own(state),
    wearers: (of, texture) =>
      worn(of, (id) => {
        const map = of.document.maps[of.document.materials[of.document.objects[id].material].displacementMap ?? ''];
        return map?.kind === 'image' && map.texture === texture;
      }),
  };
  const gaps = summed(group, meeting.map((k) => rest[k]), view, seen); // prettier-ignore
  const { closed, shares } = closedBy(input, own, view, gaps.area);
  return {
    key: `seams.open ${ids[0]}`,
    severity: 'caution',
    region: regionAround(picture, mask),
    mask,
    passes: ['beauty', 'normal'],
    objects: ids.map((id) => document.objects[id].name || id),
    input,
    gaps,
    seen,
    shapes,
    closed,
    shares,
  };
} // prettier-ignore

function closedBy(input: SeamInput, own: (of: SeamState) => SeamInput['shapes'], view: View, area: number) {
  const closing = (causes: CauseId[], without: SeamState): Closed => {
    const { area: rest, greatestPixels } = gapsOf(own(without), view);
    return { causes, share: Math.max(0, 1 - rest / area), left: greatestPixels };
  };
  const tried = WAYS.flatMap((way) => {
    const state = stateWithout(way, input);
    return state ? [{ way, state, closed: closing([way.cause], state) }] : [];
  });
  const singles = tried.map(({ closed }) => closed);
  const pairs: Closed[] = [];
  if (!singles.some(({ share }) => share >= CLOSED))
    for (const [k, one] of tried.entries())
      for (const other of tried.slice(k + 1)) {
        const state = stateWithout(other.way, { ...input, state: one.state, shapes: own(one.state) });
        if (state) pairs.push(closing([one.way.cause, other.way.cause], state));
      }
  const best = Math.max(0, ...singles.map(({ share }) => share), ...pairs.map(({ share }) => share));
  const shares = new Map(singles.map(({ causes: [cause], share }, k) => [cause, share - 1e-6 * k]));
  // Of reasons that close as much as another, the first is told: the others close it by the way.
  const most = Math.max(0, ...shares.values());
  const [first] = singles.filter(({ share }) => share >= most - ALIKE);
  if (first) for (const [cause, share] of shares) if (cause !== first.causes[0]) shares.set(cause, Math.max(0, Math.min(share, 1 - shares.get(first.causes[0])!))); // prettier-ignore
  // A map made to match closes whatever it carries: what nothing else closes is what its sides differ by.
  const alike = stateWithout(sidesDiffer, input);
  const matching = alike ? [closing([sidesDiffer.cause], alike)] : [];
  if (alike) shares.set(sidesDiffer.cause, 1 - best);
  const byShare = (a: Closed, b: Closed) => b.share - a.share;
  return {
    closed: [
      ...singles.sort(byShare),
      ...pairs
        .filter(({ share }) => share > most + ALIKE)
        .sort(byShare)
        .slice(0, 3),
      ...matching,
    ],
    shares,
  };
}

/** Pixels from a gap where its objects are seen: what lies behind them is not. */
const NEAR = 2;

/** Pixels of gaps that are wide enough to be seen, where the picture shows what they are of. */
function maskOf({ picture }: RenderInput, shapes: MovedShape[], gaps: Gap[], from: number): Uint8Array {
  const { width, height } = picture;
  const mask = new Uint8Array(width * height);
  const objects = channel(picture, 'object');
  for (const { pixels, shapes: pair, line } of gaps) {
    if (!line || Math.max(...pixels) < from) continue;
    const numbers = pair.map((k) => shapes[k].object + 1);
    const steps = Math.ceil(2 * Math.max(1, Math.hypot(line[2] - line[0], line[3] - line[1])));
    for (let i = 0; i <= steps; i++) {
      const [x, y] = [0, 1].map((a) => Math.floor(line[a] + (i / steps) * (line[2 + a] - line[a])));
      if (x < 0 || y < 0 || x >= width || y >= height || mask[y * width + x]) continue;
      if (isNear(objects, width, height, x, y, numbers)) mask[y * width + x] = 1;
    }
  }
  return mask;
}

function isNear(
  objects: Float32Array,
  width: number,
  height: number,
  x: number,
  y: number,
  numbers: number[],
): boolean {
  for (let ny = Math.max(0, y - NEAR); ny <= Math.min(height - 1, y + NEAR); ny++)
    for (let nx = Math.max(0, x - NEAR); nx <= Math.min(width - 1, x + NEAR); nx++)
      if (numbers.includes(objects[ny * width + nx])) return true;
  return false;
}
