/** Which texels of a texture lie on the islands of what wears it, and where the islands' borders meet across seams. */
import type { Texture } from '../data/texture.ts';
import { seamEdges } from './seam-edges.ts';
import type { WornShape } from './worn-shapes.ts';

type Size = Pick<Texture, 'width' | 'height'>;

/** @returns a byte a texel: 1 where its middle is on an island. Islands outside the image are brought in as it repeats */
export function coverage(shapes: WornShape[], { width, height }: Size): Uint8Array {
  const covered = new Uint8Array(width * height);
  for (const { mesh, texels } of shapes) {
    if (!texels) continue;
    const { indices } = mesh;
    for (let t = 0; t < indices.length; t += 3) {
      const [a, b, c] = [2 * indices[t], 2 * indices[t + 1], 2 * indices[t + 2]];
      fill(covered, width, height, texels[a], texels[a + 1], texels[b], texels[b + 1], texels[c], texels[c + 1]);
    }
  }
  return covered;
}

/** Middles of texels inside a triangle, or on its edge. */
function fill(covered: Uint8Array, width: number, height: number, ax: number, ay: number, bx: number, by: number, cx: number, cy: number) {
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  if (area === 0) return;
  const sign = Math.sign(area);
  const slack = 1e-9 * Math.abs(area);
  const inside = (px: number, py: number, qx: number, qy: number, x: number, y: number) => sign * ((qx - px) * (y - py) - (x - px) * (qy - py)) >= -slack;
  const [x0, x1] = [Math.ceil(Math.min(ax, bx, cx) - 0.5), Math.floor(Math.max(ax, bx, cx) - 0.5)];
  const [y0, y1] = [Math.ceil(Math.min(ay, by, cy) - 0.5), Math.floor(Math.max(ay, by, cy) - 0.5)];
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const [px, py] = [x + 0.5, y + 0.5];
      if (!inside(ax, ay, bx, by, px, py) || !inside(bx, by, cx, cy, px, py) || !inside(cx, cy, ax, ay, px, py)) continue;
      covered[wrapped(y, height) * width + wrapped(x, width)] = 1;
    }
} // prettier-ignore

export const wrapped = (i: number, n: number): number => ((i % n) + n) % n;

/** The two sides of an edge of a seam on the texture: from and to, x and y in texels. */
export interface SeamOnTexture {
  here: [number, number, number, number];
  there: [number, number, number, number];
  /** The two lie the same way round on the texture; otherwise one of them is mirrored. */
  isAlike: boolean;
}

/** Every edge of every seam, seen from both of its sides. */
export function seamsOnTexture(shapes: WornShape[]): SeamOnTexture[] {
  return shapes.flatMap(({ mesh, texels }) => {
    if (!texels) return [];
    const { seams, inside } = seamEdges(mesh);
    const out: SeamOnTexture[] = [];
    const leftOf = ([x0, y0, x1, y1]: SeamOnTexture['here'], v: number) => (x1 - x0) * (texels[2 * v + 1] - y0) - (y1 - y0) * (texels[2 * v] - x0) > 0; // prettier-ignore
    for (let i = 0; i < seams.length; i += 4) {
      const side = (k: number) => [texels[2 * seams[i + k]], texels[2 * seams[i + k] + 1], texels[2 * seams[i + k + 1]], texels[2 * seams[i + k + 1] + 1]] as SeamOnTexture['here']; // prettier-ignore
      const [here, there] = [side(0), side(2)];
      if (here.every((value, a) => Math.abs(value - there[a]) < 1e-6)) continue;
      const isAlike = leftOf(here, inside[i / 2]) !== leftOf(there, inside[i / 2 + 1]);
      out.push({ here, there, isAlike }, { here: there, there: here, isAlike });
    }
    return out;
  });
}
