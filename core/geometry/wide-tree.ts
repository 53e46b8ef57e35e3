/**
 * Trees eight children wide for the WebAssembly kernel, made from binary ones (see `bvh-build.ts`).
 *
 * A node is 224 bytes: for each of minimum x, y, z and maximum x, y, z eight 32-bit planes, then eight references. n > 0
 * is the node n × 32 bytes from the start, n < 0 a leaf of (−n & 7) items: at the top those from (−n >> 3) on; in a mesh
 * those of the packet (−n >> 3) × 32 bytes from the start. A packet is 160 bytes: for each of x, y, z of the first, second
 * and third corner four floats, one a triangle, then the number of the first triangle. The packets of a node follow it,
 * so that what is read together stands on one page.
 *
 * Source: Wald, Benthin & Boulos, "Getting Rid of Packets", 2008 (wide trees made by opening the largest boxes).
 */
import { MESH_LEAF, type CompiledMesh, type SceneGeometry } from './scene-geometry.ts';

const WIDTH = 8;
const UNIT_WORDS = 8;
const NODE_WORDS = 56;
const REFERENCES = 48;
const PACKET_WORDS = 40;
const PACKET_FIRST = 36;

/** The tree of a mesh with its triangles. */
export function packMesh(mesh: CompiledMesh): Uint8Array {
  const tree = new WideTree(mesh.bounds, mesh.links, mesh);
  return tree.bytes();
}

/** The tree over the instances of a scene. */
export function packTop({ topBounds, topLinks }: SceneGeometry): Uint8Array {
  return new WideTree(topBounds, topLinks, null).bytes();
}

class WideTree {
  private readonly floats: Float32Array;
  private readonly words: Int32Array;
  /** Words in use. */
  private end = 0;
  /** Children of the nodes being made, eight a level. */
  private readonly children: number[] = [];

  constructor(
    private readonly bounds: Float32Array,
    private readonly links: Int32Array,
    private readonly mesh: CompiledMesh | null,
  ) {
    // As many wide nodes as binary ones with children is the most there can be; pages not written take no memory.
    const leaves = (links.length / 2 + 1) / 2;
    this.floats = new Float32Array(Math.max(1, leaves - 1) * NODE_WORDS + (mesh ? leaves * PACKET_WORDS : 0));
    this.words = new Int32Array(this.floats.buffer);
    this.node(0, 0);
  }

  bytes(): Uint8Array {
    return new Uint8Array(this.floats.buffer, 0, this.end * 4);
  }

  private isLeaf(n: number): boolean {
    return this.links[n * 2 + 1] > 0;
  }

  /** Half the surface of a node's box. */
  private area(n: number): number {
    const { bounds } = this;
    const x = bounds[n * 6 + 3] - bounds[n * 6];
    const y = bounds[n * 6 + 4] - bounds[n * 6 + 1];
    const z = bounds[n * 6 + 5] - bounds[n * 6 + 2];
    return x * y + y * z + z * x;
  }

  /** Writes the wide node of a binary one and all below it; returns its reference. */
  private node(root: number, depth: number): number {
    const { bounds, links, floats, words, children } = this;
    const at = this.end;
    this.end += NODE_WORDS;
    const first = depth * WIDTH;
    const count = this.open(root, first);
    for (let k = 0; k < WIDTH; k++) {
      const b = children[first + k] * 6;
      // Nothing touches the box of a lane without a child.
      for (let a = 0; a < 3; a++) {
        floats[at + a * WIDTH + k] = k < count ? bounds[b + a] : Infinity;
        floats[at + 24 + a * WIDTH + k] = k < count ? bounds[b + 3 + a] : -Infinity;
      }
    }
    for (let k = 0; k < count; k++) {
      const c = children[first + k];
      if (this.isLeaf(c)) words[at + REFERENCES + k] = -(this.leaf(c) * 8 + links[c * 2 + 1]);
    }
    for (let k = 0; k < count; k++) {
      const c = children[first + k];
      if (!this.isLeaf(c)) words[at + REFERENCES + k] = this.node(c, depth + 1);
    }
    return at / UNIT_WORDS;
  }

  /** Gathers up to eight nodes that together make up a node, the largest opened first; returns how many. */
  private open(root: number, first: number): number {
    const { links, children } = this;
    if (links.length === 0) return 0;
    children[first] = root;
    let count = 1;
    while (count < WIDTH) {
      let widest = -1;
      let widestArea = -1;
      for (let k = first; k < first + count; k++) {
        if (this.isLeaf(children[k])) continue;
        const area = this.area(children[k]);
        if (area > widestArea) {
          widest = k;
          widestArea = area;
        }
      }
      if (widest < 0) break;
      const opened = children[widest];
      children[widest] = opened + 1;
      children[first + count++] = links[opened * 2];
    }
    return count;
  }

  /** What a leaf's reference says: its first item, or where its packet is. */
  private leaf(n: number): number {
    const { links, mesh, floats } = this;
    const first = links[n * 2];
    if (!mesh) return first;
    const { indices, positions } = mesh;
    const at = this.end;
    this.end += PACKET_WORDS;
    for (let lane = 0; lane < MESH_LEAF; lane++) {
      // Lanes beyond the leaf's triangles repeat the first.
      const triangle = lane < links[n * 2 + 1] ? first + lane : first;
      for (let corner = 0; corner < 3; corner++) {
        const p = indices[triangle * 3 + corner] * 3;
        const to = at + corner * 12 + lane;
        floats[to] = positions[p];
        floats[to + 4] = positions[p + 1];
        floats[to + 8] = positions[p + 2];
      }
    }
    this.words[at + PACKET_FIRST] = first;
    return at / UNIT_WORDS;
  }
}
