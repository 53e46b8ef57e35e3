/**
 * What a tree is like: the debug view of the flat arrays that rays walk through.
 *
 * @example
 * treeStats(mesh.bounds, mesh.links).items; // triangles
 */
export interface TreeStats {
  nodes: number;
  leaves: number;
  items: number;
  /** Nodes from the root down to the deepest leaf, and to a leaf on average. */
  depth: number;
  meanDepth: number;
  /** Items in a leaf. */
  mostItems: number;
  meanItems: number;
  /**
   * Boxes and items that a ray through the root's box is expected to meet, a box counting as much as an item. Source:
   * MacDonald & Booth, "Heuristics for ray tracing using space subdivision", 1990.
   */
  cost: number;
}

/** @param bounds 6 floats a node. @param links two a node, see `bvh-build.ts` */
export function treeStats(bounds: ArrayLike<number>, links: ArrayLike<number>): TreeStats {
  const nodes = links.length / 2;
  const stats = { nodes, leaves: 0, items: 0, depth: 0, meanDepth: 0, mostItems: 0, meanItems: 0, cost: 0 };
  if (nodes === 0) return stats;
  const root = area(bounds, 0);
  const open: [node: number, depth: number][] = [[0, 1]];
  let depths = 0;
  for (let at = open.pop(); at; at = open.pop()) {
    const [node, depth] = at;
    const share = root > 0 ? area(bounds, node) / root : 1;
    const count = links[node * 2 + 1];
    if (count > 0) {
      stats.leaves += 1;
      stats.items += count;
      stats.mostItems = Math.max(stats.mostItems, count);
      stats.depth = Math.max(stats.depth, depth);
      depths += depth;
      stats.cost += share * count;
    } else {
      stats.cost += share * 2;
      open.push([node + 1, depth + 1], [links[node * 2], depth + 1]);
    }
  }
  return { ...stats, meanDepth: depths / stats.leaves, meanItems: stats.items / stats.leaves };
}

function area(bounds: ArrayLike<number>, node: number): number {
  const o = node * 6;
  const [x, y, z] = [0, 1, 2].map((a) => Math.max(0, bounds[o + 3 + a] - bounds[o + a]));
  return 2 * (x * y + y * z + z * x);
}
