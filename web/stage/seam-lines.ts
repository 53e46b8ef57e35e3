/** Seams of a mesh as lines: those that are closed, and those whose sides have moved apart, with rungs across the gap. */
import type { Mesh } from '../../core/data/mesh.ts';
import { seamEdges } from '../../core/seams/seam-edges.ts';

/** Ends of segments, 3 numbers each, in the space of the mesh. */
export interface SeamLines {
  closed: Float32Array;
  open: Float32Array;
}

export function seamLines({ positions, before, indices, uvs }: Mesh): SeamLines {
  const { seams } = seamEdges({ positions, before: before ?? positions, indices, uvs });
  const [closed, open]: number[][] = [[], []];
  const put = (to: number[], v: number, w: number) => to.push(...positions.subarray(3 * v, 3 * v + 3), ...positions.subarray(3 * w, 3 * w + 3)); // prettier-ignore
  const isOne = (v: number, w: number) => [0, 1, 2].every((a) => positions[3 * v + a] === positions[3 * w + a]);
  for (let i = 0; i < seams.length; i += 4) {
    const [from, to, otherFrom, otherTo] = seams.subarray(i, i + 4);
    if (isOne(from, otherFrom) && isOne(to, otherTo)) {
      put(closed, from, to);
      continue;
    }
    put(open, from, to);
    put(open, otherFrom, otherTo);
    put(open, from, otherFrom);
    put(open, to, otherTo);
  }
  return { closed: Float32Array.from(closed), open: Float32Array.from(open) };
}
