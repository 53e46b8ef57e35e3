/**
 * Surfaces of a compiled scene as rays of the camera and of lights meet them, one ray at a time: what the middle of a pixel
 * shows, what glass it looks through, and the first surface that throws a shadow.
 *
 * @example
 * const place = new SurfaceWalk(scene, settingsOf(sheet)).surfaceAt(240, 135);
 * place?.metres;   // from the eye
 */
import { luminance } from '../data/colour.ts';
import type { Triple } from '../data/placement.ts';
import { BvhIntersector, type Intersector } from '../geometry/intersector.ts';
import { ANY_SHADOW_RAY, CAMERA_RAY } from '../geometry/ray-kinds.ts';
import { Shading } from '../render/path/shading.ts';
import { pathSettings, type PathSettings } from '../render/scene/path-settings.ts';
import {
  CAMERA_FAR,
  CAMERA_NEAR,
  CAMERA_UP,
  HAS_ALPHA,
  IS_BACK_ONLY,
  IS_FRONT_ONLY,
  IS_SEE_THROUGH,
  IS_SHADOW_ONLY,
  type CompiledScene,
  type RenderSettings,
} from '../render/scene/scene.ts';
import { viewOf } from '../render/scene/view.ts';
import { middleRay } from '../render/scene/middle-ray.ts';
import { normalError } from './normal-error.ts';

/** A point on a surface as the camera sees it. */
export interface Place {
  point: Triple;
  /** Of the face and of shading, unit, on the side that is seen. */
  normal: Triple;
  shadingNormal: Triple;
  /** Luminance of the base colour there, 0–1. */
  albedo: number;
  /** Number of the object, see `scene.objectIds`. */
  object: number;
  instance: number;
  /** Metres from the eye, and metres that a pixel is wide there. */
  metres: number;
  pixel: number;
  /** How far rays start off the surface, metres. */
  lift: number;
  /** Numbers of objects of glass that are looked through, straight on. */
  through: number[];
}

/** Metres along the camera's axis; `far` may be Infinity. */
export interface Clip {
  near: number;
  far: number;
}

/** Surfaces on one ray before it is given up: a hedge of leaves. */
export const MOST_HITS = 64;
/** Pixels that an outline is wide at most. */
const OUTLINE = 6;

export class SurfaceWalk {
  readonly settings: PathSettings;
  /** Of the last `meetsCaster` that met one: metres along its ray, and number of the object. */
  casterMetres = 0;
  casterObject = -1;

  protected readonly rays: Intersector;
  protected readonly shading: Shading;
  protected readonly ray = new Float64Array(6);

  constructor(
    readonly scene: CompiledScene,
    settings: RenderSettings,
  ) {
    this.settings = pathSettings(settings, scene.layout);
    this.rays = scene.kernel?.rays ?? new BvhIntersector(scene.geometry);
    this.shading = new Shading(scene, this.rays);
  }

  /**
   * What the middle of a pixel shows, glass being looked through straight on.
   * @param x and `y`: pixels of the full frame, fractions allowed
   * @param clip planes along the camera's axis, metres; its own by default
   * @returns null where it shows no surface
   */
  surfaceAt(x: number, y: number, clip: Clip = this.clip): Place | null {
    return this.placeAt(x, y, clip, true);
  }

  /** The same of what is met first, glass or not. */
  firstAt(x: number, y: number): Place | null {
    return this.placeAt(x, y, this.clip, false);
  }

  private placeAt(x: number, y: number, clip: Clip, passesGlass: boolean): Place | null {
    const { scene, settings, rays, shading, ray } = this;
    const { camera } = scene;
    const length = middleRay(camera, settings, x, y, clip.near, ray);
    rays.slice = scene.slices >> 1;
    const far = Math.min((clip.far - clip.near) * length, settings.rayDistance);
    const through: number[] = [];
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, CAMERA_RAY);
    while (hit && this.isPassed(passesGlass)) {
      const object = scene.instanceObject[rays.instance];
      if (shading.isGlass(rays.instance) && !through.includes(object)) through.push(object);
      hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    }
    if (!hit) return null;
    const metres = rays.t + clip.near * length;
    shading.hit(ray, 0, false);
    return {
      point: [...shading.point] as Triple,
      normal: [...shading.normal] as Triple,
      shadingNormal: [0, 1, 2].map((a) => shading.shadingNormal(a)) as Triple,
      albedo: luminance(shading.colour[0], shading.colour[1], shading.colour[2]),
      object: scene.instanceObject[rays.instance],
      instance: rays.instance,
      metres,
      pixel: this.pixelAt(metres, length),
      lift: shading.rayOffset,
      through,
    };
  }

  /** Metres that a pixel is wide so far from the eye. @param length metres along its ray for each along the axis */
  private pixelAt(metres: number, length: number): number {
    const { camera } = this.scene;
    return (2 * Math.hypot(camera[CAMERA_UP], camera[CAMERA_UP + 1], camera[CAMERA_UP + 2]) * metres) / (length * this.settings.height); // prettier-ignore
  }

  /** Faces of glass that the middle of a pixel looks through straight on, the nearest first; `metres` along the ray. */
  glassOn(x: number, y: number): { object: number; metres: number; isEntering: boolean }[] {
    const { scene, settings, rays, shading, ray, clip } = this;
    const length = middleRay(scene.camera, settings, x, y, clip.near, ray);
    rays.slice = scene.slices >> 1;
    const far = Math.min((clip.far - clip.near) * length, settings.rayDistance);
    const out: { object: number; metres: number; isEntering: boolean }[] = [];
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, CAMERA_RAY);
    while (hit && shading.isGlass(rays.instance) && out.length < MOST_HITS) {
      out.push({ object: scene.instanceObject[rays.instance], metres: rays.t, isEntering: shading.entering(ray[3], ray[4], ray[5]) }); // prettier-ignore
      hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    }
    return out;
  }

  /**
   * The first face of glass of each object that the middle of a pixel looks through straight on: what it is tinted by there, linear,
   * and its UV.
   * @param isWanted by object
   */
  tintsOn(
    x: number,
    y: number,
    isWanted: readonly boolean[],
  ): { object: number; colour: Triple; uv: [number, number] }[] {
    const { scene, settings, rays, shading, ray, clip } = this;
    const length = middleRay(scene.camera, settings, x, y, clip.near, ray);
    rays.slice = scene.slices >> 1;
    const far = Math.min((clip.far - clip.near) * length, settings.rayDistance);
    const out: { object: number; colour: Triple; uv: [number, number] }[] = [];
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, CAMERA_RAY);
    for (let n = 0; hit && n < MOST_HITS && shading.isGlass(rays.instance); n++) {
      const object = scene.instanceObject[rays.instance];
      if (isWanted[object] && !out.some((one) => one.object === object)) {
        shading.hit(ray, 0, false);
        const { colour, uv } = shading;
        out.push({ object, colour: [colour[0], colour[1], colour[2]], uv: [uv[0], uv[1]] });
      }
      hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    }
    return out;
  }

  /** Number of the object whose first surface in the middle of a pixel turns the side to the camera that is not there; −1: none. */
  firstTurned(x: number, y: number): number {
    const { scene, settings, rays, ray, clip } = this;
    const length = middleRay(scene.camera, settings, x, y, clip.near, ray);
    rays.slice = scene.slices >> 1;
    const far = Math.min((clip.far - clip.near) * length, settings.rayDistance);
    const hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, CAMERA_RAY);
    if (!hit || !this.isTurned(scene.instanceFlags[rays.instance])) return -1;
    const object = scene.instanceObject[rays.instance];
    const behind = rays.t + OUTLINE * this.pixelAt(rays.t + clip.near * length, length);
    // A hull turned inside out close around the thing itself is an outline, and meant.
    const next = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    const isOutline = next && rays.t < behind && scene.instanceObject[rays.instance] === object && !this.isTurned(scene.instanceFlags[rays.instance]); // prettier-ignore
    return isOutline ? -1 : object;
  }

  /** What the middle of a pixel meets first, and how far normals against its face put its shading off, degrees; null: nothing. */
  normalErrorAt(x: number, y: number): { object: number; degrees: number } | null {
    const { scene, settings, rays, ray, clip } = this;
    const length = middleRay(scene.camera, settings, x, y, clip.near, ray);
    rays.slice = scene.slices >> 1;
    const far = Math.min((clip.far - clip.near) * length, settings.rayDistance);
    if (!rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, CAMERA_RAY)) return null;
    if (this.isTurned(scene.instanceFlags[rays.instance])) return null;
    return { object: scene.instanceObject[rays.instance], degrees: normalError(scene, rays, ray) };
  }

  /** The camera's own planes. */
  get clip(): Clip {
    const { camera } = this.scene;
    return { near: camera[CAMERA_NEAR], far: camera[CAMERA_FAR] };
  }

  /** Where the frame shows a point, full-frame pixels; null behind the camera. */
  pixelOf(point: Triple): [number, number] | null {
    return viewOf(this.scene, this.settings).pixelOf(point);
  }

  /** Whether the eye passes the present hit: glass, a side that is not there, or what is more hole than surface. */
  private isPassed(passesGlass: boolean): boolean {
    const { scene, rays, shading, ray } = this;
    const flags = scene.instanceFlags[rays.instance];
    return (passesGlass && shading.isGlass(rays.instance)) || this.isTurned(flags) || this.thereAt(flags, ray) < 0.5;
  }

  protected isTurned(flags: number): boolean {
    if ((flags & (IS_FRONT_ONLY | IS_BACK_ONLY)) === 0) return false;
    const { ray } = this;
    return this.shading.entering(ray[3], ray[4], ray[5]) === ((flags & IS_BACK_ONLY) !== 0);
  }

  /** Share of the present hit that is there, by its alpha. */
  protected thereAt(flags: number, ray: Float64Array): number {
    if ((flags & HAS_ALPHA) === 0) return 1;
    const { instance, triangle, u, v, t } = this.rays;
    const [x, y, z] = [0, 1, 2].map((a) => ray[a] + t * ray[3 + a]);
    return this.shading.alpha(instance, triangle, u, v, x, y, z);
  }

  /**
   * Whether a ray meets a surface that throws shadows, whatever lights have set: what shadow rays see, but for glass that
   * lets them through, sides that are not there and parts that are cut out. Fills `casterMetres` and `casterObject`.
   * @param ray origin and unit direction, at the middle of the shutter
   */
  meetsCaster(ray: Float64Array, near: number, far: number): boolean {
    const { scene, rays } = this;
    rays.slice = scene.slices >> 1;
    const [dx, dy, dz] = [ray[3], ray[4], ray[5]];
    this.ray.set(ray);
    for (let a = 0; a < 3; a++) this.ray[a] = ray[a] + near * ray[3 + a];
    let hit = rays.closest(this.ray[0], this.ray[1], this.ray[2], dx, dy, dz, far - near, ANY_SHADOW_RAY);
    for (; hit; hit = rays.closestAfter(rays.t, rays.instance, rays.triangle)) {
      const flags = scene.instanceFlags[rays.instance];
      if ((flags & (IS_SHADOW_ONLY | IS_SEE_THROUGH)) !== 0 || this.isTurned(flags)) continue;
      if (this.thereAt(flags, this.ray) < 0.5) continue;
      this.casterMetres = near + rays.t;
      this.casterObject = scene.instanceObject[rays.instance];
      return true;
    }
    return false;
  }
}
