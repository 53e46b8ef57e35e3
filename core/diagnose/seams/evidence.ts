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
  const step = Math.max(1, Math.ceil((2 * gaps.gaps.length) / MOST_LINES));
  const [open, closed, pixels]: [number[], number[], number[]] = [[], [], []];
  const add = (to: number[], k: number, v: number, w: number) => {
    const { uvs } = shapes[k].mesh;
    if (uvs) to.push(...[uvs[2 * v], uvs[2 * v + 1], uvs[2 * w], uvs[2 * w + 1]].map((value) => +value.toFixed(5)));
  };
  const isOpen = ({ pixels }: Gap) => Math.max(...pixels) >= seen;
  gaps.gaps.forEach((gap, i) => {
    const isWide = isOpen(gap) && open.length < 4 * MOST_LINES;
    if (!isWide && i % step) return;
    const [a, b] = gap.shapes;
    const [p, q, r, s] = gap.vertices;
    add(isWide ? open : closed, a, p, q);
    add(isWide ? open : closed, b, r, s);
    const [x0, y0, x1, y1] = gap.line ?? [0, 0, 0, 0];
    while (pixels.length < open.length / 2) pixels.push(Math.round((x0 + x1) / 2), Math.round((y0 + y1) / 2));
  });
  const own = [...new Set(gaps.gaps.flatMap((gap) => gap.shapes))];
  const wires: number[] = [];
  for (const k of own) {
    const { borders } = seamEdges(shapes[k].mesh);
    for (let i = 0; i < borders.length; i += 2 * step) add(wires, k, borders[i], borders[i + 1]);
  }
  return [
    {
      kind: 'lines',
      title: 'Borders of UV islands',
      x: { label: 'U' },
      y: { label: 'V' },
      groups: [
        { label: 'closed', tone: 'plain', lines: [...closed, ...wires] },
        { label: 'open by half a pixel of the largest sheet', tone: 'bad', lines: open, pixels },
      ],
    },
  ];
}
