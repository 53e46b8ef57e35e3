/** Where seams stand open: on the texture, and as a list of the widest gaps. */
import type { Evidence } from '../../contracts/finding.ts';
import type { Gap } from '../../seams/gaps.ts';
import { seamEdges } from '../../seams/seam-edges.ts';
import type { SeamCase } from './case.ts';

const ROWS = 12;
/** Lines that a drawing has at most: a fine mesh shows its islands by every so-many-th edge as well. */
const MOST_LINES = 6000;

/** The widest gaps, one a seam edge, with the UVs of both sides. */
export function widest({ gaps, shapes, input }: SeamCase): Evidence {
  const rows = apart([...gaps.gaps].sort((a, b) => Math.max(...b.pixels) - Math.max(...a.pixels)));
  const nameOf = (k: number) => {
    const id = input.shapes.find(({ object }) => object === shapes[k].object)?.id ?? '';
    return input.state.document.objects[id]?.name || id;
  };
  const uvs = (k: number, v: number) => {
    const set = shapes[k].mesh.uvs;
    return set ? `${set[2 * v].toFixed(3)}, ${set[2 * v + 1].toFixed(3)}` : null;
  };
  return {
    kind: 'table',
    title: 'Widest gaps',
    columns: ['object', 'mm', 'pixels', 'at pixel', 'UV here', 'UV there'],
    rows: rows.map(({ shapes: [a, b], vertices, ends, pixels, line }) => [
      a === b ? nameOf(a) : `${nameOf(a)}, ${nameOf(b)}`,
      +(1000 * Math.max(...ends)).toPrecision(3),
      +Math.max(...pixels).toFixed(2),
      line ? `${Math.round((line[0] + line[2]) / 2)}, ${Math.round((line[1] + line[3]) / 2)}` : null,
      uvs(a, vertices[0]),
      uvs(b, vertices[2]),
    ]),
  };
}

/** Pixels between two gaps that are told by themselves: edges beside the widest one are nearly as wide. */
const APART = 8;

function apart(gaps: Gap[]): Gap[] {
  const told: Gap[] = [];
  const middle = ({ line }: Gap) => (line ? [(line[0] + line[2]) / 2, (line[1] + line[3]) / 2] : [Infinity, Infinity]);
  for (const gap of gaps) {
    if (told.length === ROWS || !gap.line || Math.max(...gap.ends) === 0) continue;
    const [x, y] = middle(gap);
    if (told.every((other) => Math.hypot(middle(other)[0] - x, middle(other)[1] - y) >= APART)) told.push(gap);
  }
  return told;
}

/** Borders of islands in UV space, those that stand open apart from those that do not. */
export function linesOnTexture({ gaps, shapes, seen }: SeamCase): Evidence[] {
  if (!shapes.some(({ mesh }) => mesh.uvs)) return [];
  const own = [...new Set(gaps.gaps.flatMap((gap) => gap.shapes))].map((k) => shapes[k].mesh);
  const borders = own.map((mesh) => [mesh, seamEdges(mesh)] as const);
  const count = borders.reduce((sum, [, edges]) => sum + edges.seams.length / 2 + edges.borders.length / 2, 0);
  const step = Math.max(1, Math.ceil(count / MOST_LINES));
  const [open, all, pixels]: [number[], number[], number[]] = [[], [], []];
  const add = (to: number[], uvs: Float32Array | null, v: number, w: number) => {
    if (uvs) to.push(...[uvs[2 * v], uvs[2 * v + 1], uvs[2 * w], uvs[2 * w + 1]].map((value) => +value.toFixed(5)));
  };
  for (const [{ uvs }, edges] of borders) {
    for (let i = 0; i < edges.seams.length; i += 2 * step) add(all, uvs, edges.seams[i], edges.seams[i + 1]);
    for (let i = 0; i < edges.borders.length; i += 2 * step) add(all, uvs, edges.borders[i], edges.borders[i + 1]);
  }
  for (const { shapes: [a, b], vertices: [p, q, r, s], pixels: wide, line } of gaps.gaps) {
    if (Math.max(...wide) < seen || open.length >= 4 * MOST_LINES) continue;
    add(open, shapes[a].mesh.uvs, p, q);
    add(open, shapes[b].mesh.uvs, r, s);
    const [x0, y0, x1, y1] = line ?? [0, 0, 0, 0];
    while (pixels.length < open.length / 2) pixels.push(Math.round((x0 + x1) / 2), Math.round((y0 + y1) / 2));
  } // prettier-ignore
  return [
    {
      kind: 'lines',
      title: 'Borders of UV islands',
      x: { label: 'U' },
      y: { label: 'V' },
      groups: [
        { label: 'borders', tone: 'plain', lines: all },
        { label: 'open by half a pixel of the largest sheet', tone: 'bad', lines: open, pixels },
      ],
    },
  ];
}
