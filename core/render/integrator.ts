/**
 * Path tracing from the camera with next-event estimation and multiple importance sampling: what happens on a
 * path, event by event. Light that an event gets at once is `direct-light.ts`, where found light goes is
 * `collector.ts`.
 *
 * Limits count scattering events: an event whose kind or total would pass its limit does not happen, and
 * the weight the path still carries is added to the cut passes.
 *
 * Glass bodies nest by priority (Schmidt & Budge 2002): a face inside a body of higher priority is
 * not there, and is passed without an event.
 *
 * Lights have no bodies: a ray that meets one takes its light along and goes on to what is behind it.
 */
import { luminance } from '../data/colour.ts';
import { BvhIntersector, type Intersector } from '../geometry/intersector.ts';
import { CAMERA_RAY, DIFFUSE_RAY, SPECULAR_RAY, TRANSMISSION_RAY } from '../geometry/ray-kinds.ts';
import { EMITTER_DENSITY, EMITTER_STRIDE } from '../lights/mesh-light.ts';
import { skyRadiance } from '../lights/sky.ts';
import { FAR, LIGHT_FLAGS, LIGHT_GROUP, LIGHT_STRIDE, POINT_LIKE, SAMPLED } from '../lights/table.ts';
import { sampleHenyeyGreenstein, henyeyGreenstein } from '../materials/phase.ts';
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
} from '../materials/surface.ts';
import { CameraRay } from './camera-ray.ts';
import { Collector } from './collector.ts';
import { DirectLight } from './direct-light.ts';
import { FirstHit } from './first-hit.ts';
import { FOG_ALBEDO, FOG_ANISOTROPY, FogInterval } from './fog.ts';
import { MATERIAL_ABSORPTION, MATERIAL_STRIDE } from './material-row.ts';
import { MediumStack } from './medium-stack.ts';
import {
  BACKGROUND,
  CUT_ALPHA,
  CUT_ANY,
  CUT_DISTANCE,
  CUT_OVERALL,
  EMISSION,
  MEAN_CUT,
  MEAN_RAYS,
  passOf,
} from './passes.ts';
import { PathState } from './path-state.ts';
import {
  dimension,
  GroupRandom,
  SLOT_ALPHA,
  SLOT_DIRECTION,
  SLOT_FOG,
  SLOT_FOG_DIRECTION,
  SLOT_LOBE,
  SLOT_ROULETTE,
  SLOT_TIME,
} from './random.ts';
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
  type RenderSettings,
} from './scene.ts';
import { Shading } from './shading.ts';
import { extend } from './signature.ts';

/** Events before weak paths may end early. */
const ROULETTE_AFTER = 3;
/** Most split samples of one replica. */
const REPLICA = 256;
const RAY_OF_KIND = [DIFFUSE_RAY, SPECULAR_RAY, TRANSMISSION_RAY, DIFFUSE_RAY];
/** Growth of the cone around a ray after a diffuse or fog event, metres a metre. */
const WIDE = 0.3;

// What a ray met.
const NOTHING = 0;
const SURFACE = 1;
const FOG = 2;

export class Integrator {
  readonly random = new GroupRandom();
  readonly rays: Intersector;
  readonly collector: Collector;
  /** Another replica draws other numbers for everything but the camera ray; 0 is the picture's own. */
  replica = 0;

  private readonly path = new PathState();
  private readonly surface = new Surface();
  private readonly shading: Shading;
  private readonly media: MediumStack;
  private readonly firstMedia: MediumStack;
  private readonly camera: CameraRay;
  private readonly directLight: DirectLight;
  private readonly firstHit: FirstHit;
  private readonly fog: FogInterval | null;
  /** Where the present fog event is, and the camera ray that fog is met on. */
  private readonly fogPoint = new Float64Array(3);
  /** Distances between which the camera ray is in fog. */
  private fogNear = 0;
  private fogFar = 0;
  private readonly cameraRay = new Float64Array(6);
  private readonly firstBeta = new Float64Array(3);
  private readonly sky = new Float64Array(3);
  private readonly splits: number;
  private readonly rayDistance: number;
  private readonly neutralOcclusion: boolean;

  constructor(
    private readonly scene: CompiledScene,
    private readonly settings: RenderSettings,
    private readonly recorder: Recorder | null = null,
  ) {
    this.rays = scene.rays ?? new BvhIntersector(scene.geometry);
    this.shading = new Shading(scene);
    this.media = new MediumStack(scene);
    this.firstMedia = new MediumStack(scene);
    this.fog = scene.fog && new FogInterval(scene.fog);
    this.camera = new CameraRay(scene, settings, this.random);
    this.collector = new Collector(scene, settings, recorder);
    const { random, rays, path, shading, surface, media, collector } = this;
    this.directLight = new DirectLight(
      scene,
      settings,
      random,
      rays,
      path,
      shading,
      surface,
      media,
      collector,
      recorder,
    );
    this.firstHit = new FirstHit(scene, settings, random, rays, shading, this.camera, collector);
    const { diffuse, specular, transmission } = settings.extraSamples;
    this.splits = Math.max(diffuse, specular, transmission);
    this.rayDistance = settings.rayDistance ?? Infinity;
    this.neutralOcclusion = settings.neutral === 'neutral-occlusion';
  }

  /** Object and material + 1 that the last camera sample met first, 0 for none. */
  get ids(): Float64Array {
    return this.firstHit.ids;
  }

  /** Ids whose samples count as the pixel's own; set before the samples of a group. */
  expect(object: number, material: number): void {
    this.firstHit.expect(object, material);
  }

  /** The sample's slice of the time that the shutter is open. */
  private takeTime(): void {
    const { scene, random, rays } = this;
    if (scene.slices === 1) return;
    random.draw(dimension(0, SLOT_TIME), 0);
    rays.slice = Math.floor(random.u * scene.slices);
  }

  /** Adds one sample of pixel (x, y) of the full frame; `random` must have been started for its group. */
  sample(x: number, y: number): void {
    const { path, fog } = this;
    path.begin();
    path.splitIndex = this.replica * REPLICA;
    this.takeTime();
    this.camera.start(path, x, y);
    const filterWeight = path.weight;
    this.media.clear();
    this.firstHit.clear();
    if (fog !== null) this.cameraRay.set(path.ray);
    if (this.advance() === SURFACE) this.scatterFirst(filterWeight);
    if (fog !== null && this.fogFar > this.fogNear) this.scatterInCameraFog(filterWeight);
  }

  /** The first hit: extra samples of each kind fan out from here. */
  private scatterFirst(filterWeight: number): void {
    const { shading, path, firstBeta } = this;
    const { ray, beta } = path;
    this.firstHit.note(path);
    if (this.neutralOcclusion) {
      const open = this.firstHit.openness();
      for (let a = 0; a < 3; a++) beta[a] *= open;
    }
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
  private scatterInCameraFog(filterWeight: number): void {
    const { path, scene, random, fog, settings, cameraRay, fogPoint } = this;
    const { ray, beta } = path;
    const albedo = scene.fog!;
    const count = settings.extraSamples.volume;
    for (let k = 0; k < count; k++) {
      path.begin();
      path.weight = filterWeight / count;
      path.splitIndex = this.replica * REPLICA + k;
      this.media.clear();
      ray.set(cameraRay);
      fog!.near = this.fogNear;
      fog!.far = this.fogFar;
      const share = 1 - fog!.through;
      for (let a = 0; a < 3; a++) beta[a] = share * albedo[FOG_ALBEDO + a];
      if (!this.allows(VOLUME)) {
        this.cut(VOLUME);
        continue;
      }
      random.draw(dimension(0, SLOT_FOG), path.splitIndex);
      const t = fog!.placeWithin(random.u);
      for (let a = 0; a < 3; a++) fogPoint[a] = ray[a] + t * ray[3 + a];
      path.length = t;
      this.directLight.inFog(fogPoint[0], fogPoint[1], fogPoint[2]);
      this.scatterInFog();
      this.follow();
    }
    path.weight = filterWeight;
  }

  /**
   * Glass faces that a straight look along the camera ray passes before something opaque.
   * @param met told the instance of each face, in order
   */
  crossings(x: number, y: number, met?: (instance: number) => void): number {
    const { path, rays, media, shading } = this;
    const { ray } = path;
    this.takeTime();
    this.camera.start(path, x, y);
    media.clear();
    let faces = 0;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, CAMERA_RAY);
    while (hit) {
      if (!shading.isGlass(rays.instance)) break;
      const entering = shading.entering(rays.instance, rays.triangle, ray[3], ray[4], ray[5]);
      const isThin = (this.scene.instanceFlags[rays.instance] & IS_THIN) !== 0;
      if (isThin || media.isFace(rays.instance, entering)) {
        faces++;
        met?.(rays.instance);
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
        this.directLight.inFog(this.fogPoint[0], this.fogPoint[1], this.fogPoint[2]);
        this.scatterInFog();
      }
    }
  }

  /**
   * Traces the ray to the next face that is really there or the next event in fog, collects what shines on
   * the way, and sets up `shading` and `surface`, or `fogPoint`.
   */
  private advance(): number {
    const { path, rays, media, shading, scene } = this;
    const { ray, beta } = path;
    this.countRay();
    const mask = path.firstKind < 0 ? CAMERA_RAY : RAY_OF_KIND[path.lastKind];
    const startsInAir = media.inside() < 0;
    let from = 0;
    let eta = 1;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, mask);
    for (;;) {
      if (hit && rays.t > this.rayDistance) {
        this.cutBy(CUT_DISTANCE);
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
      const entering = shading.entering(instance, triangle, ray[3], ray[4], ray[5]);
      if (media.isFace(instance, entering)) {
        eta = media.eta(instance, entering);
        break;
      }
      media.cross(instance, entering);
      hit = rays.closestAfter(t, instance, triangle);
    }
    const end = hit ? rays.t : Infinity;
    if (this.fog !== null && startsInAir && this.metFog(end)) return FOG;
    if (scene.hasBodies) this.meetBodies(end);
    if (!hit) {
      this.meetFar();
      return NOTHING;
    }
    const { instance } = rays;
    const object = scene.instanceObject[instance];
    if (path.firstObject < 0) path.firstObject = object;
    else if (path.secondObject < 0) path.secondObject = object;
    if ((scene.instanceFlags[instance] & EMITS) !== 0) this.meetEmitter();
    shading.hit(rays, ray, path.width + path.spread * end, path.firstKind < 0);
    shading.toSurfaceIn(this.surface, eta);
    path.length += end;
    path.width += path.spread * end;
    path.unshaded = (scene.instanceFlags[instance] & IS_UNSHADED) !== 0;
    return beta[0] + beta[1] + beta[2] > 0 ? SURFACE : NOTHING;
  }

  /** 1: the surface is there; 0: the ray goes on through it; −1: the path ends. */
  private lookCloser(flags: number): number {
    const { path, rays, shading, random, settings } = this;
    const { ray, beta } = path;
    const { instance, triangle, t, u, v } = rays;
    if ((flags & (IS_FRONT_ONLY | IS_BACK_ONLY)) !== 0) {
      const front = shading.entering(instance, triangle, ray[3], ray[4], ray[5]);
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
            this.cutBy(CUT_ALPHA);
            return -1;
          }
          path.alpha++;
          return 0;
        }
      }
    }
    if ((flags & IS_CUT_OUT) !== 0) return -1;
    if ((flags & IS_SHADOW_ONLY) !== 0) {
      shading.hit(rays, ray, 0, false);
      const open = this.directLight.openness();
      for (let a = 0; a < 3; a++) beta[a] *= open;
      // The shadow ray has taken the ray's place in the intersector: it is put back, to be resumed.
      rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, CAMERA_RAY);
      return 0;
    }
    return 1;
  }

  /** Whether the ray scatters in fog before `end`. The camera ray is only dimmed: its fog has samples of its own. */
  private metFog(end: number): boolean {
    const { path, random, scene, fogPoint } = this;
    const fog = this.fog!;
    const { ray, beta } = path;
    fog.set(ray, end);
    const isCamera = path.firstKind < 0;
    if (isCamera) {
      this.fogNear = fog.near;
      this.fogFar = fog.far;
    }
    if (!(fog.far > fog.near)) return false;
    if (isCamera) {
      const { through } = fog;
      for (let a = 0; a < 3; a++) beta[a] *= through;
      return false;
    }
    random.draw(dimension(path.total, SLOT_FOG), path.splitIndex);
    const t = fog.place(random.u);
    if (!(t < fog.far)) return false;
    for (let a = 0; a < 3; a++) {
      fogPoint[a] = ray[a] + t * ray[3 + a];
      beta[a] *= scene.fog![FOG_ALBEDO + a];
    }
    path.length += t;
    path.width += path.spread * t;
    if (this.allows(VOLUME)) return true;
    this.cut(VOLUME);
    beta.fill(0);
    return false;
  }

  /** The pass of light met by the present ray. */
  private reach(unscattered: number): number {
    const { path } = this;
    return path.firstKind < 0 ? unscattered : passOf(path.firstKind, path.straight || path.total === 1);
  }

  /** Lights with a body that stand on the ray before `end`. */
  private meetBodies(end: number): void {
    const { scene, path, directLight } = this;
    const { sampler } = directLight;
    for (let light = 0; light < scene.lightCount; light++) {
      const flags = scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS];
      if ((flags & (FAR | POINT_LIKE)) !== 0 || (flags & SAMPLED) === 0) continue;
      const t = sampler.hitBody(light, path.ray);
      if (t < end && sampler.meet(light, path.ray, t)) this.collectLight(light, t, EMISSION);
    }
  }

  /** Everything far, for a ray that leaves the scene. */
  private meetFar(): void {
    const { scene, path, directLight, sky } = this;
    const { sampler } = directLight;
    const { ray } = path;
    if (scene.background !== null && path.straight && path.density === 0) {
      skyRadiance(scene.background, scene.chains, ray[3], ray[4], ray[5], sky);
      this.collect(this.reach(BACKGROUND), 0, -1, sky[0], sky[1], sky[2], 1);
    } else if (sampler.meet(scene.skyLight, ray, Infinity)) this.collectLight(scene.skyLight, Infinity, BACKGROUND);
    for (let light = 0; light < scene.skyLight; light++) {
      const flags = scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS];
      if ((flags & FAR) === 0 || (flags & POINT_LIKE) !== 0) continue;
      if (sampler.meet(light, ray, Infinity)) this.collectLight(light, Infinity, EMISSION);
    }
  }

  /** Adds a light that the ray has met at `t`, which the sampler tells. */
  private collectLight(light: number, t: number, unscattered: number): void {
    const { scene, path, directLight } = this;
    const { radiance, density } = directLight.sampler;
    if (!directLight.serves(light, path.lastKind, path.object, path.bounces, path.length + t)) return;
    const weight = directLight.weightOfMeeting(light, density);
    if (weight === 0) return;
    const group = scene.lights[light * LIGHT_STRIDE + LIGHT_GROUP];
    this.collect(this.reach(unscattered), group, light, radiance[0], radiance[1], radiance[2], weight);
  }

  /** The surface that the ray has just met shines itself. */
  private meetEmitter(): void {
    const { scene, path, rays, shading, directLight } = this;
    const { instance, triangle, t, u, v } = rays;
    const { ray } = path;
    const light = scene.instanceLight[instance];
    if (light < 0) return;
    if (!directLight.serves(light, path.lastKind, path.object, path.bounces, path.length + t)) return;
    const cosine = Math.abs(shading.cosine(instance, triangle, ray[3], ray[4], ray[5]));
    const row = scene.instanceEmitter[instance] + triangle;
    const density = (scene.emitters.rows[row * EMITTER_STRIDE + EMITTER_DENSITY] * t * t) / cosine;
    const weight = directLight.weightOfMeeting(light, density);
    if (weight === 0) return;
    shading.emission(instance, triangle, u, v, ray[0] + t * ray[3], ray[1] + t * ray[4], ray[2] + t * ray[5]);
    const { emitted } = shading;
    const group = scene.lights[light * LIGHT_STRIDE + LIGHT_GROUP];
    this.collect(this.reach(EMISSION), group, light, emitted[0], emitted[1], emitted[2], weight);
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

  /** Adds radiance met by the present ray to its pass and to the beauty. */
  private collect(pass: number, group: number, light: number, r: number, g: number, b: number, weight: number): void {
    const { path } = this;
    const { beta } = path;
    const w = weight * path.weight;
    this.collector.add(
      pass,
      group,
      light,
      r * beta[0] * w,
      g * beta[1] * w,
      b * beta[2] * w,
      path.weight,
      path.stage,
      path,
      path.signature,
      path,
    );
  }

  private countRay(): void {
    this.collector.sums[MEAN_RAYS]++;
    this.collector.rays[this.path.lastKind + 1]++;
    if (this.recorder !== null) this.recorder.ray(this.path.stage, this.path);
  }

  private allows(kind: number): boolean {
    const { path, settings } = this;
    const { limits } = settings;
    if (path.total >= limits.overall) return false;
    return kind === DIFFUSE
      ? path.diffuse < limits.diffuse
      : kind === SPECULAR
        ? path.specular < limits.specular
        : kind === TRANSMISSION
          ? path.transmission < limits.transmission
          : path.volume < limits.volume;
  }

  /** Direct light at the present hit. */
  private light(isFirst: boolean): void {
    const { shading, surface } = this;
    if (!surface.isRough && !shading.hasDiffuse) return;
    const diffuse = shading.hasDiffuse && this.allows(DIFFUSE);
    const specular = surface.isRough && this.allows(SPECULAR);
    // Light straight through see-through glass is the last event's, whose shadow rays have gone that way.
    const isTaken = this.path.covered && (this.scene.instanceFlags[shading.instance] & IS_SEE_THROUGH) !== 0;
    const transmission = surface.isRough && shading.glass && !isTaken && this.allows(TRANSMISSION);
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
    if (!this.allows(kind)) {
      this.cut(kind);
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
    path.signature = extend(path.signature, kind);
    if (kind === TRANSMISSION && (flags & IS_THIN) === 0) media.cross(shading.instance, shading.isEntering);
    path.straight &&= kind === TRANSMISSION;
    path.density = out[OUT_DENSITY];
    path.object = scene.instanceObject[shading.instance];
    if (kind === DIFFUSE) {
      path.length = 0;
      path.spread = WIDE;
    }
    if (!this.survives(bounce)) return false;
    const off = kind === TRANSMISSION ? -shading.lift : shading.lift;
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

  /** An event in fog, which limits have allowed: turns the ray. */
  private scatterInFog(): void {
    const { path, random, fogPoint, scene } = this;
    const { ray } = path;
    const g = scene.fog![FOG_ANISOTROPY];
    random.draw(dimension(path.total, SLOT_FOG_DIRECTION), path.splitIndex);
    const cosine = sampleHenyeyGreenstein(random.u, g);
    const sine = Math.sqrt(Math.max(0, 1 - cosine * cosine));
    const phi = 2 * Math.PI * random.v;
    const x = ray[3];
    const y = ray[4];
    const z = ray[5];
    const s = z >= 0 ? 1 : -1;
    const a = -1 / (s + z);
    const b = x * y * a;
    const p = sine * Math.cos(phi);
    const q = sine * Math.sin(phi);
    for (let k = 0; k < 3; k++) ray[k] = fogPoint[k];
    ray[3] = p * (1 + s * x * x * a) + q * b + cosine * x;
    ray[4] = p * s * b + q * (s + y * y * a) + cosine * y;
    ray[5] = -p * s * x - q * y + cosine * z;
    if (path.firstKind < 0) path.firstKind = VOLUME;
    path.lastKind = VOLUME;
    path.volume++;
    path.signature = extend(path.signature, VOLUME);
    path.straight = false;
    path.density = henyeyGreenstein(cosine, g);
    path.object = -1;
    path.unshaded = false;
    path.covered = true;
    path.through = 0;
    path.length = 0;
    path.spread = WIDE;
  }

  /** Whether roulette lets the path go on; it is strengthened for those that do not. */
  private survives(bounce: number): boolean {
    const { settings, path, random } = this;
    if (!settings.roulette || bounce < ROULETTE_AFTER) return true;
    const { beta } = path;
    const strength = Math.max(beta[0], beta[1], beta[2]);
    if (strength >= 1) return true;
    const chance = Math.max(0.05, strength);
    random.draw(dimension(bounce, SLOT_ROULETTE), path.splitIndex);
    if (random.u >= chance) return false;
    for (let a = 0; a < 3; a++) beta[a] /= chance;
    return true;
  }

  /** Notes the weight that limits end here: once for each limit that forbids the event, and once in all. */
  private cut(kind: number): void {
    const { path, settings } = this;
    const { limits } = settings;
    const { sums } = this.collector;
    const weight = luminance(path.beta[0], path.beta[1], path.beta[2]) * path.weight;
    const limit =
      kind === DIFFUSE
        ? limits.diffuse
        : kind === SPECULAR
          ? limits.specular
          : kind === TRANSMISSION
            ? limits.transmission
            : limits.volume;
    if (path.count(kind) >= limit) sums[MEAN_CUT + kind] += weight;
    if (path.total >= limits.overall) sums[MEAN_CUT + CUT_OVERALL] += weight;
    sums[MEAN_CUT + CUT_ANY] += weight;
  }

  /** The same for what is no event: see-through surfaces and the ray's length. */
  private cutBy(which: number): void {
    const { path } = this;
    const { sums } = this.collector;
    const weight = luminance(path.beta[0], path.beta[1], path.beta[2]) * path.weight;
    sums[MEAN_CUT + which] += weight;
    sums[MEAN_CUT + CUT_ANY] += weight;
  }
}
