/** A scene under examination, with what several checks ask of it, worked out once. */
import type { Transform } from '../../data/transform.ts';
import type { PolyMesh } from '../../data/poly-mesh.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { readImageHeader, type ImageHeader } from '../../formats/image-header.ts';
import type { SourceNode, SourceScene, SourceTexture } from '../../formats/source-scene.ts';
import { topologyOf, type Topology } from '../../geometry/topology.ts';
import { isDark, isUnlit } from '../../lights/is-dark.ts';
import type { Profile } from './profile.ts';

export interface Bounds {
  min: number[];
  max: number[];
}

/** An object: a node with a mesh. */
export interface Placed {
  node: SourceNode;
  poly: PolyMesh;
  mesh: number;
}

/** A texture on a material, and who wears it. */
export interface Worn {
  texture: SourceTexture;
  material: string;
  where: string;
  objects: Placed[];
}

/** Things in it that make a closed body a room. */
const FURNISHED = 2;

const isInside = ({ min, max }: Bounds, place: readonly number[]): boolean =>
  place.every((v, a) => v > min[a] && v < max[a]);

export class Scene {
  private readonly topologies = new Map<number, Topology>();
  private readonly headers = new Map<number, ImageHeader | null>();
  private readonly meshBounds = new Map<number, Bounds>();
  private placed: Placed[] | null = null;
  private byMesh: Map<number, Placed[]> | null = null;
  private wornTextures: Worn[] | null = null;

  /** @param document where the scene is a shot of ours */
  constructor(
    readonly source: SourceScene,
    readonly profile: Profile,
    readonly document: ShotDocument | null,
  ) {}

  get objects(): Placed[] {
    this.placed ??= this.source.nodes
      .filter(({ mesh }) => mesh >= 0)
      .map((node) => ({ node, mesh: node.mesh, poly: this.source.meshes[node.mesh].poly }));
    return this.placed;
  }

  /** Objects of each mesh that any wears. */
  get objectsByMesh(): Map<number, Placed[]> {
    if (!this.byMesh) {
      this.byMesh = new Map();
      for (const object of this.objects) {
        const own = this.byMesh.get(object.mesh);
        if (own) own.push(object);
        else this.byMesh.set(object.mesh, [object]);
      }
    }
    return this.byMesh;
  }

  topology(mesh: number): Topology {
    let topology = this.topologies.get(mesh);
    if (!topology) this.topologies.set(mesh, (topology = topologyOf(this.source.meshes[mesh].poly)));
    return topology;
  }

  /** Null when the image is not there or begins as none that is known. */
  header(image: number): ImageHeader | null {
    let header = this.headers.get(image);
    if (header === undefined) {
      const { bytes } = this.source.images[image];
      this.headers.set(image, (header = bytes && readImageHeader(bytes)));
    }
    return header;
  }

  /** Bounds of finite points, in the mesh's own space. */
  boundsOf(mesh: number): Bounds {
    let bounds = this.meshBounds.get(mesh);
    if (!bounds) this.meshBounds.set(mesh, (bounds = boundsOfPoints(this.source.meshes[mesh].poly.points)));
    return bounds;
  }

  /** World bounds of an object, metres; empty (min above max) where it has no finite place. */
  worldBounds({ node, mesh }: Placed): Bounds {
    const { min, max } = this.boundsOf(mesh);
    const corners = Array.from({ length: 8 }, (_, i) => [0, 1, 2].map((a) => ((i >> a) & 1 ? max[a] : min[a])));
    return boundsOfPoints(Float64Array.from(corners.flatMap((p) => applied(node.world, p))));
  }

  get shiningLights() {
    return this.source.lights.filter(({ spec }) => !spec.hidden && !isDark(spec));
  }

  get glowingMaterials() {
    return this.source.materials.filter(({ spec }) => !isUnlit(spec));
  }

  /** Whether anything in it shines, the environment left aside. */
  get shines(): boolean {
    return this.shiningLights.length + this.glowingMaterials.length > 0;
  }

  /** Places of the cameras in the world. */
  get cameras(): number[][] {
    return this.source.cameras.flatMap(({ node }) => (node < 0 ? [] : [this.source.nodes[node].world.slice(12, 15)]));
  }

  /** Whether an object is closed and a camera, or most of what there is, stands inside. */
  isRoom(object: Placed): boolean {
    if (!this.isClosed(object.mesh)) return false;
    const bounds = this.worldBounds(object);
    if (this.cameras.some((place) => isInside(bounds, place))) return true;
    const others = this.objects.filter((other) => other !== object).map((other) => this.worldBounds(other));
    const within = others.filter(({ min, max }) => isInside(bounds, min) && isInside(bounds, max)).length;
    return within >= FURNISHED && within > others.length / 2;
  }

  /** Whether a place is inside some closed object. */
  isInRoom = (place: number[]): boolean =>
    this.objects.some((object) => this.isClosed(object.mesh) && isInside(this.worldBounds(object), place));

  private isClosed(mesh: number): boolean {
    const { openEdges, nonManifoldEdges } = this.topology(mesh);
    return openEdges.length + nonManifoldEdges.length === 0;
  }

  /** World bounds of all objects. */
  get bounds(): Bounds {
    const all: Bounds = emptyBounds();
    for (const object of this.objects) {
      const { min, max } = this.worldBounds(object);
      for (let a = 0; a < 3; a++) {
        all.min[a] = Math.min(all.min[a], min[a]);
        all.max[a] = Math.max(all.max[a], max[a]);
      }
    }
    return all;
  }

  get worn(): Worn[] {
    if (!this.wornTextures) {
      const wearers = this.source.materials.map((): Placed[] => []);
      for (const object of this.objects)
        for (const m of new Set(object.node.parts.map(({ material }) => material))) wearers[m]?.push(object);
      this.wornTextures = this.source.materials.flatMap(({ name, where, textures }, m) =>
        textures.map((texture) => ({ texture, material: name || 'unnamed material', where, objects: wearers[m] })),
      );
    }
    return this.wornTextures;
  }

  /** Id of the document's texture of an image, where the scene is a shot of ours. */
  documentTextureOf(image: number, colourSpace: string): string | null {
    const { resolved } = this.source.images[image];
    const found = Object.entries(this.document?.textures ?? {}).find(
      ([, texture]) => texture.file === resolved && texture.colourSpace === colourSpace,
    );
    return found?.[0] ?? null;
  }

  /** Ids of the document's own maps that a texture comes by, where the scene is a shot of ours. */
  documentMapsOf({ where, texture }: Worn): string[] {
    const { document } = this;
    const material = document?.materials[where.replace('/materials/', '')];
    if (!document || !material) return [];
    const slots = MAP_SLOTS.filter((slot) => slot === `${texture.slot}Map`).map((slot) => material[slot]);
    return slots.filter((id): id is string => id !== null && document.maps[id].kind !== 'shared');
  }

  imageName(image: number): string {
    const { path, where } = this.source.images[image];
    return path || `image inside ${where}`;
  }
}

export const emptyBounds = (): Bounds => ({
  min: [Infinity, Infinity, Infinity],
  max: [-Infinity, -Infinity, -Infinity],
});

export function boundsOfPoints(points: ArrayLike<number>): Bounds {
  const { min, max } = emptyBounds();
  for (let i = 0; i + 2 < points.length; i += 3) {
    if (!Number.isFinite(points[i] + points[i + 1] + points[i + 2])) continue;
    for (let a = 0; a < 3; a++) {
      if (points[i + a] < min[a]) min[a] = points[i + a];
      if (points[i + a] > max[a]) max[a] = points[i + a];
    }
  }
  return { min, max };
}

export const applied = (m: Transform, p: ArrayLike<number>): number[] =>
  [0, 1, 2].map((a) => m[a] * p[0] + m[4 + a] * p[1] + m[8 + a] * p[2] + m[12 + a]);

/** Lengths of the three axes after a transform. */
export const axisLengths = (m: Transform): number[] => [0, 4, 8].map((c) => Math.hypot(m[c], m[c + 1], m[c + 2]));
