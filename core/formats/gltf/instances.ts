/**
 * Nodes that files give several parents, which glTF 2.0 forbids (section 3.5.2) and exporters of instanced sets write: each
 * further parent gets a copy of what is below it, as it was meant.
 */
import type { GltfJson } from './check.ts';

/** Nodes that a file may have with its copies. */
const MOST_NODES = 1e6;

/**
 * Gives every node one parent, in place. A circle is left for the check that names it.
 * @returns names of the nodes that were copied
 * @throws RangeError when the copies would be too many
 */
export function splitShared(json: GltfJson, file: string): string[] {
  const nodes = json.nodes;
  if (!Array.isArray(nodes) || hasCircle(nodes)) return [];
  const parents = new Int32Array(nodes.length).fill(-1);
  const shared: string[] = [];
  const count = nodes.length;
  const copy = (at: number): number => {
    if (nodes.length >= MOST_NODES) throw new RangeError(`${file} nodes: with instances there are more than ${MOST_NODES}`);
    const own = nodes.push({ ...nodes[at] }) - 1;
    const { children } = nodes[own];
    if (children) nodes[own].children = children.map(copy);
    return own;
  }; // prettier-ignore
  for (let parent = 0; parent < count; parent++) {
    const { children } = nodes[parent] ?? {};
    if (!Array.isArray(children)) continue;
    nodes[parent].children = children.map((child) => {
      if (!nodes[child] || parents[child] < 0 || parents[child] === parent) {
        if (nodes[child]) parents[child] = parent;
        return child;
      }
      shared.push(nodes[child].name ?? `node ${child}`);
      return copy(child);
    });
  }
  return [...new Set(shared)];
}

function hasCircle(nodes: NonNullable<GltfJson['nodes']>): boolean {
  const state = new Uint8Array(nodes.length);
  for (let start = 0; start < nodes.length; start++) {
    // Depth first with a stack of its own: files nest deeper than calls may.
    const stack: [number, number][] = [[start, 0]];
    if (state[start] === 2) continue;
    state[start] = 1;
    while (stack.length) {
      const top = stack[stack.length - 1];
      const children = nodes[top[0]]?.children;
      const child = Array.isArray(children) ? children[top[1]++] : undefined;
      if (child === undefined) {
        state[top[0]] = 2;
        stack.pop();
      } else if (nodes[child] && state[child] === 1) return true;
      else if (nodes[child] && state[child] === 0) {
        state[child] = 1;
        stack.push([child, 0]);
      }
    }
  }
  return false;
}
