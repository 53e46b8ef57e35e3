/**
 * How far objects move across the picture: some of their vertices are followed along the object's keys, at several times of a
 * span, and projected by the camera.
 *
 * @example
 * const paths = new Paths(input);
 * paths.length('fan', 1001, 0.5); // pixels that the fastest vertex travels from frame 1001 to 1001.5
 */
import type { Triple } from '../../data/placement.ts';
import { invert, type Transform } from '../../data/transform.ts';
import type { ObjectSpec } from '../../document/schema.ts';
import { applied } from '../../intake/preflight/scene.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { poseAt, posesInShutter } from '../../render/compile/motion.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { RenderInput } from '../family.ts';

/** Vertices of an object that are followed, and times of a span that are looked at. */
const VERTICES = 64;
const TIMES = 24;

export class Paths {
  private readonly walk: LightWalk;
  private readonly kept = new Map<string, Triple[]>();

  constructor(private readonly input: RenderInput) {
    this.walk = new LightWalk(input.scene, input.document, settingsOf(input.sheet));
  }

  /** Pixels that the fastest vertex travels; keys count whether the object's motion is on or off. */
  length(id: string, from: number, frames: number): number {
    const poses = Array.from({ length: TIMES + 1 }, (_, k) => keyed(this.object(id), from + (frames * k) / TIMES));
    return this.most(id, (point) => {
      const way = poses.map((pose) => this.walk.pixelOf(applied(pose, point) as Triple));
      return way.reduce((sum, to, k) => sum + (k > 0 ? apart(way[k - 1], to) : 0), 0);
    });
  }

  /** Pixels between where two placements put the object. */
  between(id: string, a: Transform, b: Transform): number {
    return this.most(id, (point) =>
      apart(this.walk.pixelOf(applied(a, point) as Triple), this.walk.pixelOf(applied(b, point) as Triple)),
    );
  }

  /** Pixels by which the straight line between two of `samples` places in the shutter leaves the way that the keys tell. */
  offArc(id: string, from: number, shutter: number, samples: number): number {
    const at = (share: number) => keyed(this.object(id), from + shutter * share);
    let most = 0;
    for (let k = 0; k + 1 < samples; k++) {
      const [a, middle, b] = [k, k + 0.5, k + 1].map((n) => at(n / (samples - 1)));
      most = Math.max(most, this.between(id, middle, a.map((v, i) => (v + b[i]) / 2))); // prettier-ignore
    }
    return most;
  }

  private object(id: string): ObjectSpec {
    return this.input.document.objects[id];
  }

  private most(id: string, of: (point: Triple) => number): number {
    return this.points(id).reduce((most, point) => Math.max(most, of(point)), 0);
  }

  /** Some vertices in the object's own space; none of what is hidden. */
  private points(id: string): Triple[] {
    let points = this.kept.get(id);
    if (!points) this.kept.set(id, (points = this.followed(id)));
    return points;
  }

  private followed(id: string): Triple[] {
    const { scene, document, sheet } = this.input;
    const { geometry } = scene;
    const instance = scene.instanceObject.indexOf(scene.objectIds.indexOf(id));
    if (instance < 0) return [];
    const { positions } = geometry.meshes[geometry.instanceMesh[instance]];
    const rows = geometry.toWorld.subarray(instance * 12, instance * 12 + 12);
    // Meshes of scenes of single precision stand in the world.
    const back = invert(posesInShutter(this.object(id), document.frame, sheet.motion)[0].transform);
    const count = positions.length / 3;
    const step = Math.max(1, Math.floor(count / VERTICES));
    const out: Triple[] = [];
    for (let v = 0; v < count; v += step) {
      const world = [0, 1, 2].map((row) => rows[row * 4] * positions[v * 3] + rows[row * 4 + 1] * positions[v * 3 + 1] + rows[row * 4 + 2] * positions[v * 3 + 2] + rows[row * 4 + 3]); // prettier-ignore
      out.push(applied(back, world) as Triple);
    }
    return out;
  }
}

/** Where the keys put an object, whether its motion is on or off. */
export const keyed = (object: ObjectSpec, frame: number): Transform =>
  poseAt({ ...object, motion: 'transform' }, frame).transform;

/** What is behind the camera has no place in the picture. */
const apart = (a: [number, number] | null, b: [number, number] | null): number =>
  a && b ? Math.hypot(a[0] - b[0], a[1] - b[1]) : 0;
