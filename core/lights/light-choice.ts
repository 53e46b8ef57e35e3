/**
 * Chooses one light of many for a place, with a chance that grows with what it may bring there, and tells the chance with
 * which it would have chosen any other: see `light-tree.ts`.
 *
 * @example
 * const light = choice.pick(u, x, y, z, object);
 * if (light >= 0) weight /= choice.chance;
 */
import { toInt, type f64, type i32 } from '../data/numbers.ts';
import type { LightTables } from './light-sampler.ts';
import { TREE_POWER, TREE_RADIUS2, TREE_STRIDE, type LightTree } from './light-tree.ts';
import { QUAD_NORMAL, QUAD_PLACE } from './quad.ts';
import { LIGHT_DISC, LIGHT_FLAGS, LIGHT_KIND, LIGHT_RECTANGLE, LIGHT_STRIDE, LINKED } from './table.ts';

export class LightChoice {
  /** Of the light that was picked last. */
  chance: f64 = 0;
  private readonly tree: LightTree;

  /** @param links a byte for each light and object, whether it is lit; null where all is lit by all */
  constructor(
    private readonly tables: LightTables,
    private readonly links: Uint8Array | null,
    private readonly objects: i32,
  ) {
    this.tree = tables.lightTree;
  }

  /**
   * @param u uniform in [0, 1)
   * @param object that is lit, −1 for none
   * @returns its row, or −1 when none can light the place
   */
  pick(u: number, x: number, y: number, z: number, object: i32): i32 {
    const { far, links } = this.tree;
    this.chance = 0;
    const near = links.length > 0 ? this.brings(0, x, y, z, object) : 0;
    let all = near;
    for (let k = 0; k < far.length; k++) all += this.farBrings(k, object);
    if (!(all > 0)) return -1;
    let left = u * all;
    for (let k = 0; k < far.length; k++) {
      const brought = this.farBrings(k, object);
      if (left < brought) {
        this.chance = brought / all;
        return far[k];
      }
      left -= brought;
    }
    if (!(near > 0)) return -1;
    return this.descend(left / near, near / all, x, y, z, object);
  }

  private descend(u: number, chance: number, x: number, y: number, z: number, object: i32): i32 {
    const { links } = this.tree;
    let node = 0;
    while (links[node * 2] >= 0) {
      const a = this.brings(links[node * 2], x, y, z, object);
      const b = this.brings(links[node * 2 + 1], x, y, z, object);
      if (!(a + b > 0)) return -1;
      const share = a / (a + b);
      if (u < share) {
        node = links[node * 2];
        u /= share;
        chance *= share;
      } else {
        node = links[node * 2 + 1];
        u = Math.min((u - share) / (1 - share), LARGEST);
        chance *= 1 - share;
      }
    }
    this.chance = chance;
    return -1 - links[node * 2];
  }

  /** Chance with which `pick` chooses a light for a place. */
  chanceOf(light: i32, x: number, y: number, z: number, object: i32): number {
    const { far, leaves, links, parents } = this.tree;
    const near = links.length > 0 ? this.brings(0, x, y, z, object) : 0;
    let all = near;
    let own: f64 = 0;
    for (let k = 0; k < far.length; k++) {
      const brought = this.farBrings(k, object);
      all += brought;
      if (far[k] === light) own = brought;
    }
    if (!(all > 0)) return 0;
    let node = leaves[light];
    if (node < 0) return own / all;
    let chance = near / all;
    while (parents[node] >= 0) {
      const parent = parents[node];
      const a = this.brings(links[parent * 2], x, y, z, object);
      const b = this.brings(links[parent * 2 + 1], x, y, z, object);
      if (!(a + b > 0)) return 0;
      const share = a / (a + b);
      chance *= node === links[parent * 2] ? share : 1 - share;
      node = parent;
    }
    return chance;
  }

  private farBrings(k: i32, object: i32): number {
    const { far, farPower } = this.tree;
    return this.lights(far[k], object) ? farPower[k] : 0;
  }

  /** What a node may bring to a place; exactly nothing from a light that does not reach it. */
  private brings(node: i32, x: number, y: number, z: number, object: i32): number {
    const { nodes, links } = this.tree;
    const n = node * TREE_STRIDE;
    if (links[node * 2] < 0) {
      const light = -1 - links[node * 2];
      if (!this.lights(light, object) || this.isBehind(light, x, y, z)) return 0;
    }
    const dx = nodes[n] - x;
    const dy = nodes[n + 1] - y;
    const dz = nodes[n + 2] - z;
    const d2 = Math.max(dx * dx + dy * dy + dz * dz, nodes[n + TREE_RADIUS2]);
    return d2 > 0 ? nodes[n + TREE_POWER] / d2 : nodes[n + TREE_POWER];
  }

  private lights(light: i32, object: i32): boolean {
    if (this.links === null || object < 0) return true;
    const isLinked = (toInt(this.tables.lights[light * LIGHT_STRIDE + LIGHT_FLAGS]) & LINKED) !== 0;
    return !isLinked || this.links[light * this.objects + object] !== 0;
  }

  /** A rectangle or disc shines to one side. */
  private isBehind(light: i32, x: number, y: number, z: number): boolean {
    const { lights } = this.tables;
    const o = light * LIGHT_STRIDE;
    const kind = toInt(lights[o + LIGHT_KIND]);
    if (kind !== LIGHT_RECTANGLE && kind !== LIGHT_DISC) return false;
    const p = o + QUAD_PLACE;
    const n = o + QUAD_NORMAL;
    return (x - lights[p]) * lights[n] + (y - lights[p + 1]) * lights[n + 1] + (z - lights[p + 2]) * lights[n + 2] <= 0;
  }
}

/** Largest double below 1. */
const LARGEST = 1 - 2 ** -53;
