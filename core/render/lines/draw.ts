/**
 * Ink lines of a region: the share of each pixel that they cover.
 *
 * @example
 * const ink = drawLines(scene, settingsOf(sheet), { x: 0, y: 0, width: 32, height: 32 });
 */
import type { Region } from '../../data/picture.ts';
import type { CompiledScene, RenderSettings } from '../scene/scene.ts';
import { FINE, findEdges, type Edges } from './edges.ts';
import { CORNER_REACH, pastCorners } from './past-corners.ts';

/**
 * What a pixel gets depends on the scene, the lines' settings and where it stands alone, not on the region it is drawn with.
 * @param region pixels of the full frame
 * @returns 0–1 a pixel, row by row
 */
export function drawLines(scene: CompiledScene, settings: RenderSettings, region: Region): Float32Array {
  const { lines } = settings;
  const beyond = Math.ceil(lines.width / 2) + 1 + (lines.overshoot > 0 ? Math.ceil(lines.overshoot) + CORNER_REACH : 0);
  const edges = findEdges(scene, settings, lines, {
    x: region.x - beyond,
    y: region.y - beyond,
    width: region.width + 2 * beyond,
    height: region.height + 2 * beyond,
  });
  const sheet = new InkedSheet(edges.columns, edges.rows, (lines.width / 2) * FINE);
  drawEdges(sheet, edges);
  if (lines.overshoot > 0) {
    const ends = pastCorners(edges, lines.overshoot);
    for (let k = 0; k < ends.length; k += 4) sheet.stroke(ends[k], ends[k + 1], ends[k + 2], ends[k + 3]);
  }
  const share = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++)
    for (let x = 0; x < region.width; x++) share[y * region.width + x] = sheet.share(x + beyond, y + beyond);
  return share;
}

function drawEdges(sheet: InkedSheet, { columns, rows, across, down }: Edges): void {
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const at = j * columns + i;
      if (across[at] >= 0) sheet.dot(i + across[at], j);
      if (down[at] >= 0) sheet.dot(i, j + down[at]);
    }
}

/** Subpixels that a round nib has been over; their centres are whole numbers. */
class InkedSheet {
  private readonly inked: Uint8Array;

  constructor(
    private readonly columns: number,
    private readonly rows: number,
    private readonly radius: number,
  ) {
    this.inked = new Uint8Array(columns * rows);
  }

  dot(x: number, y: number): void {
    this.stroke(x, y, x, y);
  }

  /** From one point straight to another. */
  stroke(x0: number, y0: number, x1: number, y1: number): void {
    const { columns, rows, radius, inked } = this;
    const left = Math.max(0, Math.ceil(Math.min(x0, x1) - radius));
    const right = Math.min(columns - 1, Math.floor(Math.max(x0, x1) + radius));
    const top = Math.max(0, Math.ceil(Math.min(y0, y1) - radius));
    const bottom = Math.min(rows - 1, Math.floor(Math.max(y0, y1) + radius));
    const [dx, dy] = [x1 - x0, y1 - y0];
    const l2 = dx * dx + dy * dy;
    for (let y = top; y <= bottom; y++)
      for (let x = left; x <= right; x++) {
        const t = l2 === 0 ? 0 : Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / l2));
        const [ox, oy] = [x - x0 - t * dx, y - y0 - t * dy];
        if (ox * ox + oy * oy <= radius * radius) inked[y * columns + x] = 1;
      }
  }

  /** Of pixel (x, y) of the sheet. */
  share(x: number, y: number): number {
    let sum = 0;
    for (let j = 0; j < FINE; j++)
      for (let i = 0; i < FINE; i++) sum += this.inked[(y * FINE + j) * this.columns + x * FINE + i];
    return sum / (FINE * FINE);
  }
}
