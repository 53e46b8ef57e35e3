/**
 * Path tracing from the camera with next-event estimation and multiple importance sampling: what happens on a
 * path, event by event. Light that an event gets at once is `direct-light.ts`, light that rays meet on their way
 * `emitter-hit.ts`, where found light goes `collector.ts`.
 *
 * Limits count scattering events: an event whose kind or total would pass its limit does not happen, and
 * the weight the path still carries is added to the cut passes.
 *
 * Glass bodies nest by priority (Schmidt & Budge 2002): a face inside a body of higher priority is
 * not there, and is passed without an event.
 */
import { toInt, type f64, type i32 } from '../../data/numbers.ts';
import type { Intersector } from '../../geometry/intersector.ts';
import { CAMERA_RAY } from '../../geometry/ray-kinds.ts';
import {
  DIFFUSE,
  OUT_B,
  OUT_DENSITY,
  OUT_G,
  OUT_R,
  OUT_X,
  OUT_Y,
  OUT_Z,
  SPECULAR,
  Surface,
  TRANSMISSION,
  VOLUME,
} from '../../materials/surface.ts';
import { CameraRay } from './camera-ray.ts';
import { Collector } from './collector.ts';
import { DirectLight } from './direct-light.ts';
import { FirstHit } from './first-hit.ts';
import { FogPath } from './fog-path.ts';
import { MATERIAL_ABSORPTION, MATERIAL_STRIDE } from '../scene/material-row.ts';
import { MediumStack } from './medium-stack.ts';
import { EmitterHit } from './emitter-hit.ts';
import { CUT_ALPHA, CUT_DISTANCE, MEAN_RAYS } from '../film/passes.ts';
import { PathContext } from './path-context.ts';
import { PathLimits } from './path-limits.ts';
import { PathState, WIDE } from './path-state.ts';
import {
  dimension,
  GROUP,
  GroupRandom,
  SLOT_ALPHA,
  SLOT_DIRECTION,
  SLOT_LOBE,
  SLOT_ROULETTE,
  SLOT_TIME,
} from '../film/random.ts';
import { rayOfKind } from './ray-of-kind.ts';
import type { Recorder } from './recorder.ts';
import {
  EMITS,
  HAS_ALPHA,
  IS_BACK_ONLY,
  IS_CUT_OUT,
  IS_FRONT_ONLY,
  IS_SEE_THROUGH,
  IS_SHADOW_ONLY,
  IS_SPECIAL,
  IS_THIN,
  IS_UNSHADED,
  type CompiledScene,
} from '../scene/scene.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import type { GroupTracer } from '../scene/scene-kernel.ts';
import { Shading } from './shading.ts';
import { extend } from './signature.ts';

/** Events before weak paths may end early. */
const ROULETTE_AFTER = 3;
/** Most split samples of one replica. */
const REPLICA = 256;

// What a ray met.
const NOTHING = 0;
const SURFACE = 1;
const FOG = 2;

export class Integrator implements GroupTracer {
  readonly random = new GroupRandom();
  readonly collector: Collector;
  /** Another replica draws other numbers for everything but the camera ray; 0 is the picture's own. */
  replica: i32 = 0;
  /** Object and material + 1 that each sample of the last group met first, 0 for none. */
  readonly ids = new Float64Array(GROUP * 2);

  private readonly path = new PathState();
  private readonly surface = new Surface();
  private readonly shading: Shading;
  private readonly media: MediumStack;
  private readonly firstMedia: MediumStack;
  private readonly camera: CameraRay;
  private readonly directLight: DirectLight;
  private readonly emitterHit: EmitterHit;
  private readonly firstHit: FirstHit;
  private readonly limits: PathLimits;
  private readonly fog: FogPath | null;
  private readonly firstBeta = new Float64Array(3);
  private readonly splits: i32;
  private readonly rayDistance: number;

  constructor(
    private readonly scene: CompiledScene,
    private readonly settings: PathSettings,
    readonly rays: Intersector,
    private readonly recorder: Recorder | null,
  ) {
    this.shading = new Shading(scene, rays);
    this.media = new MediumStack(scene);
    this.firstMedia = new MediumStack(scene);
    this.camera = new CameraRay(scene, settings, this.random);
    this.collector = new Collector(settings, recorder);
    const { random, path, shading, surface, media, collector } = this;
    const context = new PathContext(scene, settings, random, rays, path, shading, surface, media, collector, recorder);
    this.directLight = new DirectLight(context);
    this.limits = new PathLimits(settings, path, collector.sums);
    this.fog = scene.fog === null ? null : new FogPath(scene.fog, context, this.limits);
    this.emitterHit = new EmitterHit(context, this.directLight);
    this.firstHit = new FirstHit(context, this.camera);
    const { diffuse, specular, transmission } = settings.extraSamples;
    const some = diffuse > specular ? diffuse : specular;
    this.splits = some > transmission ? some : transmission;
    this.rayDistance = settings.rayDistance;
  }

  get sums(): Float64Array {
    return this.collector.sums;
  }

  get brightest(): Float64Array {
    return this.collector.brightest;
  }

  get raysByKind(): Float64Array {
    return this.collector.rays;
  }

  /** Ids whose samples count as the pixel's own; set before the samples of a group. */
  expect(object: i32, material: i32): void {
    this.firstHit.expect(object, material);
  }

  /** Clears the sums and traces the samples of a group of pixel (x, y) of the full frame. */
  group(x: i32, y: i32, group: i32): void {
    const { random, collector, ids } = this;
    random.start(x, y, group, this.settings.seed);
    collector.clear();
    for (let s = 0; s < GROUP; s++) {
      random.sample = s;
      this.sample(x, y);
      ids[s * 2] = this.firstHit.ids[0];
      ids[s * 2 + 1] = this.firstHit.ids[1];
    }
  }

  /** The sample's slice of the time that the shutter is open. */
  private takeTime(): void {
    const { scene, random, rays } = this;
    if (scene.slices === 1) return;
    random.draw(dimension(0, SLOT_TIME), 0);
    rays.slice = toInt(random.u * scene.slices);
  }

  /** Adds one sample of pixel (x, y) of the full frame; `random` must have been started for its group. */
  sample(x: i32, y: i32): void {
    const { path, fog } = this;
    path.begin();
    path.splitIndex = this.replica * REPLICA;
    this.takeTime();
    this.camera.start(path, x, y);
    const filterWeight = path.weight;
    this.media.clear();
    this.firstHit.clear();
    if (fog !== null) fog.begin();
    if (this.advance() === SURFACE) this.scatterFirst(filterWeight);
    if (fog !== null && fog.isBeforeCamera) this.scatterInCameraFog(fog, filterWeight);
  }

  /** The first hit: extra samples of each kind fan out from here. */
  private scatterFirst(filterWeight: number): void {
    const { shading, path, firstBeta } = this;
    const { ray, beta } = path;
    this.firstHit.note(path);
    this.firstHit.dim(beta);
    this.light(true);
    if (this.splits === 1) {
      if (this.scatter()) this.follow();
      return;
    }
    const rx = ray[3];
    const ry = ray[4];
    const rz = ray[5];
    const { length, alpha, width } = path;
    firstBeta.set(beta);
    this.firstMedia.copy(this.media);
    shading.save();
    for (let split = 0; split < this.splits; split++) {
      if (split > 0) {
        shading.restore();
        shading.toSurface(this.surface);
        this.media.copy(this.firstMedia);
        ray[3] = rx;
        ray[4] = ry;
        ray[5] = rz;
        const { firstObject } = path;
        path.begin();
        path.firstObject = firstObject;
        path.length = length;
        path.alpha = alpha;
        path.width = width;
        path.object = this.scene.instanceObject[shading.instance];
        path.unshaded = (this.scene.instanceFlags[shading.instance] & IS_UNSHADED) !== 0;
        beta.set(firstBeta);
      }
      path.weight = filterWeight;
      path.splitIndex = this.replica * REPLICA + split;
      if (this.scatter()) this.follow();
    }
    path.weight = filterWeight;
  }

  /** Fog between the camera and the first hit: its own samples, beside those of the surface. */
  private scatterInCameraFog(fog: FogPath, filterWeight: number): void {
    const { path, settings } = this;
    const count = settings.extraSamples.volume;
    for (let k = 0; k < count; k++) {
      path.begin();
      path.weight = filterWeight / count;
      path.splitIndex = this.replica * REPLICA + k;
      this.media.clear();
      if (!fog.startOnCameraRay()) continue;
      this.directLight.inFog(fog.point[0], fog.point[1], fog.point[2]);
      fog.scatter();
      this.follow();
    }
    path.weight = filterWeight;
  }

  /**
   * Glass faces that a straight path along the first sample's camera ray passes before something opaque.
   * @param crossed filled with the instance of each face, in order, as far as there is room
   */
  crossings(x: i32, y: i32, crossed: Int32Array): i32 {
    const { path, rays, media, shading } = this;
    const { ray } = path;
    this.random.start(x, y, 0, this.settings.seed);
    this.random.sample = 0;
    this.takeTime();
    this.camera.start(path, x, y);
    media.clear();
    let faces = 0;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, CAMERA_RAY);
    while (hit && rays.t <= path.far) {
      if (!shading.isGlass(rays.instance)) break;
      const entering = shading.entering(ray[3], ray[4], ray[5]);
      const isThin = (this.scene.instanceFlags[rays.instance] & IS_THIN) !== 0;
      if (isThin || media.isFace(rays.instance, entering)) {
        if (faces < crossed.length) crossed[faces] = rays.instance;
        faces++;
      }
      if (!isThin) media.cross(rays.instance, entering);
      hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    }
    return faces;
  }

  /** Events after the first: alternately a ray and what it meets. */
  private follow(): void {
    for (;;) {
      const met = this.advance();
      if (met === NOTHING) return;
      if (met === SURFACE) {
        this.light(false);
        if (!this.scatter()) return;
      } else {
        const { point } = this.fog!;
        this.directLight.inFog(point[0], point[1], point[2]);
        this.fog!.scatter();
        if (this.recorder !== null) this.recorder.event(VOLUME, -1, point, this.path);
      }
    }
  }

  /**
   * Traces the ray to the next face that is really there or the next event in fog, collects what shines on
   * the way, and sets up `shading` and `surface`, or the fog's `point`.
   */
  private advance(): i32 {
    const { path, rays, media, shading, scene } = this;
    const { ray, beta } = path;
    this.countRay();
    const mask = path.firstKind < 0 ? CAMERA_RAY : rayOfKind(path.lastKind);
    const startsInAir = media.inside() < 0;
    const reach: f64 = path.firstKind < 0 ? path.far : Infinity;
    let from: f64 = 0;
    let eta: f64 = 1;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, mask);
    for (;;) {
      if (hit && rays.t > reach) hit = false;
      if (hit && rays.t > this.rayDistance) {
        this.limits.cutBy(CUT_DISTANCE);
        hit = false;
      }
      if (!hit) break;
      const { instance, triangle, t } = rays;
      const flags = scene.instanceFlags[instance];
      if ((flags & IS_SPECIAL) !== 0) {
        const answer = this.lookCloser(flags);
        if (answer < 0) return NOTHING;
        if (answer === 0) {
          hit = rays.closestAfter(t, instance, triangle);
          continue;
        }
      }
      this.absorb(t - from);
      from = t;
      if (!shading.isGlass(instance) || (flags & IS_THIN) !== 0) break;
      const entering = shading.entering(ray[3], ray[4], ray[5]);
      if (media.isFace(instance, entering)) {
        eta = media.eta(instance, entering);
        break;
      }
      media.cross(instance, entering);
      hit = rays.closestAfter(t, instance, triangle);
    }
    const end = hit ? rays.t : reach;
    if (this.fog !== null && startsInAir && this.fog.meets(end)) return FOG;
    if (scene.hasBodies) this.emitterHit.bodies(end);
    if (!hit) {
      this.emitterHit.far();
      return NOTHING;
    }
    const { instance } = rays;
    const object = scene.instanceObject[instance];
    if (path.firstObject < 0) path.firstObject = object;
    else if (path.secondObject < 0) path.secondObject = object;
    if ((scene.instanceFlags[instance] & EMITS) !== 0) this.emitterHit.emitter();
    shading.hit(ray, path.width + path.spread * end, path.firstKind < 0);
    shading.toSurfaceIn(this.surface, eta, path.bounces > 0 ? this.settings.roughnessFloor : 0);
    path.length += end;
    path.width += path.spread * end;
    path.unshaded = (scene.instanceFlags[instance] & IS_UNSHADED) !== 0;
    return beta[0] + beta[1] + beta[2] > 0 ? SURFACE : NOTHING;
  }

  /** 1: the surface is there; 0: the ray goes on through it; −1: the path ends. */
  private lookCloser(flags: i32): i32 {
    const { path, rays, shading, random, settings } = this;
    const { ray, beta } = path;
    const { u, v, t, instance, triangle } = rays;
    if ((flags & (IS_FRONT_ONLY | IS_BACK_ONLY)) !== 0) {
      const front = shading.entering(ray[3], ray[4], ray[5]);
      if (front === ((flags & IS_BACK_ONLY) !== 0)) return 0;
    }
    if ((flags & HAS_ALPHA) !== 0) {
      const alpha = shading.alpha(
        instance,
        triangle,
        u,
        v,
        ray[0] + t * ray[3],
        ray[1] + t * ray[4],
        ray[2] + t * ray[5],
      );
      if (alpha < 1) {
        random.draw(dimension(path.total, SLOT_ALPHA), path.splitIndex * 512 + path.alpha);
        if (random.u >= alpha) {
          if (path.alpha >= settings.limits.alpha) {
            this.limits.cutBy(CUT_ALPHA);
            return -1;
          }
          path.alpha++;
          return 0;
        }
      }
    }
    // Only rays of the camera are held out; lights that stand in front are seen.
    if ((flags & IS_CUT_OUT) !== 0 && path.firstKind < 0) {
      if (this.scene.hasBodies) this.emitterHit.bodies(t);
      return -1;
    }
    if ((flags & IS_SHADOW_ONLY) !== 0) {
      shading.hit(ray, 0, false);
      const open = this.directLight.openness();
      for (let a = 0; a < 3; a++) beta[a] *= open;
      // The shadow ray has taken the ray's place in the intersector: it is put back, to be resumed.
      rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, CAMERA_RAY);
      return 0;
    }
    return 1;
  }

  private absorb(distance: number): void {
    const { media, path, scene } = this;
    const inside = media.inside();
    if (inside < 0) return;
    const { beta } = path;
    const m = scene.instanceMaterial[inside] * MATERIAL_STRIDE + MATERIAL_ABSORPTION;
    const { materials } = scene;
    if (materials[m] > 0) beta[0] *= Math.exp(-materials[m] * distance);
    if (materials[m + 1] > 0) beta[1] *= Math.exp(-materials[m + 1] * distance);
    if (materials[m + 2] > 0) beta[2] *= Math.exp(-materials[m + 2] * distance);
  }

  private countRay(): void {
    this.collector.sums[MEAN_RAYS]++;
    this.collector.rays[this.path.lastKind + 1]++;
    if (this.recorder !== null) this.recorder.ray(this.path.stage, this.path);
  }

  /** Direct light at the present hit. */
  private light(isFirst: boolean): void {
    const { shading, surface } = this;
    if (!surface.isRough && !shading.hasDiffuse) return;
    const diffuse = shading.hasDiffuse && this.limits.allows(DIFFUSE);
    const specular = surface.isRough && this.limits.allows(SPECULAR);
    // Light straight through see-through glass is the last event's, whose shadow rays have gone that way.
    const isTaken = this.path.covered && (this.scene.instanceFlags[shading.instance] & IS_SEE_THROUGH) !== 0;
    const transmission = surface.isRough && shading.glass && !isTaken && this.limits.allows(TRANSMISSION);
    if (diffuse || specular || transmission) this.directLight.atSurface(isFirst, diffuse, specular, transmission);
  }

  /** Draws the next event and turns the ray; false when the path ends here. */
  private scatter(): boolean {
    const { random, surface, shading, media, path, scene } = this;
    const { beta, ray } = path;
    const bounce = path.total;
    random.draw(dimension(bounce, SLOT_LOBE), path.splitIndex);
    const choose = random.u;
    random.draw(dimension(bounce, SLOT_DIRECTION), path.splitIndex);
    if (!surface.sample(choose, random.u, random.v)) return false;
    const { kind, out } = surface;

    if (path.firstKind < 0) {
      const count = this.directLight.extraOf(kind);
      // A further sample belongs to the kinds that have so many.
      if (path.splitIndex - this.replica * REPLICA >= count) return false;
      path.weight /= count;
    }
    const world = shading.toWorld(out[OUT_X], out[OUT_Y], out[OUT_Z]);
    const side = shading.side(world[0], world[1], world[2]);
    if (kind === TRANSMISSION ? side >= 0 : side <= 0) return false;
    beta[0] *= out[OUT_R];
    beta[1] *= out[OUT_G];
    beta[2] *= out[OUT_B];
    if (!(beta[0] + beta[1] + beta[2] > 0)) return false;
    if (!this.limits.allows(kind)) {
      this.limits.cut(kind);
      return false;
    }

    const flags = scene.instanceFlags[shading.instance];
    const isStraightOn = kind === TRANSMISSION && (flags & IS_SEE_THROUGH) !== 0;
    if (isStraightOn && path.lastKind >= 0) path.through++;
    else {
      path.covered = out[OUT_DENSITY] > 0;
      path.through = 0;
    }
    if (path.firstKind < 0) path.firstKind = kind;
    path.lastKind = kind;
    path.step(kind, 1);
    if (out[OUT_DENSITY] > 0) path.scattered++;
    path.signature = extend(path.signature, kind);
    if (kind === TRANSMISSION && (flags & IS_THIN) === 0) media.cross(shading.instance, shading.isEntering);
    path.straight = path.straight && kind === TRANSMISSION;
    path.density = out[OUT_DENSITY];
    path.object = scene.instanceObject[shading.instance];
    if (kind === DIFFUSE) {
      path.length = 0;
      path.spread = WIDE;
    }
    if (!this.survives(bounce)) return false;
    if (this.recorder !== null) this.recorder.event(kind, shading.instance, shading.point, path);
    const off = kind === TRANSMISSION ? -shading.rayOffset : shading.rayOffset;
    const { point, normal } = shading;
    ray[0] = point[0] + normal[0] * off;
    ray[1] = point[1] + normal[1] * off;
    ray[2] = point[2] + normal[2] * off;
    ray[3] = world[0];
    ray[4] = world[1];
    ray[5] = world[2];
    if (scene.single) for (let a = 0; a < 6; a++) ray[a] = Math.fround(ray[a]);
    return true;
  }

  /** Whether roulette lets the path go on; it is strengthened for those that do not. */
  private survives(bounce: i32): boolean {
    const { settings, path, random } = this;
    if (!settings.roulette || bounce < ROULETTE_AFTER) return true;
    const { beta } = path;
    const strength = Math.max(Math.max(beta[0], beta[1]), beta[2]);
    if (strength >= 1) return true;
    const chance = Math.max(0.05, strength);
    random.draw(dimension(bounce, SLOT_ROULETTE), path.splitIndex);
    if (random.u >= chance) return false;
    for (let a = 0; a < 3; a++) beta[a] /= chance;
    return true;
  }
}
