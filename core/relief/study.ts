/** A displaced object as a whole: its map, how far it moves, what its mesh carries of it, at every level that it could have. */
import { subdivisionCost } from '../subdivision/subdivide.ts';
import { meshPolygons } from '../data/mesh-polygons.ts';
import { luminance } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';
import type { Assets } from '../render/compile/assets.ts';
import type { View } from '../render/scene/view.ts';
import type { ShotDocument } from '../document/schema.ts';
import { coverage } from '../seams/islands.ts';
import { inWorld } from '../seams/gaps.ts';
import type { WornShape } from '../seams/worn-shapes.ts';
import { carriedBy } from './carried.ts';
import { cutOff, type CutOff } from './cut-off.ts';
import { movedThrough, type Through } from './through.ts';
import { readMap, type MapReading } from './read-map.ts';

export interface LevelStudy {
  level: number;
  /** Of an edge. */
  metres: number;
  pixels: number;
  texels: number | null;
  /** Share of the relief that edges so long carry, 0–1; null where the map is no image. */
  carried: number | null;
  triangles: number;
  /** While they are made. */
  bytes: number;
}

export interface ReliefStudy {
  shape: WornShape;
  map: MapReading;
  /** Peaks or hollows that the map has lost; null: none, or it is no image. */
  cut: CutOff | null;
  /** Metres from the low end of what the map does to its high end. */
  amplitude: number;
  /** Share of the map that would move further than the bound lets it, 0–1, and how far the farthest would, metres. */
  beyond: { share: number; farthest: number };
  /** Longest side of the object before it moves, metres. */
  size: number;
  /** Times its area that it has after it moved. */
  stretch: number;
  /** Whether it goes through itself. */
  through: Through;
  /** Metres that a pixel covers where the object is nearest. */
  pixel: number;
  /** As it is rendered. */
  level: number;
  levels: LevelStudy[];
}

/** Levels that are told. */
const MOST_LEVELS = 7;

/** @returns null for what is behind the camera or has no area */
export function studyRelief(shape: WornShape, document: ShotDocument, assets: Assets, view: View): ReliefStudy | null {
  const { mesh, relief, toWorld, level } = shape;
  const [before, after] = [areaOf(mesh.before, mesh.indices, toWorld), areaOf(mesh.positions, mesh.indices, toWorld)];
  const near = nearest(shape, view);
  if (!(before > 0) || near === null) return null;
  const worn = wornMap(shape);
  const map = readMap(worn?.heights ?? heightsOf(shape), worn?.covered ?? null);
  if (!map) return null;
  const object = document.objects[shape.id];
  const edge = Math.sqrt((2 * before) / (mesh.indices.length / 3));
  const texels = worn && relief.texture ? edgeTexels(shape) : null;
  const carried = worn ? carriedBy(worn.heights, worn.width, worn.height, worn.covered) : null;
  const source = assets.meshes.get(object.mesh!)!;
  const cage = meshPolygons(source, source.polygons ?? null, object.mesh!);
  const levels = Array.from({ length: MOST_LEVELS }, (_, k): LevelStudy => {
    const by = 2 ** (level - k);
    const { faces, bytes } = subdivisionCost(cage, k);
    const own = texels === null ? null : texels * by;
    return { level: k, metres: edge * by, pixels: (edge * by) / near, texels: own, carried: own === null || !carried ? null : carried(own), triangles: k === 0 ? source.indices.length / 3 : 2 * faces, bytes };
  });
  return {
    shape,
    map,
    cut: worn && cutOff(worn.heights, worn.width, worn.covered, map),
    amplitude: Math.min(2 * relief.bound, Math.abs(relief.scale) * (map.high - map.low)),
    beyond: beyondBound(relief, map),
    size: sizeOf(shape),
    stretch: after / before,
    through: movedThrough(shape),
    pixel: near,
    level,
    levels,
  };
} // prettier-ignore

function beyondBound({ scale, rest, bound }: WornShape['relief'], { bins, low, high }: MapReading): ReliefStudy['beyond'] {
  const moveOf = (value: number) => Math.abs(scale * (value - rest));
  const all = bins.reduce((sum, { count }) => sum + count, 0);
  const out = bins.reduce((sum, { from, to, count }) => (moveOf((from + to) / 2) > bound ? sum + count : sum), 0);
  return { share: out / all, farthest: Math.max(moveOf(low), moveOf(high)) };
} // prettier-ignore

/** The image as heights, with what the shape covers of it. */
function wornMap(shape: WornShape) {
  const { chain, compiled } = shape.relief;
  if (!chain || !shape.texels) return null;
  const [image] = chain;
  const { width, height } = image;
  return { width, height, heights: channelOf(image, compiled.channel), covered: coverage([shape], image) };
}

const channelOf = ({ texels, alpha, width, height }: Texture, channel: number): Float32Array =>
  Float32Array.from({ length: width * height }, (_, i) => {
    if (channel === 4) return alpha ? alpha[i] : 1;
    return channel === 0 ? luminance(texels[3 * i], texels[3 * i + 1], texels[3 * i + 2]) : texels[3 * i + channel - 1];
  });

/** Of a map that is no image: its heights at the vertices. */
function heightsOf({ mesh, relief: { sampler } }: WornShape): Float32Array {
  const { before, uvs } = mesh;
  return Float32Array.from({ length: before.length / 3 }, (_, v) => {
    for (let a = 0; a < 3; a++) sampler.object[a] = before[3 * v + a];
    if (uvs) for (let a = 0; a < 2; a++) sampler.uv[a] = sampler.uv[2 + a] = uvs[2 * v + a];
    return sampler.number(0);
  });
}

function areaOf(points: Float32Array, indices: Uint32Array, rows: Float64Array): number {
  let area = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [inWorld(rows, points, indices[t]), inWorld(rows, points, indices[t + 1]), inWorld(rows, points, indices[t + 2])]; // prettier-ignore
    const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
    area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  }
  return area;
}

/** Texels of an edge, by the area that triangles have on the texture. */
function edgeTexels({ mesh, texels }: WornShape): number {
  let area = 0;
  const { indices } = mesh;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [2 * indices[t], 2 * indices[t + 1], 2 * indices[t + 2]];
    area += Math.abs((texels![b] - texels![a]) * (texels![c + 1] - texels![a + 1]) - (texels![c] - texels![a]) * (texels![b + 1] - texels![a + 1])) / 2; // prettier-ignore
  }
  return Math.sqrt((2 * area) / (indices.length / 3));
}

function sizeOf({ mesh, toWorld }: WornShape): number {
  const [low, high] = [[Infinity, Infinity, Infinity], [-Infinity, -Infinity, -Infinity]]; // prettier-ignore
  for (let v = 0; v < mesh.before.length / 3; v++)
    inWorld(toWorld, mesh.before, v).forEach((value, a) => {
      low[a] = Math.min(low[a], value);
      high[a] = Math.max(high[a], value);
    });
  return Math.max(...high.map((value, a) => value - low[a]));
}

/** Metres a pixel where the object is nearest, of what is in the frame. */
function nearest({ mesh, toWorld }: WornShape, view: View): number | null {
  let least = Infinity;
  const step = Math.max(1, Math.floor(mesh.before.length / 3 / 2000));
  for (let v = 0; v < mesh.before.length / 3; v += step) {
    const metres = view.metresAt(inWorld(toWorld, mesh.before, v));
    if (metres !== null && metres > 0) least = Math.min(least, metres);
  }
  return least === Infinity ? null : least;
}
